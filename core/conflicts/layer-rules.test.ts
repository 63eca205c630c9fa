import { describe, expect, it } from 'vitest'
import type { Rig, RigInput } from '../rig'
import {
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
  type MessageInput,
  layeredTemplates,
} from '../testing/rigs'
import { check } from '.'
import { type MappingInput, severities, joined, rigOf, learned20, sends20 } from '../testing/mapped-rigs'

describe('a mapping set off by a control that is not its own', () => {
  const layered = (x: Assigned, y: Assigned, mappings: MappingInput[], more: Partial<RigInput> = {}): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            templates: layeredTemplates(x, y, { powerUp: 'x', gestures: ['k1.turn', 'k2.turn'] }),
          },
        ),
      ],
      [
        testDestination('d', {
          scopes: [
            { id: 'one', name: 'One' },
            { id: 'two', name: 'Two' },
          ],
        }),
      ],
      { mappings, ...more },
    )
  const passage = (id: string, layer: string, scope: string) => ({
    id,
    name: id,
    showing: [{ controller: 'a', template: 't', layers: [{ stack: 's', layer }] }],
    scopes: [{ destination: 'd', scope }],
  })
  it('in another layer', () => {
    expect(severities(layered(sends20, { 'k2.turn': sendingCc(20) }, [learned20]), 'ghost')).toEqual([
      'error',
    ])
    expect(severities(layered(sends20, { 'k2.turn': sendingCc(21) }, [learned20]), 'ghost')).toEqual([])
  })
  it('in place of a control that is off, or moved', () => {
    expect(severities(rigOf({ 'k2.turn': sendingCc(20) }, [learned20]), 'ghost')).toEqual(['error'])
    expect(
      severities(rigOf({ 'k1.turn': sendingCc(30), 'k2.turn': sendingCc(20) }, [learned20]), 'ghost'),
    ).toEqual(['error'])
  })
  it('not where both act together: that is one address twice', () => {
    const rig = rigOf({ ...sends20, 'k2.turn': sendingCc(20) }, [learned20])
    expect(severities(rig, 'ghost')).toEqual([])
    expect(severities(rig, 'same-address')).toEqual(['error'])
  })
  it('also by the LSB of a pair', () => {
    const old = joined(null, 'p1', { learnedAt: '1:cc52' })
    expect(severities(rigOf({ 'k1.turn': sending({ kind: 'cc14', number: 20 }) }, [old]), 'ghost')).toEqual([
      'error',
    ])
  })
  it('only in passages in which its scope counts', () => {
    const rig = (scope: string): Rig =>
      layered(sends20, { 'k2.turn': sendingCc(20) }, [{ ...learned20, scope: 'one' }], {
        passages: [passage('first', 'x', 'one'), passage('second', 'y', scope)],
      })
    expect(severities(rig('one'), 'ghost')).toEqual(['error'])
    expect(severities(rig('two'), 'ghost')).toEqual([])
    const anywhere = layered(sends20, { 'k2.turn': sendingCc(20) }, [{ ...learned20, scope: null }], {
      passages: [passage('first', 'x', 'one'), passage('second', 'y', 'two')],
    })
    expect(severities(anywhere, 'ghost')).toEqual(['error'])
  })
  it('an accord with its control excuses it', () => {
    const accords = [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'a/k2.turn'] }]
    const rig = layered(sends20, { 'k2.turn': sendingCc(20) }, [learned20], { accords })
    expect(check(rig).findings.map(({ rule }) => rule)).not.toContain('ghost')
    expect(severities(rig, 'idle-accord')).toEqual([])
  })
  it('and layers that share, and what two move, are bound by passages too', () => {
    const both = [
      { ...learned20, scope: 'one' },
      joined('a/k2.turn', 'p2', { learnedAt: '1:cc20', scope: 'one' }),
    ]
    const rig = (scope: string): Rig =>
      layered(sends20, { 'k2.turn': sendingCc(20) }, both, {
        passages: [passage('first', 'x', scope), passage('second', 'y', scope)],
      })
    expect(severities(rig('one'), 'layer-share')).toEqual(['error'])
    expect(severities(rig('two'), 'layer-share')).toEqual([])
    const drives = (scope: string): Rig =>
      testRig(
        [testController('a', { ...sends20, 'k2.turn': sendingCc(21) })],
        [
          testDestination('d', {
            scopes: [
              { id: 'one', name: 'One' },
              { id: 'two', name: 'Two' },
            ],
          }),
        ],
        {
          mappings: [
            { ...learned20, scope: 'one' },
            joined('a/k2.turn', 'p1', { learnedAt: '1:cc21', scope: 'one' }),
          ],
          passages: [{ id: 'p', name: 'P', scopes: [{ destination: 'd', scope }] }],
        },
      )
    expect(severities(drives('one'), 'double-drive')).toEqual(['warning'])
    expect(severities(drives('two'), 'double-drive')).toEqual([])
  })
})

describe('a layer that lies over others', () => {
  const shifted = (base: Assigned, over: Assigned, more: Partial<RigInput> = {}): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            templates: [
              {
                id: 't',
                name: 'T',
                base,
                stacks: [
                  {
                    id: 's',
                    name: 'Shift',
                    mode: 'lie-over',
                    gestures: ['k1.turn', 'k2.turn'],
                    layers: [{ id: 'x', name: 'X', assignments: over }],
                  },
                ],
              },
            ],
          },
        ),
      ],
      undefined,
      more,
    )
  it('hides the control that it sets, and only that', () => {
    expect(
      severities(shifted(sends20, { 'k1.turn': sendingCc(21), 'k2.turn': sendingCc(20) }), 'same-address'),
    ).toEqual([])
    expect(severities(shifted(sends20, { 'k2.turn': sendingCc(20) }), 'same-address')).toEqual(['error'])
  })
  it('a passage in which it shows hides it too', () => {
    const rig = (layer: string | null): Rig => {
      const base = shifted(sends20, { 'k1.turn': sendingCc(21) })
      const controllers = [...base.controllers, ...testRig([testController('b', sends20)]).controllers]
      return {
        ...base,
        controllers,
        cables: testRig([testController('a', {}), testController('b', {})]).cables,
        passages: [
          {
            id: 'p',
            name: 'P',
            showing: [{ controller: 'a', template: 't', layers: [{ stack: 's', layer }] }],
            scopes: [],
          },
        ],
      }
    }
    expect(severities(rig(null), 'same-address')).toEqual(['error'])
    expect(severities(rig('x'), 'same-address')).toEqual([])
  })
  it('makes a knob jump that moves another thing through it', () => {
    const mappings = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', takeover: 'at-once' }),
      joined('a/k1.turn', 'p2', { learnedAt: '1:cc21' }),
    ]
    expect(severities(shifted(sends20, { 'k1.turn': sendingCc(21) }, { mappings }), 'layer-jump')).toEqual([
      'warning',
    ])
  })
})

describe('layer-jump', () => {
  const knob = (x: MessageInput, y: MessageInput, mappings: MappingInput[]): string[] =>
    severities(
      testRig(
        [
          testController(
            'a',
            {},
            {
              templates: layeredTemplates(
                { 'k1.turn': sending(x) },
                { 'k1.turn': sending(y) },
                { powerUp: 'x', gestures: ['k1.turn'] },
              ),
            },
          ),
        ],
        undefined,
        { mappings },
      ),
      'layer-jump',
    )
  it('takes no programs for positions, and no layers that move the same things', () => {
    const programs = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:pc1', takeover: 'at-once' }),
      joined('a/k1.turn', 'p2', { learnedAt: '1:pc2' }),
    ]
    expect(knob({ kind: 'program', number: 1 }, { kind: 'program', number: 2 }, programs)).toEqual([])
    const both = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', takeover: 'at-once' }),
      joined('a/k1.turn', 'p2', { learnedAt: '1:cc20' }),
    ]
    expect(knob({ kind: 'cc', number: 20 }, { kind: 'cc', number: 20 }, both)).toEqual([])
  })
})
