import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { sendingCc, testController, testRig } from '../testing/rigs'
import { AllocateRequest, type AllocateInput } from './request'
import { stillFinder, type Stays } from './stills'

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
  const endings = new Map([[sender.key, [{ mapping: 'm', leaders: [], heard: [] }]]])
  const request = AllocateRequest.parse(input)
  const staysBy = (stays: Stays) => stillFinder(context, request, stays)(sender)
  const plain = staysBy({ ...nobody, firm: { ...nobody, endings: new Map() } })
  const ending = staysBy({ ...own, firm: { ...nobody, endings } }).filter(({ lost }) => lost !== null)
  expect(plain.length).toBeGreaterThan(0)
  expect(ending.map(({ lost: _lost, ...still }) => still)).toEqual(
    plain.map(({ lost: _lost, ...still }) => still),
  )
  const firm = staysBy({ ...own, firm: { ...own, endings } })
  expect(firm.every(({ isLeft }) => isLeft)).toBe(true)
})
