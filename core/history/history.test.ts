import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, type Rig, type RigEdit, type Step } from '../rig'
import { compareRigs, whereKey } from '../rig/compare'
import { anyEdit } from '../testing/edits'
import { anyMappedRig, sending, testController, testRig, type MessageInput } from '../testing/rigs'
import {
  cellChanges,
  changedFindings,
  changeReport,
  isSpokenOf,
  rigAfter,
  stepWords,
  type ChangeLine,
  type ChangeReport,
} from '.'
import { cases } from '../testing/cases'

const found = nineRingsRig('as-found')
const performed = nineRingsRig('as-performed')
const lines = ({ groups }: ChangeReport): ChangeLine[] =>
  groups.flatMap(({ sections }) => sections.flatMap((each) => each.lines))
const after = (rig: Rig, ...edits: RigEdit[]): Rig => perform(rig, 'x', edits).rig
const edited = (rig: Rig, edits: readonly RigEdit[]): Rig =>
  edits.reduce((now, edit) => {
    try {
      return after(now, edit)
    } catch {
      return now
    }
  }, rig)

const anyTwo = fc
  .record({ rig: anyMappedRig, edits: fc.array(anyEdit, { maxLength: 10 }) })
  .map(({ rig, edits }) => [rig, edited(rig, edits)] as const)

describe('what changed', () => {
  it('says every difference once, and nothing else', () => {
    const said = (a: Rig, b: Rig): void => {
      const report = changeReport(a, b)
      const keys = lines(report).map(({ key }) => key)
      const places = compareRigs(a, b).map(({ where }) => whereKey(where))
      expect(keys.toSorted()).toEqual(places.toSorted())
      expect(report.count).toBe(keys.length)
      expect(report.groups.reduce((sum, { count }) => sum + count, 0)).toBe(keys.length)
    }
    fc.assert(fc.property(anyTwo, ([a, b]) => said(a, b)))
    said(found, performed)
    said(performed, found)
  })

  it('names everything in words: never an id, never nothing', () => {
    for (const [a, b] of [
      [found, performed],
      [performed, found],
    ] as const) {
      for (const { name, was, is } of lines(changeReport(a, b))) {
        expect(name).not.toBe('')
        expect(`${name} ${was ?? ''} ${is ?? ''}`).not.toMatch(
          /undefined|null|\[object|knob-\d|m-\d|[a-z]+\/[a-z]+-\d/,
        )
      }
    }
  })

  it('finds words for whatever was taken away, and for the way back', () => {
    const removals: RigEdit[] = performed.controllers.flatMap((controller): RigEdit[] => [
      { type: 'controller-remove', controller: controller.id },
      ...controller.templates.flatMap((template) =>
        template.stacks.flatMap((stack): RigEdit[] => [
          { type: 'stack-remove', controller: controller.id, template: template.id, stack: stack.id },
          ...stack.layers.map(({ id }): RigEdit => ({
            type: 'layer-remove',
            controller: controller.id,
            template: template.id,
            layer: id,
          })),
        ]),
      ),
      ...(performed.models.find(({ id }) => id === controller.model)?.surface.controls ?? []).map(
        ({ id }): RigEdit => ({ type: 'controls-remove', model: controller.model, controls: [id] }),
      ),
    ])
    const all: RigEdit[] = [
      ...removals,
      ...performed.destinations.map(({ id }): RigEdit => ({ type: 'destination-remove', destination: id })),
      ...performed.cables.map(({ id }): RigEdit => ({ type: 'cable-remove', cable: id })),
      ...performed.passages.map(({ id }): RigEdit => ({ type: 'passage-remove', passage: id })),
      ...performed.lightRoles.map(({ id }): RigEdit => ({ type: 'light-role-remove', role: id })),
    ]
    let count = 0
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...all), { minLength: 1, maxLength: 4 }), (edits) => {
        const next = edited(performed, edits)
        for (const [a, b] of [
          [performed, next],
          [next, performed],
        ] as const) {
          const own = lines(changeReport(a, b))
          count += own.length
          for (const { name } of own) expect(name).toMatch(/\S/)
          expect(own.map(({ name }) => name).join(' ')).not.toMatch(/undefined|\[object/)
        }
      }),
      cases(10),
    )
    expect(count).toBeGreaterThan(200)
  })

  it('tells when a control left its address, where, and for which one', () => {
    const at = { controller: 'syzra', template: 'nine-rings', layer: 'overture', gesture: 'knob-5.turn' }
    const syzra = performed.controllers.find(({ id }) => id === 'syzra')
    const layer = syzra?.templates[0]?.stacks
      .flatMap(({ layers }) => layers)
      .find(({ id }) => id === at.layer)
    const message = layer?.assignments[at.gesture]?.messages[0]
    if (message?.kind !== 'cc') throw new Error('Drift sends no CC')
    const next = after(performed, { type: 'message', at, index: 0, message: { ...message, number: 49 } })
    const report = changeReport(performed, next)
    expect(report.groups.map(({ name, sections }) => [name, sections.map((each) => each.name)])).toEqual([
      ['Syzra 24', ['Overture']],
    ])
    expect(lines(report)).toMatchObject([
      { kind: 'moved', name: 'Drift', was: '1:cc114', is: '1:cc49', gesture: 'syzra/knob-5.turn' },
    ])
    expect(report.teach).toEqual(['Siltglass · Grains · Drift'])
    expect(changedFindings(performed, next).came.map(({ severity }) => severity)).toContain('error')
  })

  it('says what findings came and went, and the other way round for the other way', () => {
    const there = changedFindings(found, performed)
    const back = changedFindings(performed, found)
    expect(there.went.length).toBeGreaterThan(20)
    expect(there.came).toEqual([])
    expect(back.came.map(({ id }) => id)).toEqual(there.went.map(({ id }) => id))
    expect(changeReport(found, found)).toEqual({ groups: [], count: 0, teach: [] })
    expect(changedFindings(found, found)).toEqual({ came: [], went: [] })
  })

  it('names what is gone by what it was, and what holds it by its name', () => {
    const { id } = performed.destinations.find(({ name }) => name === 'Ferric Mile') ?? { id: '' }
    const report = changeReport(performed, after(performed, { type: 'destination-remove', destination: id }))
    const group = report.groups.find(({ name }) => name === 'Ferric Mile')
    expect(group).toMatchObject({ kind: 'destination', id })
    expect(group?.sections[0]?.lines).toMatchObject([{ kind: 'gone', name: 'The whole destination' }])
    expect(group?.sections.find(({ name }) => name === 'Mappings')?.lines.map(({ name }) => name)).toContain(
      'Fdbk → Ferric Mile · Tape · Feedback',
    )
  })

  it('tells a control that was laid elsewhere from one that was changed', () => {
    const model = performed.controllers.find(({ id }) => id === 'syzra')?.model ?? ''
    const control = performed.models.find(({ id }) => id === model)?.surface.controls[0]
    if (!control) throw new Error('no control')
    const set = (change: object): Rig =>
      after(performed, { type: 'controls-set', model, controls: [{ id: control.id, set: change }] })
    const moved = set({ place: { ...control.place, x: control.place.x + 1 } })
    expect(lines(changeReport(performed, moved)).map(({ kind }) => kind)).toEqual(['moved'])
    const [line] = lines(changeReport(performed, set({ label: 'Other' })))
    expect(line).toMatchObject({ kind: 'changed', is: 'label “Other”' })
  })
})

describe('the edits one by one', () => {
  const at = { controller: 'syzra', template: 'nine-rings', layer: 'overture', gesture: 'knob-5.turn' }
  const steps = [114, 49, 52].map((number, index, all) => [all[index - 1] ?? number, number] as const)
  const made = steps.slice(1).reduce(
    ({ rig, past }, [, number]) => {
      const controller = rig.controllers.find(({ id }) => id === at.controller)
      const layers = controller?.templates[0]?.stacks.flatMap((stack) => stack.layers)
      const message = layers?.find(({ id }) => id === at.layer)?.assignments[at.gesture]?.messages[0]
      if (message?.kind !== 'cc') throw new Error('Drift sends no CC')
      const next = perform(rig, 'Set number', [
        { type: 'message', at, index: 0, message: { ...message, number } },
      ])
      return { rig: next.rig, past: [...past, next.step] }
    },
    { rig: performed, past: [] as Step[] },
  )

  it('say what they did, so that one finds when a control left an address', () => {
    const words = [...stepWords(made.rig, made.past)]
    expect(words.map(({ index, lines: own }) => [index, own.map(({ text }) => text)])).toEqual([
      [1, ['Syzra 24, Overture, Drift: 1:cc49 → 1:cc52']],
      [0, ['Syzra 24, Overture, Drift: 1:cc114 → 1:cc49']],
    ])
    const found = words.filter((each) => isSpokenOf('Set number', each, 'drift cc114'))
    expect(found.map(({ index }) => index)).toEqual([0])
  })

  it('lead back to the rig at any of them', () => {
    expect(rigAfter(made.rig, made.past, 2)).toBe(made.rig)
    expect(rigAfter(made.rig, made.past, 0)).toEqual(performed)
    const report = changeReport(performed, rigAfter(made.rig, made.past, 1))
    expect(lines(report).map(({ is }) => is)).toEqual(['1:cc49'])
  })
})

describe('the numbers of two rigs', () => {
  it('are gone one way where they are new the other', () => {
    const turned = { gone: 'new', new: 'gone', changed: 'changed', same: 'same' } as const
    const back = cellChanges(performed, found).map((each) => ({ ...each, state: turned[each.state] }))
    expect(cellChanges(found, performed)).toEqual(back)
    expect(cellChanges(found, found).every(({ state }) => state === 'same')).toBe(true)
  })

  it('say which was given up and which was taken', () => {
    const changed = cellChanges(found, performed).filter(({ state }) => state !== 'same')
    const stateAt = (channel: number, number: number): string | undefined =>
      changed.find((each) => each.kind === 'cc' && each.channel === channel && each.number === number)?.state
    expect(stateAt(11, 115)).toBe('gone')
    // Another control goes on sending there.
    expect(stateAt(1, 49)).toBe('changed')
    expect(stateAt(1, 114)).toBe('new')
  })

  it('speak of every kind of message, not of numbers alone', () => {
    const own = (message: MessageInput): Rig =>
      testRig([testController('a', { 'k1.turn': sending(message) })])
    const nothing = testRig([testController('a', {})])
    const tagsOf = (message: MessageInput): string[] =>
      cellChanges(nothing, own(message)).map(({ tag, state }) => `${tag} ${state}`)
    expect(tagsOf({ kind: 'pitchBend', channel: 3 })).toEqual(['3:bend new'])
    expect(tagsOf({ kind: 'channelPressure', channel: 4 })).toEqual(['4:pressure new'])
    expect(tagsOf({ kind: 'nrpn', channel: 5, number: 1000 })).toContain('5:nrpn1000 new')
    expect(tagsOf({ kind: 'program', channel: 6, number: 12 })).toContain('6:pc12 new')
  })
})
