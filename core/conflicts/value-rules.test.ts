import { describe, expect, it } from 'vitest'
import { perform, type Rig, type RigInput } from '../rig'
import { sending, sendingCc, testController, testDestination, testRig, type Assigned } from '../testing/rigs'
import { check, type Fix } from '.'

type MappingInput = NonNullable<RigInput['mappings']>[number]
type DestinationInput = NonNullable<RigInput['destinations']>[number]

const PARAMETERS: DestinationInput['parameters'] = [
  { id: 'level', name: 'Level', path: ['Track 1'], range: { min: -60, max: 6, unit: 'dB' }, steps: 1024 },
  { id: 'other', name: 'Level', path: ['Track 2'] },
  { id: 'chosen', name: 'Chosen level', kind: 'relative', standsFor: 'Level' },
  { id: 'mute', name: 'Mute', kind: 'switch' },
  { id: 'go', name: 'Go', kind: 'action' },
]
const joined = (
  gesture: string,
  parameter: string,
  learnedAt: string,
  more: Partial<MappingInput> = {},
): MappingInput => ({
  id: `${gesture}-${parameter}-${more.scope ?? ''}`.replaceAll(/[^a-z0-9-]/g, '-'),
  gesture: `a/${gesture}`,
  destination: 'd',
  parameter,
  learnedAt,
  ...more,
})
const rigOf = (
  base: Assigned,
  mappings: MappingInput[],
  more: Partial<DestinationInput> = {},
  rest: Partial<RigInput> = {},
): Rig =>
  testRig(
    [testController('a', base)],
    [
      testDestination('d', {
        parameters: PARAMETERS,
        scopes: [
          { id: 's1', name: 'S1' },
          { id: 's2', name: 'S2' },
        ],
        learns: ['cc'],
        ...more,
      }),
    ],
    { mappings, ...rest },
  )
const found = (rig: Rig, rule: string): string[] =>
  check(rig)
    .findings.filter((finding) => finding.rule === rule)
    .map(({ severity }) => severity)
const fixesOf = (rig: Rig, rule: string): readonly Fix[] => {
  const checked = check(rig)
  return checked.fixesOf(checked.findings.find((finding) => finding.rule === rule)?.id ?? '')
}
const button = (kind: 'momentary' | 'toggle' | 'trigger', more: object = {}) =>
  sendingCc(20, { behaviour: { kind }, ...more })
const clicks = (encoding: 'offset-binary' | 'twos-complement') =>
  sendingCc(20, { behaviour: { kind: 'relative', encoding } })
const expecting = (encoding: 'offset-binary' | 'twos-complement'): Partial<MappingInput> => ({
  expects: { kind: 'relative', encoding },
})
const press: Partial<MappingInput> = { expects: { kind: 'press' } }

describe('mode-mismatch', () => {
  it.each<[string, Assigned[string], string, Partial<MappingInput>, string[]]>([
    ['clicks for positions', clicks('offset-binary'), 'level', {}, ['error']],
    ['clicks in another encoding', clicks('offset-binary'), 'level', expecting('twos-complement'), ['error']],
    ['clicks as expected', clicks('offset-binary'), 'level', expecting('offset-binary'), []],
    ['positions for clicks', sendingCc(20), 'level', expecting('offset-binary'), ['error']],
    ['positions for positions', sendingCc(20), 'level', {}, []],
    ['kept where it flips', button('toggle'), 'mute', press, ['error']],
    ['pressed where it flips', button('trigger'), 'mute', press, []],
    ['kept where something happens', button('toggle'), 'go', {}, ['error']],
    ['kept for a switch', button('toggle'), 'mute', {}, []],
  ])('%s', (_, assigned, parameter, more, severities) => {
    expect(
      found(rigOf({ 'k1.turn': assigned }, [joined('k1.turn', parameter, '1:cc20', more)]), 'mode-mismatch'),
    ).toEqual(severities)
  })

  it('advises 14 bits where values are lost and the destination could learn them', () => {
    const mappings = [joined('k1.turn', 'level', '1:cc20')]
    const learning = { learns: ['cc' as const, 'cc14' as const] }
    expect(found(rigOf({ 'k1.turn': sendingCc(20) }, mappings, learning), 'mode-mismatch')).toEqual([
      'advice',
    ])
    expect(found(rigOf({ 'k1.turn': sendingCc(20) }, mappings), 'mode-mismatch')).toEqual([])
  })

  it('is cured by what it offers', () => {
    const wrong = [
      rigOf({ 'k1.turn': clicks('offset-binary') }, [joined('k1.turn', 'level', '1:cc20')]),
      rigOf({ 'k1.turn': sendingCc(20) }, [joined('k1.turn', 'level', '1:cc20', expecting('offset-binary'))]),
      rigOf({ 'k1.turn': button('toggle') }, [joined('k1.turn', 'go', '1:cc20')]),
    ]
    for (const rig of wrong) {
      const [fix] = fixesOf(rig, 'mode-mismatch')
      expect(fix).toBeDefined()
      expect(found(perform(rig, 'x', fix?.edits ?? []).rig, 'mode-mismatch')).toEqual([])
    }
  })
})

describe('range-short', () => {
  it.each<[string, Assigned[string], string, Partial<MappingInput>, number]>([
    ['a short pedal', sendingCc(20, { range: { low: 0, high: 100 } }), 'level', {}, 1],
    ['a short pedal the other way round', sendingCc(20, { range: { low: 100, high: 0 } }), 'level', {}, 1],
    ['a whole one', sendingCc(20), 'level', {}, 0],
    ['an inverted one', sendingCc(20, { range: { low: 127, high: 0 } }), 'level', { inverted: true }, 0],
    ['clicks', clicks('offset-binary'), 'level', expecting('offset-binary'), 0],
    ['a switch that is only put on', button('trigger'), 'mute', {}, 1],
    [
      'a switch that stays below the middle',
      button('momentary', { range: { low: 0, high: 63 } }),
      'mute',
      {},
      1,
    ],
    ['a switch over the middle', button('momentary', { range: { low: 63, high: 64 } }), 'mute', {}, 0],
    ['a switch that flips', button('trigger'), 'mute', press, 0],
    ['a note for a switch', sending({ kind: 'note', keys: { kind: 'one', number: 20 } }), 'mute', {}, 0],
  ])('%s', (_, assigned, parameter, more, count) => {
    const at = assigned.messages[0]?.kind === 'note' ? '1:note20' : '1:cc20'
    const rig = rigOf({ 'k1.turn': assigned }, [joined('k1.turn', parameter, at, more)])
    expect(found(rig, 'range-short')).toEqual(Array(count).fill('warning'))
  })

  it('is content with one button for on and one for off', () => {
    const value = (number: number, to: number) =>
      sendingCc(number, { behaviour: { kind: 'trigger' }, range: { low: to, high: to } })
    const mappings = [joined('k1.turn', 'mute', '1:cc20'), joined('k2.turn', 'mute', '1:cc21')]
    const both = { 'k1.turn': value(20, 127), 'k2.turn': value(21, 0) }
    expect(found(rigOf(both, mappings), 'range-short')).toEqual([])
    expect(found(rigOf({ ...both, 'k2.turn': value(21, 100) }, mappings), 'range-short')).toHaveLength(2)
  })

  it('is cured by the whole range', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20, { range: { low: 9, high: 100 } }) }, [
      joined('k1.turn', 'level', '1:cc20'),
    ])
    const [fix] = fixesOf(rig, 'range-short')
    expect(found(perform(rig, 'x', fix?.edits ?? []).rig, 'range-short')).toEqual([])
    expect(fix?.edits).toHaveLength(1)
  })
})

describe('double-drive', () => {
  const two = { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }
  const pair = (
    a: Partial<MappingInput> = {},
    b: Partial<MappingInput> = {},
    more: MappingInput[] = [],
  ): string[] =>
    found(
      rigOf(two, [joined('k1.turn', 'level', '1:cc20', a), joined('k2.turn', 'level', '1:cc21', b), ...more]),
      'double-drive',
    )

  it('finds two controls on one parameter', () => expect(pair()).toEqual(['warning']))
  it('finds one that counts everywhere beside one in a scope', () =>
    expect(pair({}, { scope: 's1' })).toEqual(['warning']))
  it('keeps scopes apart', () => expect(pair({ scope: 's1' }, { scope: 's2' })).toEqual([]))
  it('lets a named scope win over everywhere', () =>
    expect(pair({}, { scope: 's1' }, [joined('k1.turn', 'mute', '1:cc20', { scope: 's1' })])).toEqual([]))
  it('does not speak of what is not heard', () => expect(pair({ learnedAt: '1:cc99' })).toEqual([]))
  it('does not speak of actions, nor of what is shared on purpose', () => {
    const go = [joined('k1.turn', 'go', '1:cc20'), joined('k2.turn', 'go', '1:cc21')]
    expect(found(rigOf(two, go), 'double-drive')).toEqual([])
    const accords = [{ id: 'x', name: 'X', gestures: ['a/k1.turn', 'a/k2.turn'] }]
    const mappings = [joined('k1.turn', 'level', '1:cc20'), joined('k2.turn', 'level', '1:cc21')]
    expect(found(rigOf(two, mappings, {}, { accords }), 'double-drive')).toEqual([])
  })
  it.each([
    ['level', ['warning']],
    ['other', ['warning']],
    ['mute', []],
  ])('warns where what is selected can be %s', (parameter, severities) => {
    const mappings = [joined('k1.turn', 'chosen', '1:cc20'), joined('k2.turn', parameter, '1:cc21')]
    expect(found(rigOf(two, mappings), 'double-drive')).toEqual(severities)
  })
})

describe('toggle-drift', () => {
  const kept = { 'k1.turn': button('toggle'), 'k2.turn': sendingCc(21, { behaviour: { kind: 'momentary' } }) }
  const mappings = (more: Partial<MappingInput> = {}): MappingInput[] => [
    joined('k1.turn', 'mute', '1:cc20', more),
    joined('k2.turn', 'mute', '1:cc21'),
  ]
  it('finds a button that keeps its state beside another that changes it', () =>
    expect(found(rigOf(kept, mappings()), 'toggle-drift')).toEqual(['warning']))
  it('is content with feedback, and with being alone', () => {
    expect(found(rigOf(kept, mappings({ feedback: true }), { feedback: true }), 'toggle-drift')).toEqual([])
    expect(found(rigOf(kept, mappings({ feedback: true })), 'toggle-drift')).toEqual(['warning'])
    expect(found(rigOf(kept, mappings().slice(0, 1)), 'toggle-drift')).toEqual([])
  })
  it('is cured by feedback where the destination gives it', () => {
    const rig = rigOf(kept, mappings(), { feedback: true })
    const [fix] = fixesOf(rig, 'toggle-drift')
    expect(found(perform(rig, 'x', fix?.edits ?? []).rig, 'toggle-drift')).toEqual([])
  })
})
