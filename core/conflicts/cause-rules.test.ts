import { describe, expect, it } from 'vitest'
import { perform, type Rig } from '../rig'
import {
  plainModel,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
} from '../testing/rigs'
import { check, newErrors } from '.'
import {
  type CableInput,
  type MappingInput,
  told,
  joined,
  rigOf,
  learned20,
  sends20,
} from '../testing/mapped-rigs'

describe('accords', () => {
  const accords = [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'a/k2.turn'] }]
  it('one that excuses two that move one thing is not idle', () => {
    const rig = rigOf(
      { ...sends20, 'k2.turn': sendingCc(21) },
      [learned20, joined('a/k2.turn', 'p1', { learnedAt: '1:cc21' })],
      {},
      { accords },
    )
    expect(check(rig).findings).toEqual([])
    const without = perform(rig, 'x', [{ type: 'accord-remove', accord: 'x' }]).rig
    expect(check(without).findings.map(({ rule }) => rule)).toEqual(['double-drive'])
  })
})

describe('one cause, one finding', () => {
  const six = (more: Partial<Parameters<typeof sendingCc>[1]> = {}): Assigned =>
    Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`k${n}.turn`, sendingCc(20 + n, more)]))
  const learned = (channel: number): MappingInput[] =>
    [1, 2, 3, 4, 5].map((n) => joined(`a/k${n}.turn`, `p${n}`, { learnedAt: `${channel}:cc${20 + n}` }))
  const parameters = { parameters: [1, 2, 3, 4, 5].map((n) => ({ id: `p${n}`, name: `P${n}` })) }
  it('a wrong home channel', () => {
    const rig = testRig(
      [testController('a', six(), { homeChannel: 2 })],
      [testDestination('d', parameters)],
      {
        mappings: learned(1),
      },
    )
    const { findings, fixesOf } = check(rig)
    expect(findings.map(({ rule }) => rule)).toEqual(['unheard'])
    expect(findings[0]?.at).toHaveLength(5)
    const home = fixesOf(findings[0]?.id ?? '').find(({ kind }) => kind === 'home')
    expect(check(perform(rig, 'x', home?.edits ?? []).rig).findings).toEqual([])
  })
  it('a controller that is the copy of another', () => {
    const rig = testRig([testController('a', six()), testController('b', six())])
    const found = told(rig, 'same-address')
    expect(found).toHaveLength(1)
    expect(found[0]).toContain('A and B send the same at 5 addresses')
  })
  it('a controller that was put away', () => {
    const rig = testRig(
      [testController('a', {}, { inUse: false }), testController('b', six())],
      [testDestination('d', parameters)],
      {
        mappings: learned(1),
      },
    )
    const { findings, fixesOf } = check(rig)
    expect(findings.map(({ rule }) => rule)).toEqual(['ghost'])
    const clear = fixesOf(findings[0]?.id ?? '').find(({ kind }) => kind === 'clear')
    expect(check(perform(rig, 'x', clear?.edits ?? []).rig).findings).toEqual([])
  })
  it('a junction that is doubled, for all who pass it', () => {
    const box = (id: string) => ({
      id,
      name: id.toUpperCase(),
      kind: 'merge' as const,
      ports: [
        { id: 'in', name: 'In', direction: 'in' as const },
        { id: 'out', name: 'Out', direction: 'out' as const },
      ],
    })
    const wire = (from: string, to: string, port = 'in') => ({
      id: `${from}-${to}`,
      from: { owner: from, port: 'out' },
      to: { owner: to, port },
    })
    const doubled = (...more: Array<ReturnType<typeof wire>>) =>
      testRig(
        [testController('a', sends20), testController('b', { 'k1.turn': sendingCc(21) })],
        [testDestination('d'), testDestination('e')],
        {
          boxes: [box('m'), box('n'), box('o')],
          cables: [
            wire('a', 'm'),
            wire('b', 'm'),
            wire('m', 'n'),
            wire('m', 'o'),
            wire('n', 'd'),
            wire('o', 'd'),
            ...more,
          ],
        },
      )
    expect(told(doubled(), 'double-path')).toHaveLength(1)
    expect(told(doubled(), 'double-path')[0]).toContain('gets what A and B send twice')
    const unplugged = (rig: Rig): string[] => {
      const { findings, fixesOf } = check(rig)
      const fixes = fixesOf(findings.find(({ rule }) => rule === 'double-path')?.id ?? '')
      return fixes.filter(({ kind }) => kind === 'unplug').map(({ label }) => label)
    }
    expect(unplugged(doubled())).toHaveLength(4)
    // Another destination hangs on the way by N: only the cables of the other way, and the last one, can go.
    expect(unplugged(doubled(wire('n', 'e')))).toHaveLength(3)
  })
  it('errors that come to be told as one are no new error', () => {
    const both = { ...sends20, 'k2.turn': sendingCc(21) }
    const rig = testRig([testController('a', both), testController('b', sends20), testController('c', both)])
    const at = { controller: 'b', template: 't', layer: null, gesture: 'k1.turn' }
    const without = perform(rig, 'x', [{ type: 'assignment', at, assignment: null }]).rig
    const [before, after] = [check(rig), check(without)]
    expect(before.findings.map(({ at: places }) => places.length)).toEqual([3, 2])
    // A and C are told as one now, with four places that no finding had before.
    expect(after.findings.map(({ at: places }) => places.length)).toEqual([4])
    expect(newErrors(before, after)).toEqual([])
    expect(newErrors(after, before)).toHaveLength(1)
  })
  it('a copy of a large controller, for which no accord would be large enough', () => {
    const count = 150
    const numbered = Array.from({ length: count }, (_, index) => `n${index}`)
    const keys = Object.fromEntries(
      numbered.map((id, index) => [
        `${id}.turn`,
        sending(
          { kind: 'note', channel: 1, keys: { kind: 'one', number: index % 128 } },
          { kind: 'note', channel: 2, keys: { kind: 'one', number: index % 128 } },
        ),
      ]),
    )
    const controls = numbered.map((id, index) => ({
      id,
      kind: 'knob' as const,
      label: id,
      gestures: ['turn' as const],
      place: { x: index * 20, y: 5, w: 14, h: 14 },
    }))
    const rig = testRig([testController('a', keys), testController('b', keys)], undefined, {
      models: [{ ...plainModel, surface: { width: 3100, height: 40, controls } }],
    })
    const { findings, fixesOf } = check(rig)
    for (const { id, at } of findings) {
      const shares = fixesOf(id).some(({ kind }) => kind === 'share')
      expect(shares).toBe(
        new Set(at.map(({ controller, gesture }) => `${controller}/${gesture}`)).size <= 256,
      )
    }
    expect(findings.some(({ at }) => at.length > 256)).toBe(true)
  })
  it('a ring is new, though another was there', () => {
    const ring = (from: string, to: string, back: string) => [
      { id: `${from}-${to}`, from: { owner: from, port: 'out' }, to: { owner: to, port: 'in' } },
      { id: `${to}-${from}`, from: { owner: to, port: 'out' }, to: { owner: from, port: back } },
    ]
    const boxes = ['m', 'n', 'o', 'p'].map((id) => ({
      id,
      name: id.toUpperCase(),
      kind: 'merge' as const,
      ports: [
        { id: 'in', name: 'In', direction: 'in' as const },
        { id: 'back', name: 'Back', direction: 'in' as const },
        { id: 'out', name: 'Out', direction: 'out' as const },
      ],
    }))
    const into = (box: string) => ({
      id: `a-${box}`,
      from: { owner: 'a', port: 'out' },
      to: { owner: box, port: 'in' },
    })
    const wired = (...cables: CableInput[]) =>
      check(testRig([testController('a', sends20)], undefined, { boxes, cables }))
    const one = wired(into('m'), ...ring('m', 'n', 'back'))
    const both = wired(into('m'), into('o'), ...ring('m', 'n', 'back'), ...ring('o', 'p', 'back'))
    expect(newErrors(one, both).map(({ rule }) => rule)).toEqual(['loop'])
    expect(newErrors(both, one)).toEqual([])
  })
  it('an id does not change when something unrelated does', () => {
    const rig = testRig([
      testController('a', { ...sends20, 'k2.turn': sendingCc(30) }),
      testController('b', { ...sends20, 'k3.turn': sendingCc(30) }),
    ])
    const ids = check(rig).findings.map(({ id }) => id)
    expect(ids).toHaveLength(2)
    const less = perform(rig, 'x', [
      {
        type: 'assignment',
        at: { controller: 'b', template: 't', layer: null, gesture: 'k3.turn' },
        assignment: null,
      },
    ]).rig
    expect(check(less).findings.map(({ id }) => id)).toEqual(ids.filter((id) => id.includes('cc20')))
  })
})
