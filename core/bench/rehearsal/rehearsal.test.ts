import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { perform, programmedAt, type Place, type Rig, type RigEdit, type RigInput } from '../../rig'
import { plainModel, sending, sendingCc, testController, testDestination, testRig } from '../../testing/rigs'
import { changedSince, rehearse, rehearsedOf, type Finding, type Misbehaving, type Rehearsal } from '.'

const rehearsed = (rig: Rig, misbehaving: Misbehaving = {}): Rehearsal => {
  const report = rehearse(rig, misbehaving)
  if (!report) throw new Error('stopped')
  return report
}
const faults = ({ findings }: Rehearsal): readonly Finding[] =>
  findings.filter(({ weight }) => weight === 'fault')
const said = (report: Rehearsal): string[] => faults(report).map(({ check, text }) => `${check}: ${text}`)

/** A gesture sends something else in its first message. */
function sendsElse(rig: Rig, at: Place, change: object): RigEdit {
  const message = programmedAt(rig, at)?.assignment.messages[0]
  if (!message) throw new Error('sends nothing')
  return { type: 'message', at, index: 0, message: { ...message, ...change } as typeof message }
}
const sendingElse = (rig: Rig, at: Place, change: object): Rig =>
  perform(rig, '', [sendsElse(rig, at, change)]).rig

const KNOBS = 4
const litModel: NonNullable<RigInput['models']>[number] = {
  ...plainModel,
  abilities: {
    ...plainModel.abilities,
    lights: {
      levels: { button: 'palette' },
      setBy: { kind: 'note-velocity' },
      palette: [
        { index: 0, colour: '#000000', name: 'Dark' },
        { index: 1, colour: '#a01010', name: 'Red' },
        { index: 2, colour: '#10c040', name: 'Green' },
      ],
    },
  },
  surface: {
    ...plainModel.surface,
    controls: [
      ...plainModel.surface.controls,
      ...[1, 2].map((n) => ({
        id: `b${n}`,
        kind: 'button' as const,
        label: `Button ${n}`,
        gestures: ['press' as const],
        place: { x: 5, y: 22 + n * 8, w: 6, h: 6 },
      })),
    ],
  },
}
const roles: NonNullable<RigInput['lightRoles']> = [
  {
    id: 'voice',
    name: 'Voice',
    letter: 'V',
    states: [
      { name: 'off', colour: '#a01010' },
      { name: 'on', colour: '#10c040' },
    ],
  },
]

interface Shape {
  numbers: readonly number[]
  channels: readonly number[]
  inverted: boolean
  curve: 'linear' | 'exponential' | 's'
  takeover: 'at-once' | 'when-met' | 'gradual'
}

/** Knobs, each joined to a parameter of its own; a toggle whose destination tells its light, and a button with a light. */
function cleanRig(
  { numbers, channels, inverted, curve, takeover }: Shape,
  more: Partial<RigInput> = {},
): Rig {
  const knobs = numbers.map(
    (number, at) => [`k${at + 1}.turn`, sendingCc(number, { channel: channels[at] ?? 1 })] as const,
  )
  const note = (number: number, kind: 'toggle' | 'momentary', setBy: 'feedback' | 'press') => ({
    ...sending({
      kind: 'note',
      keys: { kind: 'one', number },
      channel: 16,
      behaviour: { kind },
      velocity: { kind: 'fixed', value: 127 },
    }),
    light: { role: 'voice', setBy: { kind: setBy } },
  })
  return testRig(
    [
      testController(
        'a',
        {
          ...Object.fromEntries(knobs),
          'b1.press': note(60, 'toggle', 'feedback'),
          'b2.press': note(61, 'momentary', 'press'),
        },
        { model: 'plain' },
      ),
    ],
    [
      testDestination('d', {
        feedback: true,
        parameters: [
          ...numbers.map((_, at) => ({
            id: `p${at + 1}`,
            name: `P ${at + 1}`,
            range: { min: -10, max: 10 + at },
          })),
          { id: 'mute', name: 'Mute', kind: 'switch' },
          { id: 'tap', name: 'Tap', kind: 'action' },
        ],
      }),
    ],
    {
      models: [litModel],
      lightRoles: roles,
      mappings: [
        ...numbers.map((number, at) => ({
          id: `m${at + 1}`,
          gesture: `a/k${at + 1}.turn`,
          destination: 'd',
          parameter: `p${at + 1}`,
          learnedAt: `${channels[at] ?? 1}:cc${number}`,
          inverted,
          curve,
          takeover,
        })),
        {
          id: 'mute',
          gesture: 'a/b1.press',
          destination: 'd',
          parameter: 'mute',
          learnedAt: '16:note60',
          feedback: true,
        },
        { id: 'tap', gesture: 'a/b2.press', destination: 'd', parameter: 'tap', learnedAt: '16:note61' },
      ],
      ...more,
    },
  )
}
const shape: fc.Arbitrary<Shape> = fc.record({
  numbers: fc.uniqueArray(fc.integer({ min: 20, max: 31 }), { minLength: KNOBS, maxLength: KNOBS }),
  channels: fc.array(fc.integer({ min: 1, max: 15 }), { minLength: KNOBS, maxLength: KNOBS }),
  inverted: fc.boolean(),
  curve: fc.constantFrom('linear' as const, 'exponential' as const, 's' as const),
  takeover: fc.constantFrom('at-once' as const, 'when-met' as const, 'gradual' as const),
})
const which = fc.integer({ min: 0, max: KNOBS - 1 })

describe('a rehearsal', () => {
  it('finds nothing wrong in a rig in which everything is taught, and proves every mapping', () => {
    fc.assert(
      fc.property(shape, (each) => {
        const rig = cleanRig(each)
        const report = rehearsed(rig)
        expect(said(report)).toEqual([])
        expect(report.proven).toEqual(rig.mappings.map(({ id }) => id))
        expect(rehearsed(rig)).toEqual(report)
      }),
      { numRuns: 25 },
    )
  })

  it('finds a mapping that listens elsewhere, a number that was changed, and an end that is not reached', () => {
    fc.assert(
      fc.property(shape, which, (each, at) => {
        const rig = cleanRig(each)
        const mapping = `m${at + 1}`
        const names = (report: Rehearsal): void => {
          expect(faults(report).some((fault) => fault.mapping === mapping)).toBe(true)
          expect(report.proven).not.toContain(mapping)
        }
        names(
          rehearsed(
            perform(rig, '', [
              {
                type: 'mapping-set',
                mapping,
                set: { learnedAt: { scope: 'channel', channel: 16, target: { kind: 'cc', number: 3 } } },
              },
            ]).rig,
          ),
        )
        const place = { controller: 'a', template: 't', layer: null, gesture: `k${at + 1}.turn` }
        names(rehearsed(sendingElse(rig, place, { number: 3 })))
        names(rehearsed(sendingElse(rig, place, { range: { low: 0, high: 120 } })))
      }),
      { numRuns: 15 },
    )
  })

  it('finds two mappings that were taught each other’s number', () => {
    fc.assert(
      fc.property(shape, (each) => {
        const rig = cleanRig(each)
        const [one, other] = rig.mappings
        const report = rehearsed(
          perform(rig, '', [
            { type: 'mapping-set', mapping: 'm1', set: { learnedAt: other?.learnedAt ?? null } },
            { type: 'mapping-set', mapping: 'm2', set: { learnedAt: one?.learnedAt ?? null } },
          ]).rig,
        )
        for (const mapping of ['m1', 'm2']) expect(report.proven).not.toContain(mapping)
        expect(faults(report).filter(({ check }) => check === 'others')).toHaveLength(2)
      }),
      { numRuns: 10 },
    )
  })

  it('finds messages that are stopped on the way, by whatever rule', () => {
    fc.assert(
      fc.property(shape, which, (each, at) => {
        const stop = {
          kind: 'stop' as const,
          match: { kinds: ['cc' as const], low: each.numbers[at] ?? 0, high: each.numbers[at] ?? 0 },
        }
        const rig = cleanRig(each, {
          cables: [
            { id: 'a-d', from: { owner: 'a', port: 'out' }, to: { owner: 'd', port: 'in' }, rules: [stop] },
          ],
        })
        const report = rehearsed(rig)
        expect(faults(report).map(({ mapping }) => mapping)).toContain(`m${at + 1}`)
        expect(report.proven).not.toContain(`m${at + 1}`)
        expect(report.proven).toHaveLength(rig.mappings.length - 1)
      }),
      { numRuns: 15 },
    )
  })

  it('finds a rule that is gone: what it kept apart moves both', () => {
    const rules = [{ kind: 'rewrite' as const, match: { channels: [2] }, to: { channel: 3 } }]
    const at = (channel: number) => ({
      ...cleanRig(
        {
          numbers: [20, 20, 21, 22],
          channels: [1, 2, 4, 5],
          inverted: false,
          curve: 'linear',
          takeover: 'when-met',
        },
        {
          cables: [
            {
              id: 'a-d',
              from: { owner: 'a', port: 'out' },
              to: { owner: 'd', port: 'in' },
              rules: channel === 3 ? rules : [],
            },
          ],
        },
      ),
    })
    const taught = (rig: Rig): Rig =>
      perform(rig, '', [
        {
          type: 'mapping-set',
          mapping: 'm2',
          set: { learnedAt: { scope: 'channel', channel: 3, target: { kind: 'cc', number: 20 } } },
        },
      ]).rig
    expect(said(rehearsed(taught(at(3))))).toEqual([])
    const report = rehearsed(taught(at(1)))
    expect(report.proven).not.toContain('m2')
    expect(said(report).join('\n')).toContain('Nothing moves D · P 2')
  })

  it('finds channels that a destination merges, and messages that it loses or takes twice', () => {
    const clean = cleanRig({
      numbers: [20, 20, 21, 22],
      channels: [1, 2, 1, 1],
      inverted: false,
      curve: 'linear',
      takeover: 'when-met',
    })
    expect(said(rehearsed(clean))).toEqual([])
    const merged = rehearsed(clean, { d: ['merges-channels'] })
    expect(said(merged)).toContainEqual('others: Knob 1 (A) also moves D · P 2, which it is not joined to.')
    expect(merged.proven).not.toContain('m1')
    const dropped = rehearsed(clean, { d: ['drops'] })
    for (const n of [1, 2, 3, 4]) expect(dropped.proven).not.toContain(`m${n}`)
    expect(said(dropped).join('\n')).toMatch(/lost: D loses \d+ of \d+ messages that Knob 1 \(A\) sends/)
    expect(said(rehearsed(clean, { d: ['doubles'] })).join('\n')).toMatch(/lost: D takes \d+ of \d+ messages/)
  })

  it('finds a parameter that jumps though it is to be taken over', () => {
    const of = (takeover: Shape['takeover']): Rig =>
      cleanRig({
        numbers: [20, 21, 22, 23],
        channels: [1, 1, 1, 1],
        inverted: false,
        curve: 'linear',
        takeover,
      })
    for (const takeover of ['when-met', 'gradual'] as const) {
      const jumps = faults(rehearsed(of(takeover), { d: ['jumps'] }))
      expect(jumps.map(({ check, mapping }) => `${check} ${mapping}`)).toEqual(
        expect.arrayContaining(['takeover m1', 'takeover m2', 'takeover m3', 'takeover m4']),
      )
    }
    // What is written to be taken at once may jump.
    expect(said(rehearsed(of('at-once'), { d: ['jumps'] }))).toEqual([])
  })

  it('finds lights that are not told, that look alike, and that share a number', () => {
    const plain: Shape = {
      numbers: [20, 21, 22, 23],
      channels: [1, 1, 1, 1],
      inverted: false,
      curve: 'linear',
      takeover: 'when-met',
    }
    const clean = cleanRig(plain)
    const silent = rehearsed(clean, { d: ['no-feedback'] })
    expect(said(silent)).toEqual([
      'light: The light of Button 1 (A) shows Red when it is to show Green (Voice, on).',
    ])
    expect(silent.proven).not.toContain('mute')
    const alike = rehearsed(
      cleanRig(plain, {
        lightRoles: [
          {
            ...roles[0]!,
            states: [
              { name: 'off', colour: '#0fbf3f' },
              { name: 'on', colour: '#10c040' },
            ],
          },
        ],
      }),
    )
    expect(said(alike).join('\n')).toContain('looks the same for on and for off')
    const surface = {
      ...litModel.surface,
      controls: litModel.surface.controls.map((control) =>
        control.kind === 'button' ? { ...control, lightNumber: 60 } : control,
      ),
    }
    const second = { controller: 'a', template: 't', layer: null, gesture: 'b2.press' }
    const steady = programmedAt(clean, second)?.assignment
    if (!steady) throw new Error('no light')
    const lit = { role: 'voice', setBy: { kind: 'steady' as const, state: 'on' } }
    const shared = perform(cleanRig(plain, { models: [{ ...litModel, surface }] }), '', [
      { type: 'assignment', at: second, assignment: { ...steady, light: lit } },
    ]).rig
    expect(said(rehearsed(shared))).toEqual([
      'wake: After the wake sequence Button 1 (A) shows Green in place of Red: another light has the same number.',
    ])
  })

  it('finds a switch that can only be switched on, and not one of two buttons that set a value each', () => {
    const plain: Shape = {
      numbers: [20, 21, 22, 23],
      channels: [1, 1, 1, 1],
      inverted: false,
      curve: 'linear',
      takeover: 'when-met',
    }
    const place = { controller: 'a', template: 't', layer: null, gesture: 'b1.press' }
    const once = sendingElse(cleanRig(plain), place, { behaviour: { kind: 'trigger' } })
    expect(said(rehearsed(once)).join('\n')).toMatch(/sets D · Mute to on only: it does not reach off/)
    const other = {
      ...once.mappings.find(({ id }) => id === 'tap')!,
      id: 'off',
      parameter: 'mute',
      inverted: true,
    }
    const both = perform(once, '', [
      { type: 'mapping-remove', mapping: 'tap' },
      { type: 'mapping-add', mapping: other },
    ]).rig
    expect(faults(rehearsed(both)).filter(({ check }) => check === 'ends')).toEqual([])
  })

  it('says of a control what it moves nowhere, and counts it as a fault only where it is joined', () => {
    const rig = testRig(
      [testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) })],
      [testDestination('d')],
      {
        mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc22' }],
      },
    )
    const report = rehearsed(rig)
    expect(report.findings.map(({ check, weight }) => `${check} ${weight}`).sort()).toEqual([
      'idle fault',
      'idle note',
      'unreached fault',
    ])
    expect(report.proven).toEqual([])
  })

  it('can be stopped, and says how far it has come', () => {
    const seen: number[] = []
    const report = rehearse(nineRingsRig('as-performed'), {}, ({ done, of }) => {
      seen.push(done / of)
      return seen.length === 3
    })
    expect(report).toBeNull()
    expect(seen).toEqual([...seen].sort((a, b) => a - b))
  })
})

describe('the demo', () => {
  it(
    'as performed has no fault, and every mapping of a controller in use is proven',
    { timeout: 120_000 },
    () => {
      const rig = nineRingsRig('as-performed')
      const report = rehearsed(rig)
      expect(said(report)).toEqual([])
      expect(report.proven).toHaveLength(rig.mappings.length - report.leftOut.length)
      expect(new Set(report.leftOut.map(({ why }) => why))).toEqual(new Set(['Corvel 8 is put away.']))
    },
  )
})

describe('what was rehearsed', () => {
  const plain: Shape = {
    numbers: [20, 21, 22, 23],
    channels: [1, 1, 1, 1],
    inverted: false,
    curve: 'linear',
    takeover: 'when-met',
  }
  const kept = (rig: Rig): Rig =>
    perform(rig, '', [
      { type: 'rehearsed-set', rehearsed: rehearsedOf(rig, rehearsed(rig), '2026-05-04T19:30:00Z') },
    ]).rig

  it('stays so until something changes that a mapping rests on, and names that mapping', () => {
    const rig = kept(cleanRig(plain))
    expect(changedSince(rig)).toEqual({
      same: ['m1', 'm2', 'm3', 'm4', 'mute', 'tap'],
      changed: [],
      unproven: [],
      gone: 0,
    })
    const place = { controller: 'a', template: 't', layer: null, gesture: 'k2.turn' }
    const touched: Array<[Parameters<typeof perform>[2], string[]]> = [
      [[sendsElse(rig, place, { number: 30 })], ['m2']],
      [[{ type: 'mapping-set', mapping: 'm3', set: { inverted: true } }], ['m3']],
      [
        [
          {
            type: 'parameter-set',
            destination: 'd',
            parameter: 'p1',
            set: { range: { min: 0, max: 5, unit: '' } },
          },
        ],
        ['m1'],
      ],
      [[{ type: 'cable-remove', cable: 'a-d' }], ['m1', 'm2', 'm3', 'm4', 'mute', 'tap']],
      [[{ type: 'mapping-set', mapping: 'm3', set: { memo: 'a word' } }], []],
      [[{ type: 'rig-set', set: { name: 'Another' } }], []],
    ]
    for (const [edits, changed] of touched)
      expect(changedSince(perform(rig, '', edits).rig)?.changed).toEqual(changed)
  })

  it('is not said of a rig that never was, and counts what is gone', () => {
    expect(changedSince(cleanRig(plain))).toBeNull()
    const without = perform(kept(cleanRig(plain)), '', [{ type: 'mapping-remove', mapping: 'm1' }]).rig
    expect(changedSince(without)).toMatchObject({ gone: 1, unproven: [] })
  })
})
