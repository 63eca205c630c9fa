import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import type { Rig } from '../rig'
import { joined, told, type MappingInput } from '../testing/mapped-rigs'
import {
  layeredTemplates,
  plainModel,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
} from '../testing/rigs'
import { askedSenders, troublesOf } from './free'
import { AllocateRequest } from './request'
import { teachingOf } from './teaching'

const pinned = (number: number) => ({ ...sendingCc(number), pinned: true })

/** What is taught elsewhere for whom, of each of its errors. */
function endingsOf(rig: Rig): string[][][] | null {
  const checked = check(rig)
  const troubles = troublesOf(checked)
  const { free } = askedSenders(checked, AllocateRequest.parse({ kind: 'replan' }), troubles)
  const found = teachingOf(checked.context, free, troubles)
  return found && [...found.values()].map((errors) => errors.map((own) => own.map(({ mapping }) => mapping)))
}

interface Given {
  knob1?: Assigned[string]
  knob2?: Assigned[string]
  /** What another controller sends, which does not move. */
  other?: number
}

const its = joined('a/k1.turn', 'p1', { id: 'its', learnedAt: '1:cc20' })

/** Knob 2 of the second layer sets off what is learned at 20, of knob 1 of the first; knob 2 of the first layer sends 22. */
const endings = (
  mappings: readonly MappingInput[],
  { knob1 = sendingCc(20), knob2 = sendingCc(20), other }: Given = {},
) => {
  const templates = layeredTemplates(
    { 'k1.turn': knob1, 'k2.turn': sendingCc(22) },
    { 'k2.turn': knob2 },
    { mode: 'replace', gestures: ['k1.turn', 'k2.turn'] },
  )
  const others = other === undefined ? [] : [testController('b', { 'k1.turn': pinned(other) })]
  return endingsOf(
    testRig(
      [testController('a', {}, { templates }), ...others],
      [testDestination('d'), testDestination('e')],
      { mappings: [...mappings] },
    ),
  )
}

describe('who sets off what is not its own', () => {
  const own = (destination: string): MappingInput =>
    joined('a/k2.turn', 'p2', { id: 'own', destination, learnedAt: '1:cc22' })

  it('is in no error any more once that is taught elsewhere', () => {
    expect(endings([its])).toEqual([[['its']]])
  })

  it('or once something of its own at that destination is taught where it sends', () => {
    expect(endings([its, own('d')])).toEqual([[['its', 'own']]])
    expect(endings([its, own('e')])).toEqual([[['its']]])
    // What nobody uses any more is not taught elsewhere.
    const old = joined(null, 'p2', { id: 'old', learnedAt: '1:cc20' })
    expect(endings([old], { knob1: sendingCc(21) })).toBeNull()
    expect(endings([old, own('d')], { knob1: sendingCc(21) })).toEqual([[['own']]])
    expect(endings([{ ...old, parameter: 'p1' }, own('d')], { knob1: sendingCc(21) })).toBeNull()
  })

  it('is so in each of its errors, and in none that it is in for another reason', () => {
    const also = joined('a/k1.turn', 'p2', { id: 'also', destination: 'e', learnedAt: '1:cc20' })
    expect(endings([its, also])).toEqual([[['also'], ['its']]])
    expect(endings([its], { other: 20 })).toBeNull()
  })

  it('stays in it where what it sets off is heard of one who does not move, or of nobody, or where it does not move itself', () => {
    expect(endings([its], { knob1: pinned(20) })).toBeNull()
    expect(endings([its], { knob1: sendingCc(21) })).toBeNull()
    expect(endings([its], { knob2: pinned(20) })).toBeNull()
    // One of two errors is not enough.
    const lasting = joined('b/k1.turn', 'p2', { id: 'lasting', learnedAt: '1:cc20' })
    expect(endings([its, lasting], { other: 23 })).toBeNull()
  })

  it('may be a touch that comes along', () => {
    const [first, ...rest] = plainModel.surface?.controls ?? []
    const controls = first ? [{ ...first, gestures: ['turn' as const, 'touch' as const] }, ...rest] : []
    const touched = { ...plainModel, surface: { ...plainModel.surface, width: 200, height: 40, controls } }
    const base = { 'k1.touch': sendingCc(20), 'k2.turn': sendingCc(20) }
    const mapping = joined('a/k2.turn', 'p1', { id: 'touched', learnedAt: '1:cc20' })
    const rig = testRig([testController('a', base)], undefined, { models: [touched], mappings: [mapping] })
    expect(told(rig, 'secondary')).toHaveLength(1)
    expect(endingsOf(rig)).toEqual([[['touched']]])
  })
})
