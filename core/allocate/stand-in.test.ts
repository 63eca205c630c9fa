import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import type { Rig, RigInput } from '../rig'
import { tagOf } from '../testing/addresses'
import {
  layeredTemplates,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
} from '../testing/rigs'
import type { Plan } from '.'
import { apply, plan } from '../testing/plans'

const moves = ({ changes }: Plan): string[] => changes.map(({ at, to }) => `${at.gesture} → ${tagOf(to)}`)

describe('stand in', () => {
  const learned = (id: string, gesture: string, parameter: string, learnedAt: string) => ({
    id,
    gesture: `away/${gesture}`,
    destination: 'd',
    parameter,
    learnedAt,
  })
  const rig = testRig(
    [
      testController('away', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }, { inUse: false }),
      testController(
        'here',
        { 'k1.turn': { ...sendingCc(90), pinned: true }, 'k3.turn': sendingCc(91) },
        { homeChannel: 5 },
      ),
    ],
    undefined,
    { mappings: [learned('m1', 'k1.turn', 'p1', '1:cc20'), learned('m2', 'k2.turn', 'p2', '3:cc21')] },
  )
  const request = { kind: 'stand-in', controller: 'here', for: 'away' } as const

  it('takes over what was learned, so that nothing has to be taught again, and leaves pins alone', () => {
    const found = plan(rig, request)
    expect(found.changes.map(({ at, from, to }) => [at.gesture, tagOf(from), tagOf(to)])).toEqual([
      ['k2.turn', null, '1:cc20'],
      ['k3.turn', '5:cc91', '3:cc21'],
    ])
    const then = apply(rig, found.edits)
    const rules = check(then).findings.map(({ rule }) => rule)
    for (const rule of ['ghost', 'unheard', 'silent']) expect(rules).not.toContain(rule)
    expect(then.mappings.map(({ gesture }) => gesture)).toEqual(['here/k2.turn', 'here/k3.turn'])
  })

  it('says what has no counterpart', () => {
    const six = ['k1', 'k2', 'k3', 'k4', 'k5', 'k6'].map((id, index) =>
      learned(`m${index}`, `${id}.turn`, index % 2 ? 'p1' : 'p2', `1:cc${20 + index}`),
    )
    const all = Object.fromEntries(six.map((_, index) => [`k${index + 1}.turn`, sendingCc(20 + index)]))
    const many = testRig(
      [
        testController('away', all),
        testController('here', { 'k1.turn': { ...sendingCc(90), pinned: true } }),
      ],
      undefined,
      { mappings: six },
    )
    expect(plan(many, request).shortages[0]?.message).toMatch(/no counterpart is left on HERE/)
  })

  type Mapping = NonNullable<RigInput['mappings']>[number]
  const rigOf = (
    away: Assigned,
    here: Assigned,
    mappings: Mapping[],
    more: Partial<Parameters<typeof testController>[2]> = {},
    inUse = false,
  ): Rig =>
    testRig([testController('away', away, { inUse }), testController('here', here, more)], undefined, {
      mappings,
    })

  const chooser = (gesture: string): NonNullable<RigInput['choices']>[number] => ({
    id: 'c',
    by: { kind: 'gesture', gesture: `here/${gesture}` },
    how: 'next',
    targets: [{ kind: 'layers', controller: 'here', template: 't', stack: 's', layers: ['x', 'y'] }],
  })

  it('gives each address that was learned of one control a partner of its own', () => {
    const layers = { mode: 'replace' as const, gestures: ['k1.turn'] }
    const both = testRig(
      [
        testController(
          'away',
          {},
          {
            inUse: false,
            templates: layeredTemplates({ 'k1.turn': sendingCc(20) }, { 'k1.turn': sendingCc(30) }, layers),
          },
        ),
        testController(
          'here',
          {},
          {
            templates: layeredTemplates({ 'k1.turn': sendingCc(90) }, { 'k1.turn': sendingCc(91) }, layers),
          },
        ),
      ],
      undefined,
      {
        mappings: [learned('m1', 'k1.turn', 'p1', '1:cc20'), learned('m2', 'k1.turn', 'p2', '1:cc30')],
        choices: [chooser('k6.push')],
      },
    )
    const found = plan(both, request)
    expect(found.changes.map(({ at, to }) => [at.layer, at.gesture, tagOf(to)])).toEqual([
      ['x', 'k1.turn', '1:cc20'],
      ['y', 'k1.turn', '1:cc30'],
    ])
    expect(found.score).toMatchObject({ unmet: 0, stale: 0 })
  })

  it('moves nothing that a chart fixes, and nothing that has been learned, unless it is named', () => {
    const charted = testRig(
      [
        testController('away', { 'k1.turn': sendingCc(20) }, { inUse: false }),
        testController('here', { 'k1.turn': sendingCc(74), 'k2.turn': sendingCc(91) }),
      ],
      [
        testDestination('d', {
          parameters: [
            { id: 'p1', name: 'One' },
            { id: 'p2', name: 'Two' },
            { id: 'fixed', name: 'Fixed', fixed: { kind: 'cc', number: 74 } },
          ],
        }),
      ],
      {
        mappings: [
          learned('m1', 'k1.turn', 'p1', '1:cc20'),
          { id: 'f', gesture: 'here/k1.turn', destination: 'd', parameter: 'fixed' },
          { id: 'l', gesture: 'here/k2.turn', destination: 'd', parameter: 'p2', learnedAt: '1:cc91' },
        ],
      },
    )
    const found = plan(charted, request)
    expect(moves(found)).not.toContain('k1.turn → 1:cc20')
    expect(moves(found)).not.toContain('k2.turn → 1:cc20')
    const named = plan(charted, { ...request, gestures: ['here/k2.turn'] })
    expect(moves(named)).toEqual(['k2.turn → 1:cc20'])
    expect(named.score.stale).toBe(1)
    expect(named.stale).toHaveLength(1)
  })

  it('takes only what is done alike, and no chooser of layers', () => {
    const notes = Object.fromEntries(
      ['k1', 'k2', 'k3', 'k4', 'k5', 'k6'].map((id, index) => [`${id}.turn`, sendingCc(90 + index)]),
    )
    const found = plan(
      testRig(
        [
          testController('away', { 'k1.turn': sendingCc(20) }, { inUse: false }),
          testController('here', notes, {
            templates: layeredTemplates({}, {}, { mode: 'replace', gestures: [] }, notes),
          }),
        ],
        undefined,
        {
          mappings: [learned('m1', 'k1.turn', 'p1', '1:cc20')],
          choices: [
            {
              id: 'c',
              by: { kind: 'gesture', gesture: 'here/k1.turn' },
              how: 'next',
              targets: [
                { kind: 'layers', controller: 'here', template: 't', stack: 's', layers: ['x', 'y'] },
              ],
            },
          ],
        },
      ),
      request,
    )
    expect(moves(found)).toEqual(['k2.turn → 1:cc20'])
  })

  it('puts away who is stood in for, and keeps behaviour and range', () => {
    const toggled = sending({ kind: 'cc', number: 20, range: { low: 10, high: 90 } })
    const found = plan(
      rigOf({ 'k1.turn': toggled }, {}, [learned('m1', 'k1.turn', 'p1', '1:cc20')], {}, true),
      request,
    )
    expect(found.cures.map(({ label }) => label)).toEqual(['Put AWAY away'])
    expect(found.changes[0]?.edit).toMatchObject({ message: { range: { low: 10, high: 90 } } })
    expect(found.leaves).toEqual([])
  })

  it('turns for no press, and says so', () => {
    const pressed = rigOf(
      { 'k6.push': sendingCc(20) },
      { 'k1.turn': sendingCc(90) },
      [learned('m1', 'k6.push', 'p1', '1:cc20')],
      {
        templates: [
          {
            id: 't',
            name: 'T',
            base: { 'k1.turn': sendingCc(90), 'k6.push': { ...sendingCc(91), pinned: true } },
          },
        ],
      },
    )
    const found = plan(pressed, request)
    expect(found.changes).toEqual([])
    expect(found.shortages.map(({ message }) => message).join()).toMatch(/no counterpart/)
  })
})
