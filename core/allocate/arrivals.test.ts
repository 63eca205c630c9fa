import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { crowdedRig } from '../testing/crowded-rigs'
import { plan } from '../testing/plans'
import type { Rig } from '../rig'

/** What may be another in a rig, each as an edit that leaves all else the very same objects. */
const CHANGES: ReadonlyArray<readonly [what: string, change: (rig: Rig) => Rig]> = [
  ['a cable less', (rig) => ({ ...rig, cables: rig.cables.filter(({ id }) => id !== 'b-e') })],
  [
    'a cable more',
    (rig) => ({ ...rig, cables: [...rig.cables, { ...rig.cables[0]!, id: 'a-e', to: rig.cables[2]!.to }] }),
  ],
  [
    'another home channel',
    (rig) => ({
      ...rig,
      controllers: rig.controllers.map((each) => ({ ...each, homeChannel: each.homeChannel === 1 ? 2 : 1 })),
    }),
  ],
  [
    'a controller put away',
    (rig) => ({
      ...rig,
      controllers: rig.controllers.map((each) => (each.id === 'w' ? { ...each, inUse: false } : each)),
    }),
  ],
  [
    'a destination that hears one channel',
    (rig) => ({
      ...rig,
      destinations: rig.destinations.map((each) =>
        each.id === 'd' ? { ...each, hears: rig.destinations.find(({ id }) => id === 'e')!.hears } : each,
      ),
    }),
  ],
]

it('is worked out anew where a message arrives elsewhere', () => {
  let differing = 0
  fc.assert(
    fc.property(fc.nat({ max: 1000 }), fc.constantFrom(...CHANGES), (seed, [, change]) => {
      const { rig, request } = crowdedRig({ seed, gestures: 10, channels: 2, full: 0.7 })
      const before = plan(rig, request)
      const changed = change(rig)
      const after = plan(changed, request)
      // A copy shares nothing with what was seen before.
      expect(after.edits).toEqual(plan(structuredClone(changed), request).edits)
      if (JSON.stringify(after.edits) !== JSON.stringify(before.edits)) differing++
    }),
    { numRuns: 40 },
  )
  expect(differing).toBeGreaterThan(5)
})
