import { expect, it } from 'vitest'
import { playRig, switchedOn } from '#core/bench'
import { nineRingsRig } from '#demo'
import { noteMoves, type Move } from './moves'

const rig = nineRingsRig('as-performed')
function played(moves: readonly Move[], gesture: string, at: number): readonly Move[] {
  const { passed } = playRig(rig, switchedOn(rig), 'syzra', { kind: 'move', gesture, to: 0.5 }, at)
  return noteMoves(rig, moves, passed)
}
const controls = (moves: readonly Move[]): unknown[] => moves.map(({ gesture }) => gesture)

it('what moves comes to the top, and stays where it is while it goes on', () => {
  const first = played([], 'fader-1.slide', 0)
  expect(controls(first)).toEqual(['fader-1.slide'])
  const second = played(first, 'fader-2.slide', 100)
  expect(controls(second)).toEqual(['fader-2.slide', 'fader-1.slide'])
  expect(controls(played(second, 'fader-1.slide', 200))).toEqual(['fader-2.slide', 'fader-1.slide'])
  expect(controls(played(second, 'fader-1.slide', 2000))).toEqual(['fader-1.slide', 'fader-2.slide'])
})

it('says of much that passed at once what each thing came to last', () => {
  const { passed } = playRig(
    rig,
    switchedOn(rig),
    'syzra',
    { kind: 'move', gesture: 'fader-1.slide', to: 1, overMs: 400 },
    0,
  )
  const [move, ...others] = noteMoves(rig, [], passed)
  expect(others).toEqual([])
  expect(move?.share).toBe(1)
})
