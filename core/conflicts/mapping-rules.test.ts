import { describe, expect, it } from 'vitest'
import type { Rig, RigInput } from '../rig'
import {
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
  layeredTemplates,
} from '../testing/rigs'
import { check } from '.'
import { cures, joined, severities, type MappingInput } from '../testing/mapped-rigs'

type More = Parameters<typeof testController>[2]

const rigOf = (
  base: Assigned,
  mappings: MappingInput[],
  more: More = {},
  rest: Partial<RigInput> = {},
): Rig =>
  testRig(
    [testController('a', base, more)],
    [
      testDestination('d', {
        parameters: [
          { id: 'p1', name: 'One' },
          { id: 'p2', name: 'Two' },
          { id: 'bright', name: 'Bright', fixed: { kind: 'cc', number: 74 } },
        ],
      }),
    ],
    { mappings, ...rest },
  )

/** Two layers over the first knob; more gestures in the base. */
const layered = (
  a: Assigned,
  b: Assigned,
  mappings: MappingInput[],
  stack: { powerUp?: string | null } = {},
  rest: Partial<RigInput> = {},
): Rig =>
  rigOf(
    {},
    mappings,
    {
      templates: layeredTemplates(a, b, { gestures: ['k1.turn', 'k2.turn'], powerUp: 'x', ...stack }),
    },
    rest,
  )

const chosen: Partial<RigInput> = {
  choices: [
    {
      id: 'c',
      by: { kind: 'gesture', gesture: 'a/k6.push' },
      how: 'next',
      targets: [{ kind: 'layers', controller: 'a', template: 't', stack: 's', layers: ['x', 'y'] }],
    },
  ],
}

describe('ghost', () => {
  const old = joined(null, 'p2', { learnedAt: '1:cc20' })
  it('finds one whose owner sends elsewhere, though who sets it off has a mapping of its own there', () => {
    const both = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
      joined('a/k2.turn', 'p2', { learnedAt: '1:cc20' }),
    ]
    const rig = rigOf({ 'k1.turn': sendingCc(30), 'k2.turn': sendingCc(20) }, both)
    expect(severities(rig, 'ghost')).toEqual(['error'])
  })
  it('takes programs of another bank for other programs', () => {
    const program = (lsb: number): Rig =>
      rigOf({ 'k1.turn': sending({ kind: 'program', number: 5, bank: { msb: 1, lsb } }) }, [
        joined(null, 'p2', { learnedAt: '1:pc1.0.5' }),
      ])
    expect(severities(program(0), 'ghost')).toEqual(['error'])
    expect(severities(program(1), 'ghost')).toEqual([])
  })
  it('finds an old mapping that another control sets off, and can clear it or move the control', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20) }, [old])
    expect(severities(rig, 'ghost')).toEqual(['error'])
    expect(cures(rig, 'ghost').toSorted()).toEqual(['clear', 'move'])
  })
  it.each<[string, Rig]>([
    ['an old mapping at another address', rigOf({ 'k1.turn': sendingCc(21) }, [old])],
    [
      'a control that is meant to move the same',
      rigOf({ 'k1.turn': sendingCc(20) }, [old, joined('a/k1.turn', 'p2')]),
    ],
    [
      'a mapping that its own control still sets off',
      rigOf({ 'k1.turn': sendingCc(20) }, [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })]),
    ],
  ])('stays silent for %s', (_, rig) => expect(severities(rig, 'ghost')).toEqual([]))
})

describe('unheard', () => {
  const with20 = (mapping: MappingInput): Rig => rigOf({ 'k1.turn': sendingCc(20) }, [mapping])
  it('is an error at a fixed address, a warning where it was learned, advice where it was not taught', () => {
    expect(severities(with20(joined('a/k1.turn', 'bright')), 'unheard')).toEqual(['error'])
    expect(severities(with20(joined('a/k1.turn', 'p1', { learnedAt: '1:cc22' })), 'unheard')).toEqual([
      'warning',
    ])
    expect(severities(with20(joined('a/k1.turn', 'p1')), 'unheard')).toEqual(['advice'])
  })
  it('says who moves the parameter meanwhile', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(22) }, [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc22' }),
    ])
    const finding = check(rig).findings.find((each) => each.rule === 'ghost')
    expect(finding?.message).toBe('Knob 2 (A) moves D · One at 1:cc22, which belongs to Knob 1 (A).')
    expect(cures(rig, 'ghost').toSorted()).toEqual(['move', 'teach'])
  })
  it('can be cured at either end', () => {
    expect(cures(with20(joined('a/k1.turn', 'p1', { learnedAt: '1:cc22' })), 'unheard').toSorted()).toEqual([
      'follow',
      'teach',
    ])
    expect(cures(with20(joined('a/k1.turn', 'bright')), 'unheard')).toEqual(['follow'])
  })
  it('stays silent when any layer sends what was learned', () => {
    const learned = [joined('a/k1.turn', 'p1', { learnedAt: '1:cc21' })]
    const rig = layered({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(21) }, learned, {}, chosen)
    expect(severities(rig, 'unheard')).toEqual([])
  })
})

describe('silent', () => {
  const mapped = [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })]
  it('finds a mapped control that is off', () => {
    expect(severities(rigOf({}, mapped), 'silent')).toEqual(['error'])
    expect(severities(rigOf({ 'k1.turn': sendingCc(20) }, mapped), 'silent')).toEqual([])
  })
  it('finds one in a layer that nothing can show', () => {
    const hidden = [{}, { 'k1.turn': sendingCc(20) }, mapped] as const
    expect(severities(layered(...hidden), 'silent')).toEqual(['error'])
    expect(severities(layered(...hidden, {}, chosen), 'silent')).toEqual([])
    expect(severities(layered(...hidden, { powerUp: 'y' }), 'silent')).toEqual([])
    const passage = (layer: string): Partial<RigInput> => ({
      passages: [
        {
          id: 'p',
          name: 'P',
          showing: [{ controller: 'a', template: 't', layers: [{ stack: 's', layer }] }],
        },
      ],
    })
    expect(severities(layered(...hidden, {}, passage('y')), 'silent')).toEqual([])
    expect(severities(layered(...hidden, {}, passage('x')), 'silent')).toEqual(['error'])
  })
  it('says nothing of what was put away', () => {
    expect(severities(rigOf({}, mapped, { inUse: false }), 'silent')).toEqual([])
  })
})

describe('secondary', () => {
  const mapped = [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })]
  const released = { kind: 'cc', number: 20, moment: 'release', behaviour: { kind: 'trigger' } } as const
  it('finds a release message that moves what is not its own', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20), 'k6.push': sending(released) }, mapped)
    expect(severities(rig, 'secondary')).toEqual(['error'])
  })
  it('stays silent for a press, and for a release at another address', () => {
    const other = { ...released, number: 21 }
    expect(
      severities(rigOf({ 'k1.turn': sendingCc(20), 'k6.push': sendingCc(20) }, mapped), 'secondary'),
    ).toEqual([])
    expect(
      severities(rigOf({ 'k1.turn': sendingCc(20), 'k6.push': sending(other) }, mapped), 'secondary'),
    ).toEqual([])
  })
})

describe('layer-share', () => {
  const learned = (scope: string | null = null) => [
    joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', scope }),
    joined('a/k2.turn', 'p2', { learnedAt: '1:cc20' }),
  ]
  it('finds one address of two layers that goes to two parameters', () => {
    const rig = layered({ 'k1.turn': sendingCc(20) }, { 'k2.turn': sendingCc(20) }, learned(), {}, chosen)
    expect(severities(rig, 'layer-share')).toEqual(['error'])
  })
  it('stays silent where both go to one parameter, or the addresses differ', () => {
    const same = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
      joined('a/k2.turn', 'p1', { learnedAt: '1:cc20' }),
    ]
    expect(
      severities(
        layered({ 'k1.turn': sendingCc(20) }, { 'k2.turn': sendingCc(20) }, same, {}, chosen),
        'layer-share',
      ),
    ).toEqual([])
    const apart = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
      joined('a/k2.turn', 'p2', { learnedAt: '1:cc21' }),
    ]
    expect(
      severities(
        layered({ 'k1.turn': sendingCc(20) }, { 'k2.turn': sendingCc(21) }, apart, {}, chosen),
        'layer-share',
      ),
    ).toEqual([])
  })
})

describe('layer-jump', () => {
  const by = (takeover: 'at-once' | 'when-met') => [
    joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', takeover }),
    joined('a/k1.turn', 'p2', { learnedAt: '1:cc21' }),
  ]
  const rig = (takeover: 'at-once' | 'when-met'): Rig =>
    layered({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(21) }, by(takeover), {}, chosen)
  it('finds a knob whose layers move two things, one of them taken over at once', () => {
    expect(severities(rig('at-once'), 'layer-jump')).toEqual(['warning'])
    expect(cures(rig('at-once'), 'layer-jump')).toEqual(['soften'])
  })
  it('stays silent when both are taken over when met', () => {
    expect(severities(rig('when-met'), 'layer-jump')).toEqual([])
  })
})

describe('parameters', () => {
  const nrpn = (number: number, more = {}) => sending({ kind: 'nrpn', number, ...more })
  const two = (a: Assigned, b: Assigned): Rig => testRig([testController('a', a), testController('b', b)])
  it('a carrier used plainly is an error, on its channel only', () => {
    expect(
      severities(rigOf({ 'k1.turn': nrpn(1024), 'k2.turn': sendingCc(98) }, []), 'parameter-carriers'),
    ).toEqual(['error'])
    expect(
      severities(
        rigOf({ 'k1.turn': nrpn(1024), 'k2.turn': sendingCc(98, { channel: 2 }) }, []),
        'parameter-carriers',
      ),
    ).toEqual([])
  })
  it('two controllers on one channel are a warning, an error if one leaves the number out', () => {
    expect(severities(two({ 'k1.turn': nrpn(1) }, { 'k1.turn': nrpn(2) }), 'parameter-interleave')).toEqual([
      'warning',
    ])
    expect(
      severities(
        two({ 'k1.turn': nrpn(1, { omitNumber: true }) }, { 'k1.turn': nrpn(2) }),
        'parameter-interleave',
      ),
    ).toEqual(['error'])
    expect(
      severities(two({ 'k1.turn': nrpn(1) }, { 'k1.turn': nrpn(2, { channel: 2 }) }), 'parameter-interleave'),
    ).toEqual([])
    expect(severities(rigOf({ 'k1.turn': nrpn(1), 'k2.turn': nrpn(2) }, []), 'parameter-interleave')).toEqual(
      [],
    )
  })
})

describe('bank-drift', () => {
  const program = (number: number, bank: { msb: number; lsb: number } | null) =>
    sending({ kind: 'program', number, bank })
  it('finds programs with and without bank on one channel', () => {
    const mixed = rigOf({ 'k1.turn': program(1, null), 'k2.turn': program(2, { msb: 1, lsb: 0 }) }, [])
    expect(severities(mixed, 'bank-drift')).toEqual(['warning'])
    const all = rigOf({ 'k1.turn': program(1, null), 'k2.turn': program(2, null) }, [])
    expect(severities(all, 'bank-drift')).toEqual([])
  })
})

describe('idle-accord', () => {
  const accords = [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'a/k2.turn'] }]
  it('finds an accord that excuses nothing any more, and withdraws it', () => {
    const idle = rigOf({ 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }, [], {}, { accords })
    expect(severities(idle, 'idle-accord')).toEqual(['advice'])
    expect(cures(idle, 'idle-accord')).toEqual(['withdraw'])
    const used = rigOf({ 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(20) }, [], {}, { accords })
    expect(severities(used, 'idle-accord')).toEqual([])
  })
  it('is of two at least: what one control does to itself in two layers needs no accord', () => {
    const templates = layeredTemplates(
      { 'k1.turn': sendingCc(20) },
      { 'k1.turn': sendingCc(20) },
      { gestures: ['k1.turn'] },
      { 'k2.turn': sendingCc(21) },
    )
    const both = ['p1', 'p2'].map((parameter) => joined('a/k1.turn', parameter, { learnedAt: '1:cc20' }))
    const rig = rigOf({}, both, { templates }, { accords })
    expect(severities(rig, 'layer-share')).toEqual(['error'])
    expect(severities(rig, 'idle-accord')).toEqual(['advice'])
  })
})
