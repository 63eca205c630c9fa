import { describe, expect, it } from 'vitest'
import { nineRings, nineRingsRig } from '../../demo'
import { migrate } from './migrations'
import { parseRig, readRig, writeRig } from './parse'
import { perform, redone, undone } from './edits'

/** The demo with one thing changed by `spoil`. */
function spoiled(spoil: (rig: any) => void): unknown {
  const rig = structuredClone(nineRingsRig('as-found'))
  spoil(rig)
  return rig
}

const problemOf = (value: unknown): string => {
  const result = parseRig(value)
  return result.ok ? '' : result.problems.map(({ path, message }) => `${path}: ${message}`).join('\n')
}

describe('reading a rig', () => {
  it.each(['as-found', 'as-performed'] as const)('the demo %s is valid and reads back the same', (state) => {
    const first = parseRig(nineRings(state))
    if (!first.ok) throw new Error(problemOf(nineRings(state)))
    expect(readRig(writeRig(first.rig))).toEqual({ ok: true, rig: first.rig })
  })

  it.each<[string, (rig: any) => void, RegExp]>([
    [
      'a number out of range',
      (rig) => (rig.controllers[0].homeChannel = 17),
      /^controllers\[0\]\.homeChannel: is out of range: 16 at most/,
    ],
    [
      'a CC out of range',
      (rig) => (rig.controllers[0].templates[0].base['enc-1.push'].messages[0].number = 128),
      /base\["enc-1\.push"\]\.messages\[0\]\.number: is out of range: 127 at most/,
    ],
    [
      'a pair that starts at 6',
      (rig) => (rig.controllers[0].templates[0].base['fader-1.slide'].messages[0].number = 6),
      /number: must not be 6/,
    ],
    ['a word where a number belongs', (rig) => (rig.controllers[0].hue = 'teal'), /hue: must be a/],
    [
      'a field that does not belong',
      (rig) => (rig.controllers[0].colour = 'teal'),
      /^controllers\[0\]: has a field that does not belong here: “colour”/,
    ],
    ['a field missing', (rig) => delete rig.controllers[0].name, /^controllers\[0\]\.name: is missing/],
    [
      'a kind nobody knows',
      (rig) => (rig.models[0].surface.controls[0].kind = 'lever'),
      /kind: must be one of/,
    ],
    [
      'a mapping to no parameter',
      (rig) => (rig.mappings[0].parameter = 'gone'),
      /^mappings\[0\]\.parameter: names a parameter that is not there: “gone”/,
    ],
    [
      'a mapping of no gesture',
      (rig) => (rig.mappings[0].gesture = 'syzra/enc-99.turn'),
      /^mappings\[0\]\.gesture: names a gesture/,
    ],
    [
      'an unreadable learned address',
      (rig) => (rig.mappings[0].learnedAt = '1:cc200'),
      /learnedAt: CC 200 is out of range/,
    ],
    [
      'a cable into an out',
      (rig) => (rig.cables[0].to = { owner: 'syzra', port: 'usb' }),
      /^cables\[0\]\.to: must be an in/,
    ],
    [
      'an id used twice',
      (rig) => (rig.controllers[1].id = 'syzra'),
      /controllers\[1\]\.id: “syzra” stands here for the second time/,
    ],
    [
      'a gesture in two replacing stacks',
      (rig) => rig.controllers[0].templates[0].stacks[1].gestures.push('enc-1.turn'),
      /already replaced by the stack “Knobs”/,
    ],
    [
      'a base under a replacing stack',
      (rig) =>
        (rig.controllers[0].templates[0].base['enc-1.turn'] = {
          messages: [{ kind: 'off' }],
          pinned: false,
          light: null,
          memo: '',
        }),
      /cannot stand in the base too/,
    ],
    [
      'a power-up layer that is gone',
      (rig) => (rig.controllers[0].templates[0].stacks[0].powerUp = 'gone'),
      /powerUp: names a layer/,
    ],
    [
      'a plugin inside itself',
      (rig) => (rig.destinations[0].inside = 'siltglass'),
      /cannot run inside itself/,
    ],
    [
      'a range upside down',
      (rig) => (rig.destinations[0].parameters[0].range = { min: 6, max: 6, unit: '' }),
      /range: min must be below max/,
    ],
    [
      'a slot beyond the hardware',
      (rig) => (rig.controllers[0].slots[0].number = 99),
      /Syzra 24 has 6 slots/,
    ],
  ])('refuses %s and says where', (_, spoil, expected) => {
    expect(problemOf(spoiled(spoil))).toMatch(expected)
  })

  it('reads a name as one line that turns nothing beside it, and refuses one of which nothing is seen', () => {
    const read = parseRig(
      spoiled((rig) => {
        rig.controllers[0].name = ' left\nhand \u202e31 '
        rig.models[0].surface.controls[0].label = '\u2066Cut\toff\u2069'
      }),
    )
    expect(read.ok && read.rig.controllers[0]?.name).toBe('left hand 31')
    expect(read.ok && read.rig.models[0]?.surface.controls[0]?.label).toBe('Cut off')
    expect(problemOf(spoiled((rig) => (rig.controllers[0].name = '\u200f\u202e')))).toMatch(
      /name: must not be empty/,
    )
  })
  it('keeps a name that is typed in the same way', () => {
    const rig = nineRingsRig('as-found')
    const id = rig.controllers[0]?.id ?? ''
    const named = perform(rig, 'Rename', [
      { type: 'controller-set', controller: id, set: { name: 'a\u202eb' } },
    ])
    expect(named.rig.controllers[0]?.name).toBe('ab')
  })

  it('refuses what is no rig, or of a newer version', () => {
    expect(problemOf({ hello: 1 })).toMatch(/not a Deft Lattice rig/)
    expect(problemOf([])).toMatch(/not a Deft Lattice rig/)
    expect(problemOf(spoiled((rig) => (rig.version = 99)))).toMatch(
      /^version: This rig was written by a newer Deft Lattice/,
    )
    expect(problemOf(spoiled((rig) => (rig.version = 'one')))).toMatch(/^version: must be a whole number/)
  })

  it('tells where text stops being JSON', () => {
    const result = readRig('{\n  "format": "deft-lattice/rig",\n  "version": 1,,\n}')
    expect(result.ok ? '' : result.problems[0]?.path).toMatch(/line 3/)
    expect(readRig('').ok).toBe(false)
    expect(readRig('{"a":').ok).toBe(false)
  })

  it('refuses brackets nested to death', () => {
    const result = readRig('['.repeat(200_000))
    expect(result.ok ? '' : result.problems[0]?.message).toMatch(/nest deeper/)
  })

  it('brings older versions up step by step, and says when it cannot', () => {
    const steps = {
      1: (old: object) => ({ ...old, two: true }),
      2: (old: object) => ({ ...old, three: true }),
    }
    expect(migrate({ version: 1 }, 3, steps)).toEqual({ version: 3, two: true, three: true })
    expect(() => migrate({ version: 0 }, 3, steps)).toThrow(/No way is known from version 0/)
  })
})

describe('steps', () => {
  it('undo to the rig before and redo to the rig after', () => {
    const rig = nineRingsRig('as-found')
    const { rig: after, step } = perform(rig, 'Rename', [{ type: 'rig-set', set: { name: 'Other' } }])
    expect(after.name).toBe('Other')
    expect(undone(after, step)).toEqual(rig)
    expect(redone(rig, step)).toEqual(after)
  })
})
