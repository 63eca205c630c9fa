import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { anyEdit } from '../../testing/edits'
import { anyRig } from '../../testing/rigs'
import { parseRig } from '../parse'
import { perform, undone } from '../edits'
import type { Rig } from '../types'
import { bringBackOf, compareRigs, isSame, withDifferences, type Where } from '.'
import { cases } from '../../testing/cases'

const found = nineRingsRig('as-found')
const performed = nineRingsRig('as-performed')

/** A rig after edits, those that are refused left out. */
const edited = (rig: Rig, edits: readonly Parameters<typeof perform>[2][number][]): Rig =>
  edits.reduce((now, edit) => {
    try {
      return perform(now, 'x', [edit]).rig
    } catch {
      return now
    }
  }, rig)

/** What lies at a place of a rig, looked up without the code that is tested. */
const valueAt = (rig: Rig, where: Where): unknown =>
  where.reduce<unknown>(
    (value, step) =>
      Array.isArray(value)
        ? (value as Array<{ id: string }>).find(({ id }) => id === step)
        : (value as Record<string, unknown> | undefined)?.[step],
    rig,
  )

/** Two rigs that come from one. */
const anyTwo = fc
  .record({
    rig: anyRig,
    left: fc.array(anyEdit, { maxLength: 12 }),
    right: fc.array(anyEdit, { maxLength: 12 }),
  })
  .map(({ rig, left, right }) => [edited(rig, left), edited(rig, right)] as const)

/** A rig with lists in another order, and things left out with all that names them left in. */
const shuffled = fc.gen().map((gen) => {
  const pick = <T>(items: readonly T[]): T[] => {
    const kept = items.filter(() => gen(fc.boolean))
    return kept.toSorted(() => (gen(fc.boolean) ? 1 : -1))
  }
  return {
    ...performed,
    cables: pick(performed.cables),
    mappings: pick(performed.mappings),
    accords: pick(performed.accords),
    passages: pick(performed.passages),
  }
})

describe('comparing two rigs', () => {
  it('finds nothing between a rig and its copy, and something between any others', () => {
    expect(compareRigs(performed, structuredClone(performed))).toEqual([])
    fc.assert(
      fc.property(anyTwo, ([a, b]) => {
        expect(compareRigs(a, b).length === 0).toBe(isSame(a, b))
      }),
    )
  })

  it('gives what makes the second of the first', () => {
    fc.assert(
      fc.property(anyTwo, ([a, b]) => {
        expect(withDifferences(a, 'x', compareRigs(a, b)).rig).toEqual(b)
      }),
    )
    for (const [a, b] of [
      [found, performed],
      [performed, found],
    ] as const)
      expect(withDifferences(a, 'x', compareRigs(a, b)).rig).toEqual(b)
  })

  it('keeps the order of lists, whatever is left out', () => {
    fc.assert(
      fc.property(shuffled, shuffled, (a, b) => {
        expect(withDifferences(a, 'x', compareRigs(a, b)).rig).toEqual(b)
      }),
    )
  })

  it('looks into templates, and takes a mapping whole', () => {
    const at = {
      controller: 'syzra',
      template: performed.controllers[0]?.templates[0]?.id ?? '',
      layer: null,
    }
    const gesture = Object.keys(performed.controllers[0]?.templates[0]?.base ?? {})[0] ?? ''
    const next = perform(performed, 'x', [
      { type: 'assignment', at: { ...at, gesture }, assignment: null },
    ]).rig
    expect(compareRigs(performed, next)).toMatchObject([
      { kind: 'gone', where: ['controllers', 'syzra', 'templates', at.template, 'base', gesture] },
    ])
  })

  it('is one step that can be undone', () => {
    const { rig, step } = withDifferences(found, 'Bring back', compareRigs(found, performed))
    expect(undone(rig, step)).toEqual(found)
  })
})

describe('bringing something back', () => {
  it('leaves a valid rig whatever it is, and what was wanted is as it was', () => {
    const run = (now: Rig, then: Rig, pick: number): void => {
      const all = compareRigs(now, then)
      const wanted = all[pick % Math.max(1, all.length)]
      if (!wanted || wanted.kind === 'order') return
      const { differences, also } = bringBackOf(now, then, [wanted.where])
      const { rig } = withDifferences(now, 'x', differences)
      expect(parseRig(structuredClone(rig))).toMatchObject({ ok: true })
      expect(valueAt(rig, wanted.where)).toEqual(valueAt(then, wanted.where))
      expect(also.every((each) => differences.includes(each))).toBe(true)
    }
    fc.assert(
      fc.property(anyTwo, fc.nat(), ([a, b], pick) => run(a, b, pick)),
      cases(22),
    )
    fc.assert(
      fc.property(fc.boolean(), fc.nat(), (isBack, pick) =>
        run(isBack ? performed : found, isBack ? found : performed, pick),
      ),
      cases(4),
    )
  })

  it('takes no more along than it needs', () => {
    const { id, destination } = performed.mappings[0] ?? { id: '', destination: '' }
    const gone = perform(performed, 'x', [{ type: 'destination-remove', destination }]).rig
    const { differences, also } = bringBackOf(gone, performed, [['mappings', id]])
    expect(also.map(({ where }) => where)).toContainEqual(['destinations', destination])
    const { rig } = withDifferences(gone, 'x', differences)
    expect(rig.mappings.map((each) => each.id)).toContain(id)
    const others = performed.mappings.filter((each) => each.destination === destination && each.id !== id)
    expect(others.length).toBeGreaterThan(0)
    for (const other of others) expect(rig.mappings.map((each) => each.id)).not.toContain(other.id)
  })

  it('brings back a control with what it sent, and nothing of its neighbours', () => {
    const [model] = performed.models.filter(({ id }) => id === performed.controllers[0]?.model)
    const control = model?.surface.controls.find(({ gestures }) => gestures.includes('turn'))
    if (!model || !control) throw new Error('no knob')
    const gone = perform(performed, 'x', [
      { type: 'controls-remove', model: model.id, controls: [control.id] },
    ]).rig
    const lost = compareRigs(gone, performed)
    const sent = lost.find(({ where }) => where.at(-1) === `${control.id}.turn`)
    if (!sent) throw new Error('it sent nothing')
    const { also } = bringBackOf(gone, performed, [sent.where])
    expect(also.map(({ where }) => where.at(-1))).toContain(control.id)
  })

  it('leaves the order of what holds it as it is', () => {
    const now = {
      ...performed,
      mappings: performed.mappings.toReversed(),
      controllers: performed.controllers.toReversed(),
    }
    const renamed = perform(now, 'x', [
      { type: 'controller-set', controller: 'syzra', set: { name: 'Other' } },
    ]).rig
    const { differences } = bringBackOf(renamed, performed, [['controllers', 'syzra']])
    expect(differences.map(({ kind, where }) => [kind, ...where])).toEqual([
      ['changed', 'controllers', 'syzra', 'name'],
    ])
  })

  it('refuses what would lead nowhere, and changes nothing', () => {
    const before = structuredClone(found)
    const fewer = { ...found, mappings: found.mappings.slice(1) }
    const [orphan] = compareRigs(fewer, found)
    if (orphan?.kind !== 'new') throw new Error('no mapping is new')
    const lonely = { ...orphan, after: { ...(orphan.after as object), destination: 'nowhere' } }
    expect(() => withDifferences(fewer, 'x', [lonely])).toThrow('This cannot stand by itself: mappings')
    expect(found).toEqual(before)
  })
})
