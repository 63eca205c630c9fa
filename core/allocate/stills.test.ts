import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import { sendingCc, testController, testRig } from '../testing/rigs'
import { AllocateRequest, type AllocateInput } from './request'
import { stillFinder, type Stays } from './stills'
import type { Ending } from './teaching'

it.each<[string, AllocateInput]>([
  ['where it is', { kind: 'replan', policy: { kind: 'keep' } }],
  ['outside of what is asked', { kind: 'avoid', away: [{ low: 20, high: 20 }] }],
  ['either way', { kind: 'replan', policy: { kind: 'each-controller' } }],
])('lets who is in an error that may end stay as it could without one: %s', (_, input) => {
  const { context } = check(testRig([testController('a', { 'k1.turn': sendingCc(20) })]))
  const [sender] = context.occupancy.senders
  if (!sender) throw new Error('The rig has a sender.')
  const nobody = { barred: new Set<string>(), groups: [] }
  const own = { ...nobody, barred: new Set([sender.key]) }
  const endingOf = (mapping: string): Ending => ({ mapping, leaders: [], heard: [] })
  const endings = new Map([[sender.key, [[endingOf('m')]]]])
  const request = AllocateRequest.parse(input)
  const staysBy = (stays: Stays) => stillFinder(context, request, stays)(sender)
  const plain = staysBy({ ...nobody, endings: new Map() })
  const ending = staysBy({ ...own, endings }).filter(({ lost }) => lost.length > 0)
  expect(plain.length).toBeGreaterThan(0)
  expect(ending.map(({ lost: _lost, ...still }) => still)).toEqual(
    plain.map(({ lost: _lost, ...still }) => still),
  )
  const lasting = staysBy({ ...own, endings: new Map() })
  expect(lasting.every(({ isLeft }) => isLeft)).toBe(true)
})

describe('who is in several errors', () => {
  const lostBy = (errors: string[][]): string[] => {
    const { context } = check(testRig([testController('a', { 'k1.turn': sendingCc(20) })]))
    const [sender] = context.occupancy.senders
    if (!sender) throw new Error('The rig has a sender.')
    const known = new Map(
      [...new Set(errors.flat())].map((mapping) => [mapping, { mapping, leaders: [], heard: [] }]),
    )
    const own = errors.map((error) => error.flatMap((mapping) => known.get(mapping) ?? []))
    const stays = { barred: new Set([sender.key]), groups: [], endings: new Map([[sender.key, own]]) }
    const request = AllocateRequest.parse({ kind: 'replan', policy: { kind: 'keep' } })
    return stillFinder(
      context,
      request,
      stays,
    )(sender)
      .filter(({ isLeft }) => !isLeft)
      .map(({ lost }) => lost.map(({ mapping }) => mapping).join(' '))
  }

  it('may stay where each of them ends, by one of what ends it', () => {
    expect(lostBy([['m']])).toEqual(['m'])
    expect(lostBy([['m', 'n'], ['o']])).toEqual(['m o', 'n o'])
    expect(lostBy([['m', 'n'], ['m']])).toEqual(['m', 'n m'])
  })

  it('may stay where the first ends, if there are very many ways', () => {
    const many = [1, 2, 3].map((error) => [1, 2, 3].map((n) => `${error}-${n}`))
    expect(lostBy(many)).toEqual(['1-1', '1-2', '1-3'])
  })
})
