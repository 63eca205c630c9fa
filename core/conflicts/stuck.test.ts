import { describe, expect, it } from 'vitest'
import type { Rig, RigInput } from '../rig'
import {
  plainModel,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  layeredTemplates,
} from '../testing/rigs'
import { severities } from '../testing/mapped-rigs'

describe('stuck', () => {
  const padModel: NonNullable<RigInput['models']>[number] = {
    ...plainModel,
    id: 'pads',
    surface: {
      width: 100,
      height: 40,
      controls: ['p1', 'p2'].map((id, index) => ({
        id,
        kind: 'pad',
        label: id,
        gestures: ['strike'],
        place: { x: index * 30, y: 0, w: 20, h: 20 },
      })),
    },
  }
  const note = (number: number, more: object = {}) =>
    sending({ kind: 'note', keys: { kind: 'one', number }, ...more })
  const paged = (
    first: ReturnType<typeof note>,
    second: ReturnType<typeof note>,
    more: Partial<RigInput> = {},
    by = 'a/p2.strike',
  ): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            model: 'pads',
            templates: layeredTemplates(
              { 'p1.strike': first },
              { 'p1.strike': second },
              { gestures: ['p1.strike'], powerUp: 'x' },
            ),
          },
        ),
      ],
      [testDestination('d', { parameters: [{ id: 'p1', name: 'Boom', kind: 'note' }] })],
      {
        models: [padModel],
        choices: [
          {
            id: 'c',
            by: { kind: 'gesture', gesture: by },
            how: 'next',
            targets: [{ kind: 'layers', controller: 'a', template: 't', stack: 's', layers: ['x', 'y'] }],
          },
        ],
        ...more,
      },
    )
  it('finds a note whose layer can change while it is held', () => {
    expect(severities(paged(note(60), note(62)), 'stuck')).toEqual(['warning'])
  })
  const twoTemplates = (
    first: ReturnType<typeof note>,
    second: ReturnType<typeof note>,
    by = 'a/p2.strike',
  ): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            model: 'pads',
            templates: [
              { id: 't', name: 'T', base: { 'p1.strike': first } },
              { id: 'u', name: 'U', base: { 'p1.strike': second } },
            ],
          },
        ),
      ],
      undefined,
      {
        models: [padModel],
        choices: [
          {
            id: 'c',
            by: { kind: 'gesture', gesture: by },
            how: 'this-one',
            targets: [{ kind: 'template', controller: 'a', template: 'u' }],
          },
        ],
      },
    )
  it('finds what is held while another template is chosen, unless that sends the same', () => {
    expect(severities(twoTemplates(note(60), note(62)), 'stuck')).toEqual(['warning'])
    expect(severities(twoTemplates(note(60), note(60)), 'stuck')).toEqual([])
    expect(severities(twoTemplates(note(60), note(62), 'a/p1.strike'), 'stuck')).toEqual([])
  })
  it('finds a hold pedal likewise', () => {
    const pedal = (number: number) => sendingCc(number, { behaviour: { kind: 'momentary' } })
    for (const number of [64, 65, 66, 67, 68, 69])
      expect(severities(paged(pedal(number), pedal(80)), 'stuck'), `CC ${number}`).toEqual(['warning'])
    for (const number of [63, 70]) expect(severities(paged(pedal(number), pedal(80)), 'stuck')).toEqual([])
    expect(severities(paged(pedal(80), pedal(81)), 'stuck')).toEqual([])
  })
  it.each<[string, Rig]>([
    ['layers that send the same', paged(note(60), note(60))],
    ['a note that is not let go', paged(note(60, { behaviour: { kind: 'trigger' } }), note(60))],
    ['layers that nothing changes', paged(note(60), note(62), { choices: [] })],
    ['a pad that changes the layer itself', paged(note(60), note(62), {}, 'a/p1.strike')],
    [
      'drum sounds',
      paged(note(60), note(62), {
        mappings: ['1:note60', '1:note62'].map((learnedAt, index) => ({
          id: `m${index}`,
          gesture: 'a/p1.strike',
          destination: 'd',
          parameter: 'p1',
          learnedAt,
        })),
      }),
    ],
  ])('stays silent for %s', (_, rig) => expect(severities(rig, 'stuck')).toEqual([]))
})
