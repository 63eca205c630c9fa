import { expect, it } from 'vitest'
import { perform, type Rig } from '../rig'
import { tagOf } from '../testing/addresses'
import { joined, type MappingInput } from '../testing/mapped-rigs'
import { layeredTemplates, sending, sendingCc, testController, testRig } from '../testing/rigs'
import { check } from '../conflicts'
import { onceTaught, relearnList } from '.'

const clicks = sending({
  kind: 'cc',
  channel: 1,
  number: 20,
  behaviour: { kind: 'relative', encoding: 'offset-binary', acceleration: 'none' },
})

/** One knob in two layers, with these mappings. */
const layered = (
  x: ReturnType<typeof sendingCc>,
  y: ReturnType<typeof sendingCc>,
  mappings: MappingInput[],
): Rig =>
  testRig(
    [
      testController(
        'a',
        {},
        {
          templates: layeredTemplates(
            { 'k1.turn': x },
            { 'k1.turn': y },
            { mode: 'replace', gestures: ['k1.turn'] },
          ),
        },
      ),
    ],
    undefined,
    { mappings },
  )

const taughtIn = (rig: Rig): Record<string, string | null> =>
  Object.fromEntries(
    relearnList(rig).flatMap(({ lines }) => lines.map(({ parameter, to }) => [parameter.id, tagOf(to)])),
  )

it('gives mappings of one control a layer each', () => {
  const rig = layered(sendingCc(20), sendingCc(21), [joined('a/k1.turn', 'p1'), joined('a/k1.turn', 'p2')])
  expect(taughtIn(rig)).toEqual({ p1: '1:cc20', p2: '1:cc21' })
})

it('passes over the layer that already moves something', () => {
  const rig = layered(sendingCc(20), sendingCc(21), [
    joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
    joined('a/k1.turn', 'p2', { learnedAt: '1:cc99' }),
  ])
  expect(taughtIn(rig)).toEqual({ p2: '1:cc21' })
})

it('teaches positions to what expects positions, though clicks come first', () => {
  const rig = layered(clicks, sendingCc(21), [joined('a/k1.turn', 'p1')])
  expect(taughtIn(rig)).toEqual({ p1: '1:cc21' })
})

it('keeps to the number that was learned, where only the channel is another', () => {
  const other = sending({ kind: 'cc', channel: 2, number: 21 })
  const rig = layered(sendingCc(20), other, [joined('a/k1.turn', 'p1', { learnedAt: '5:cc21' })])
  expect(taughtIn(rig)).toEqual({ p1: '2:cc21' })
})

it('teaches after a change what the list of what to teach says, and so makes no new error', () => {
  const before = layered(clicks, sendingCc(21), [joined('a/k1.turn', 'p1', { learnedAt: '1:cc21' })])
  const after = perform(before, 'x', [
    {
      type: 'message',
      at: { controller: 'a', template: 't', layer: 'y', gesture: 'k1.turn' },
      index: 0,
      message: sendingCc(30).messages[0]!,
    },
  ] as Parameters<typeof perform>[2]).rig
  const { rig, taught } = onceTaught(before, after)
  expect(taught).toHaveLength(1)
  expect(taughtIn(after)).toEqual({ p1: '1:cc30' })
  expect(tagOf(rig.mappings[0]?.learnedAt ?? null)).toBe('1:cc30')
  expect(check(rig).findings.filter(({ rule }) => rule === 'mode-mismatch')).toEqual([])
})
