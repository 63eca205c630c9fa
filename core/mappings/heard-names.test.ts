import { expect, it } from 'vitest'
import { occupancyOf } from '../addresses'
import { sending, testController, testDestination, testRig } from '../testing/rigs'
import { heardNotes, heardPrograms } from '.'

const note = (number: number) => sending({ kind: 'note', keys: { kind: 'one', number } })
const program = (number: number, bank: { msb: number; lsb: number } | null) =>
  sending({ kind: 'program', number, bank })

it('named notes stand from the lowest up, with the gaps between and who plays them', () => {
  const destination = testDestination('d', {
    noteNames: [
      { number: 42, name: 'Hat' },
      { number: 36, name: 'Kick' },
      { number: 37, name: 'Rim' },
    ],
  })
  const rig = testRig([testController('a', { 'k1.turn': note(42), 'k2.turn': note(50) })], [destination])
  expect(
    heardNotes(occupancyOf(rig), rig.destinations[0]!).map(({ named, gap, by }) => [
      named.name,
      gap,
      by.map(({ gesture }) => gesture),
    ]),
  ).toEqual([
    ['Kick', 0, []],
    ['Rim', 0, []],
    ['Hat', 4, ['a/k1.turn']],
  ])
})

it('a program without bank may choose one in any bank, one with a bank only in its own', () => {
  const destination = testDestination('d', {
    programs: [
      { number: 5, bank: null, name: 'Plain' },
      { number: 5, bank: { msb: 1, lsb: 0 }, name: 'Banked' },
      { number: 6, bank: null, name: 'Other' },
    ],
  })
  const rig = testRig(
    [
      testController('a', {
        'k1.turn': program(5, null),
        'k2.turn': program(5, { msb: 1, lsb: 0 }),
        'k3.turn': program(5, { msb: 1, lsb: 1 }),
      }),
    ],
    [destination],
  )
  expect(
    heardPrograms(occupancyOf(rig), rig.destinations[0]!).map(({ by }) => by.map(({ gesture }) => gesture)),
  ).toEqual([['a/k1.turn'], ['a/k1.turn', 'a/k2.turn'], []])
})
