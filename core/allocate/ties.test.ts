import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { joined } from '../testing/mapped-rigs'
import { sendingCc, testController, testRig } from '../testing/rigs'
import { hearingsOf, withFollowersIn } from './hearing'
import { noCosts } from './solver/problem'
import type { Still } from './stills'
import { tiesOf } from './ties'

it('lets who stays because something is lost keep only to errors that cannot end so, unless it is heard', () => {
  const all = { 'k1.turn': sendingCc(20) }
  const rig = testRig(
    ['a', 'b', 'c'].map((id) => testController(id, all)),
    undefined,
    { mappings: [joined('b/k1.turn', 'p1', { learnedAt: '1:cc20' })] },
  )
  const { context } = check(rig)
  const { senders } = context.occupancy
  const [a, b, c] = senders
  const [hearing] = hearingsOf(context, senders, withFollowersIn(context)).all
  if (!a || !b || !c || !hearing) throw new Error('The rig has three senders and a mapping.')
  const names: string[] = []
  const token = (name: string): number => (names.includes(name) ? names.indexOf(name) : names.push(name) - 1)
  const firm = {
    barred: new Set<string>(),
    groups: [[a.key, c.key]],
    endings: new Map([[a.key, [hearing.mapping.id]]]),
  }
  const groups = [[a.key, b.key], ...firm.groups]
  const { ofStill, ofHeard } = tiesOf({ barred: new Set(), groups, firm }, { token })
  const still = (isLeft: boolean, lost: string | null): Still => ({
    address: 0,
    isLeft,
    isUnmet: false,
    lost,
    costs: noCosts(),
  })
  const areBoth = (one: readonly number[], other: readonly number[]): boolean =>
    !one.some((number) => other.includes(number))
  const staying = ofStill(a, still(false, null))
  const lost = ofStill(a, still(false, hearing.mapping.id))
  const [withB, withC] = [b, c].map((sender) => ofStill(sender, still(false, null)))
  expect([withB, withC].map((other) => areBoth(staying, other ?? []))).toEqual([false, false])
  expect([withB, withC].map((other) => areBoth(lost, other ?? []))).toEqual([true, false])
  expect(areBoth(lost, ofHeard(b, hearing))).toBe(false)
  expect(areBoth(staying, ofHeard(b, hearing))).toBe(true)
  expect(ofStill(a, still(true, null))).toEqual([])
})
