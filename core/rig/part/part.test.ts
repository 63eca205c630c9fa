import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { anyMappedRig } from '../../testing/rigs'
import { compareRigs } from '../compare'
import { emptyRig, parseRig, writeRig } from '../parse'
import type { Rig } from '../types'
import { cutPart, parsePart, readPart, takeIn, writePart, type Part, type PartRef } from '.'
import { cases } from '../../testing/cases'

const performed = nineRingsRig('as-performed')
const refsOf = ({ controllers, destinations }: Rig): PartRef[] => [
  ...controllers.map(({ id }): PartRef => ({ kind: 'controller', id })),
  ...destinations.map(({ id }): PartRef => ({ kind: 'destination', id })),
  { kind: 'light-roles' },
  { kind: 'house-rules' },
]
const partsOf = (rig: Rig): Part[] => refsOf(rig).flatMap((ref) => cutPart(rig, ref) ?? [])
const valid = (rig: Rig) => expect(parseRig(structuredClone(rig))).toMatchObject({ ok: true })

const REHEARSED = { at: '2026-11-29T20:00:00.000Z', proven: {}, faults: 0, findings: [] }

describe('a part', () => {
  it('is written and read back the same, and is a valid rig by itself', () => {
    const parts = partsOf(performed)
    expect(parts.length).toBe(performed.controllers.length + performed.destinations.length + 2)
    for (const part of parts) {
      valid(part.rig)
      expect(readPart(writePart(part))).toEqual({ ok: true, part })
    }
    fc.assert(
      fc.property(anyMappedRig, (rig) => {
        for (const part of partsOf(rig)) expect(readPart(writePart(part))).toEqual({ ok: true, part })
      }),
      cases(40),
    )
  })

  it('is the same once it was taken into an empty rig and cut out again', () => {
    for (const ref of refsOf(performed)) {
      const part = cutPart(performed, ref)
      if (!part) continue
      const { rig, renamed, shared } = takeIn(emptyRig('New'), part)
      valid(rig)
      expect([renamed, shared]).toEqual([[], []])
      const again = cutPart(rig, ref)
      expect({ ...again?.rig, name: '' }).toEqual({ ...part.rig, name: '' })
    }
  })

  it('changes nothing that is there, and joins nothing, even where all is there already', () => {
    const into = (rig: Rig): void => {
      for (const part of partsOf(rig)) {
        const { rig: next } = takeIn(rig, part)
        valid(next)
        expect(compareRigs(rig, next).filter(({ kind }) => kind !== 'new')).toEqual([])
        expect(next.mappings).toEqual(rig.mappings)
        expect(next.cables).toEqual(rig.cables)
        const names = (of: Rig): string[] => [...of.controllers, ...of.destinations].map(({ name }) => name)
        const added = names(next).slice(0)
        for (const name of names(rig)) added.splice(added.indexOf(name), 1)
        for (const name of added) expect(names(rig)).not.toContain(name)
      }
    }
    into(performed)
    fc.assert(fc.property(anyMappedRig, into), cases(10))
  })

  it('gets a name and letter of its own, and uses a surface and roles that are there just so', () => {
    const part = cutPart(performed, { kind: 'controller', id: 'pelluna' })
    if (!part) throw new Error('not there')
    const { rig, renamed, shared } = takeIn(performed, part)
    expect(renamed).toEqual([{ what: 'controller', from: 'Pelluna 36', to: 'Pelluna 36 2' }])
    expect(shared).toContain('surface of Pelluna 36')
    expect(rig.models).toEqual(performed.models)
    expect(rig.lightRoles).toEqual(performed.lightRoles)
    const added = rig.controllers.at(-1)
    expect(performed.controllers.map(({ letter }) => letter)).not.toContain(added?.letter)
  })

  it('speaks of itself alone, also where the rig has another of its kind', () => {
    for (const { id } of performed.controllers) {
      const part = cutPart(performed, { kind: 'controller', id })
      if (!part) throw new Error('not there')
      const { rig } = takeIn(performed, part)
      const own = rig.controllers.at(-1)?.id ?? ''
      expect(own).not.toBe(id)
      const choices = rig.choices.slice(performed.choices.length)
      expect(choices).toHaveLength(part.rig.choices.length)
      for (const { by, targets } of choices) {
        expect(by.kind === 'gesture' ? by.gesture.split('/')[0] : by.controller).toBe(own)
        for (const target of targets) expect(target.controller).toBe(own)
      }
      for (const { gestures } of rig.accords.slice(performed.accords.length))
        for (const gesture of gestures) expect(gesture.split('/')[0]).toBe(own)
    }
    expect(
      performed.controllers.some(
        ({ id }) => cutPart(performed, { kind: 'controller', id })?.rig.choices.length,
      ),
    ).toBe(true)
  })

  it('brings a role that is called like another as one of its own', () => {
    const part = cutPart(performed, { kind: 'light-roles' })
    const [first] = performed.lightRoles
    if (!part || !first) throw new Error('no roles')
    const other = { ...performed, lightRoles: [{ ...first, states: first.states.slice(0, 1) }] }
    const { rig, renamed } = takeIn(other, part)
    expect(renamed).toEqual([{ what: 'light role', from: first.name, to: `${first.name} 2` }])
    expect(rig.lightRoles[0]).toEqual(other.lightRoles[0])
  })

  it('is refused whole where it is something else, with the place', () => {
    const part = cutPart(performed, { kind: 'controller', id: 'syzra' })
    if (!part) throw new Error('not there')
    const written = JSON.parse(writePart(part)) as Record<string, unknown>
    const refusals: Array<[unknown, string]> = [
      [performed, 'format'],
      [null, 'format'],
      [[], 'format'],
      [{ ...written, version: 2 }, 'version'],
      [{ ...written, kind: 'pedal' }, 'kind'],
      [{ ...written, kind: 'destination' }, 'rig.models'],
      [{ ...written, more: 1 }, 'more'],
      [{ ...written, rig: { ...(written.rig as object), version: 99 } }, 'rig.version'],
      [{ ...written, rig: JSON.parse(writeRig(performed)) as unknown }, 'rig.destinations'],
      [{ ...written, rig: { ...(written.rig as object), controllers: [] } }, 'rig.'],
      [{ ...written, rig: { ...(written.rig as object), rehearsed: REHEARSED } }, 'rig.rehearsed'],
    ]
    for (const [value, path] of refusals) {
      const result = parsePart(value)
      expect(result.ok ? 'read' : result.problems[0]?.path).toMatch(
        new RegExp(`^${path.replaceAll('.', '\\.')}`),
      )
    }
    const text = writePart(part)
    for (const cut of [0, 1, 40, text.length >> 1, text.length - 3])
      expect(readPart(text.slice(0, cut))).toMatchObject({ ok: false })
  })
})
