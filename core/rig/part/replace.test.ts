import * as fc from 'fast-check'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { anyMappedRig, sendingCc, testController, testRig } from '../../testing/rigs'
import { compareRigs } from '../compare'
import { parseRig } from '../parse'
import { assignmentsOf, splitGestureRef } from '../places'
import type { Id, Rig } from '../types'
import { cutPart, takeInPlaceOf, type Part, type PartRef } from '.'
import { cases } from '../../testing/cases'

const performed = nineRingsRig('as-performed')
const valid = (rig: Rig) => expect(parseRig(structuredClone(rig))).toMatchObject({ ok: true })
const cut = (rig: Rig, ref: PartRef): Part => {
  const part = cutPart(rig, ref)
  if (!part) throw new Error('There is no such part.')
  return part
}
const controllerOf = (rig: Rig, id: Id): Part => cut(rig, { kind: 'controller', id })
const destinationOf = (rig: Rig, id: Id): Part => cut(rig, { kind: 'destination', id })

describe('a part in place of what is there', () => {
  it('changes nothing where it is what is there', () => {
    const same = (rig: Rig): void => {
      for (const { id, lineCheck } of rig.controllers) {
        if (lineCheck !== null) continue
        const next = takeInPlaceOf(rig, controllerOf(rig, id), id)
        expect(compareRigs(rig, next.rig).filter(({ kind }) => kind !== 'order')).toEqual([])
        expect(next.renamed).toEqual([])
      }
      for (const { id } of rig.destinations) {
        const next = takeInPlaceOf(rig, destinationOf(rig, id), id)
        expect(compareRigs(rig, next.rig)).toEqual([])
      }
      for (const kind of ['light-roles', 'house-rules'] as const) {
        const part = cutPart(rig, { kind })
        const left = part && compareRigs(rig, takeInPlaceOf(rig, part, null).rig)
        expect(left?.filter((each) => each.kind !== 'order') ?? []).toEqual([])
      }
    }
    same(performed)
    fc.assert(fc.property(anyMappedRig, same), cases(40))
  })

  it('leaves a valid rig in place of any other, touches no other, and comes whole', () => {
    const swap = (rig: Rig, other: Rig): void => {
      for (const { id: from } of other.controllers) {
        for (const { id: to } of rig.controllers) {
          const { rig: next } = takeInPlaceOf(rig, controllerOf(other, from), to)
          valid(next)
          const others = (of: Rig) => of.controllers.filter(({ id }) => id !== to)
          expect(others(next)).toEqual(others(rig))
          const [came, was] = [
            next.controllers.find(({ id }) => id === to),
            rig.controllers.find(({ id }) => id === to),
          ]
          expect(came?.letter).toBe(was?.letter)
          const templatesOf = (part: Part) => part.rig.controllers[0]?.templates
          expect(templatesOf(controllerOf(next, to))?.map(({ name }) => name)).toEqual(
            templatesOf(controllerOf(other, from))?.map(({ name }) => name),
          )
          // What was learned is never forgotten in silence.
          const learned = (of: Rig) => of.mappings.filter(({ learnedAt }) => learnedAt !== null).length
          expect(learned(next)).toBe(learned(rig))
        }
      }
      for (const { id: from } of other.destinations) {
        for (const { id: to } of rig.destinations) {
          const { rig: next } = takeInPlaceOf(rig, destinationOf(other, from), to)
          valid(next)
          expect(next.mappings.filter(({ destination }) => destination !== to)).toEqual(
            rig.mappings.filter(({ destination }) => destination !== to),
          )
          const names = (of: Rig, id: Id) =>
            of.destinations.find((each) => each.id === id)?.parameters.map(({ name }) => name)
          expect(names(next, to)).toEqual(names(other, from))
        }
      }
    }
    swap(performed, performed)
    fc.assert(fc.property(anyMappedRig, anyMappedRig, swap), cases(4))
  })

  it('keeps cables, and mappings of controls that both have', () => {
    const syzra = controllerOf(performed, 'syzra')
    const [own] = syzra.rig.controllers
    const [model] = syzra.rig.models
    if (!own || !model) throw new Error('no controller')
    const fewer = {
      ...model,
      surface: {
        ...model.surface,
        controls: model.surface.controls.filter(({ id }) => id !== 'enc-1'),
      },
    }
    const without = <T>(table: Record<string, T>): Record<string, T> =>
      Object.fromEntries(Object.entries(table).filter(([key]) => !key.startsWith('enc-1.')))
    const part: Part = {
      ...syzra,
      rig: {
        ...syzra.rig,
        models: [fewer],
        // Another player's rig calls it and its port otherwise.
        controllers: [
          {
            ...own,
            id: 'theirs',
            ports: own.ports.map((port) => ({ ...port, id: `their-${port.id}` })),
            templates: own.templates.map((template) => ({
              ...template,
              base: without(template.base),
              stacks: template.stacks.map((stack) => ({
                ...stack,
                gestures: stack.gestures.filter((key) => !key.startsWith('enc-1.')),
                layers: stack.layers.map((layer) => ({ ...layer, assignments: without(layer.assignments) })),
              })),
            })),
          },
        ],
        choices: [],
        accords: [],
        houseRules: [],
      },
    }
    valid(part.rig)
    const { rig } = takeInPlaceOf(performed, part, 'syzra')
    valid(rig)
    expect(rig.cables).toEqual(performed.cables)
    const of = (gesture: string | null) =>
      gesture === null ? null : splitGestureRef(gesture).gesture.split('.')[0]
    const before = performed.mappings.filter(({ gesture }) => gesture?.startsWith('syzra/'))
    const stay = before.filter(({ gesture }) => of(gesture) !== 'enc-1')
    expect(stay.length).toBeGreaterThan(20)
    expect(stay.length).toBeLessThan(before.length)
    expect(rig.mappings.filter(({ gesture }) => gesture?.startsWith('syzra/'))).toEqual(stay)
    // Its surface was its own; now nobody has the old one.
    expect(rig.models).toHaveLength(performed.models.length)
  })

  it('gives ports ids of their own, whichever way they lead', () => {
    const way = (id: string, name: string, direction: 'in' | 'out') => ({ id, name, direction })
    const withPorts = (ports: ReturnType<typeof way>[]): Rig =>
      testRig([testController('a', { 'k1.turn': sendingCc(20) }, { ports })])
    const old = withPorts([way('x-1', 'Lights', 'in'), way('out', 'Main', 'out')])
    const other = withPorts([
      way('l', 'Lights', 'in'),
      way('m', 'More', 'in'),
      way('x', 'Aux', 'out'),
      way('out', 'Main', 'out'),
    ])
    const { rig } = takeInPlaceOf(old, controllerOf(other, 'a'), 'a')
    valid(rig)
    const ports = rig.controllers[0]?.ports ?? []
    expect(ports.map(({ name }) => name)).toEqual(['Lights', 'More', 'Aux', 'Main'])
    expect(ports.find(({ name }) => name === 'Lights')?.id).toBe('x-1')
    expect(ports.find(({ name }) => name === 'Main')?.id).toBe('out')
  })

  it('lets go of a control that is of another kind now', () => {
    const syzra = controllerOf(performed, 'syzra')
    const part: Part = {
      ...syzra,
      rig: {
        ...syzra.rig,
        models: syzra.rig.models.map((model) => ({
          ...model,
          surface: {
            ...model.surface,
            controls: model.surface.controls.map((control) =>
              control.id === 'fader-1' ? { ...control, kind: 'wheel' } : control,
            ),
          },
        })),
      },
    }
    const { rig } = takeInPlaceOf(performed, part, 'syzra')
    const isFader = ({ gesture }: { gesture: string | null }): boolean =>
      gesture?.startsWith('syzra/fader-1.') === true
    expect(performed.mappings.filter(isFader).length).toBeGreaterThan(0)
    expect(rig.mappings.filter(isFader)).toEqual([])
  })

  it('knows parameters by their names, whatever their ids', () => {
    const { destinations } = performed
    const old = destinations.find(({ id }) => id === 'loomwright')
    const part = destinationOf(performed, 'loomwright')
    const [own] = part.rig.destinations
    if (!old || !own) throw new Error('no destination')
    const [first, ...rest] = own.parameters
    // Another rig numbers them by itself: the same ids are other parameters there.
    const ids = own.parameters.map(({ id }) => id)
    const turned = [...rest, first].flatMap((each, index) =>
      each ? [{ ...each, id: ids[index] ?? '' }] : [],
    )
    const byName = new Map(turned.map(({ id, name }) => [name, id]))
    const wasId = new Map(own.parameters.map(({ id, name }) => [id, name]))
    const other: Part = {
      ...part,
      rig: {
        ...part.rig,
        destinations: [
          {
            ...own,
            parameters: turned,
            claims: own.claims.map((claim) => ({
              ...claim,
              serves: claim.serves.map((id) => byName.get(wasId.get(id) ?? '') ?? id),
            })),
          },
        ],
      },
    }
    valid(other.rig)
    const { rig } = takeInPlaceOf(performed, other, 'loomwright')
    expect(rig.mappings).toEqual(performed.mappings)
    const nameOf = (of: Rig, id: Id) =>
      of.destinations.find((each) => each.id === 'loomwright')?.parameters.find((each) => each.id === id)
        ?.name
    for (const { destination, parameter } of rig.mappings)
      if (destination === 'loomwright') expect(nameOf(rig, parameter)).toBe(nameOf(performed, parameter))
    expect(rig.destinations.find(({ id }) => id === 'loomwright')?.claims).toEqual(old.claims)
  })

  it('replaces roles by name, and keeps a state that a control shows', () => {
    const shown = { role: '', state: '' }
    const steady = produce(performed, (draft) => {
      for (const controller of draft.controllers) {
        for (const { assignment } of assignmentsOf(controller)) {
          const role = draft.lightRoles.find(({ id }) => id === assignment.light?.role)
          const [state] = role?.states ?? []
          if (!assignment.light || !role || !state || shown.role !== '') continue
          assignment.light.setBy = { kind: 'steady', state: state.name }
          Object.assign(shown, { role: role.id, state: state.name })
        }
      }
    })
    const part: Part = {
      kind: 'light-roles',
      rig: {
        ...cut(performed, { kind: 'light-roles' }).rig,
        lightRoles: steady.lightRoles.map((role, index) => ({
          ...role,
          id: `their-${index}`,
          states: [{ name: 'Glow', colour: '#123456', from: null }],
        })),
      },
    }
    valid(part.rig)
    const { rig } = takeInPlaceOf(steady, part, null)
    valid(rig)
    expect(rig.lightRoles.map(({ id, name }) => [id, name])).toEqual(
      performed.lightRoles.map(({ id, name }) => [id, name]),
    )
    expect(rig.lightRoles.every(({ states }) => states[0]?.name === 'Glow')).toBe(true)
    for (const { id, states } of rig.lightRoles)
      expect(states.slice(1).map(({ name }) => name)).toEqual(id === shown.role ? [shown.state] : [])
    expect(shown.role).not.toBe('')
  })

  it('says that what it should replace is gone', () => {
    expect(() => takeInPlaceOf(performed, controllerOf(performed, 'syzra'), 'nobody')).toThrow(
      'no longer in the rig',
    )
  })
})
