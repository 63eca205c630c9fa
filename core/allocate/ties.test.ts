import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { joined } from '../testing/mapped-rigs'
import { layeredTemplates, sendingCc, testController, testRig } from '../testing/rigs'
import { hearingsOf, withFollowersIn } from './hearing'
import { noCosts } from './solver/problem'
import type { Still } from './stills'
import type { Ending } from './teaching'
import { tiesOf } from './ties'

it('lets who stays because something is lost stay beside whom others may, unless that hears them', () => {
  const all = { 'k1.turn': sendingCc(20) }
  const layers = layeredTemplates(all, all, { mode: 'replace', gestures: ['k1.turn'] })
  const rig = testRig(
    [testController('a', all), testController('b', {}, { templates: layers }), testController('c', all)],
    undefined,
    { mappings: [joined('b/k1.turn', 'p1', { learnedAt: '1:cc20' })] },
  )
  const { context } = check(rig)
  const { senders } = context.occupancy
  const [a, b, alsoB, c] = senders
  const [hearing] = hearingsOf(context, senders, withFollowersIn(context)).all
  if (!a || !b || !alsoB || !c || !hearing) throw new Error('The rig has four senders and a mapping.')
  const names: string[] = []
  const token = (name: string): number => (names.includes(name) ? names.indexOf(name) : names.push(name) - 1)
  const ending = { mapping: hearing.mapping.id, leaders: hearing.leaders.map(({ key }) => key), heard: [] }
  const groups = [[a.key, c.key]]
  const { ofStill, ofHeard } = tiesOf({ groups, endings: new Map([[a.key, [[ending]]]]) }, { token })
  const still = (isLeft: boolean, lost: readonly Ending[]): Still => ({
    address: 0,
    isLeft,
    isUnmet: false,
    lost,
    costs: noCosts(),
  })
  const areBoth = (one: readonly number[], other: readonly number[]): boolean =>
    !one.some((number) => other.includes(number))
  const staying = ofStill(a, still(false, []))
  const lost = ofStill(a, still(false, [ending]))
  const [withB, withC] = [b, c].map((sender) => ofStill(sender, still(false, [])))
  for (const own of [staying, lost])
    expect([withB, withC].map((other) => areBoth(own, other ?? []))).toEqual([true, false])
  for (const heard of [b, alsoB]) {
    expect(areBoth(lost, ofHeard(heard, hearing))).toBe(false)
    expect(areBoth(staying, ofHeard(heard, hearing))).toBe(true)
  }
  expect(areBoth(ofHeard(b, hearing), ofHeard(alsoB, hearing))).toBe(true)
  expect(ofStill(a, still(true, []))).toEqual([])
})
