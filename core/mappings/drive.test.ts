import { expect, it } from 'vitest'
import { perform } from '../rig'
import { sending, testController, testDestination, testRig } from '../testing/rigs'
import { drivesOf, resolveMappings } from '.'

it('what moves a parameter is kept while its control is the same, and made anew when that changes', () => {
  const relative = { kind: 'relative' as const, encoding: 'offset-binary' as const }
  const rig = testRig(
    [testController('a', { 'k6.turn': sending({ kind: 'cc', number: 20, behaviour: relative }) })],
    [testDestination('d', { parameters: [{ id: 'p', name: 'P' }] })],
    {
      mappings: [{ id: 'm', gesture: 'a/k6.turn', destination: 'd', parameter: 'p', learnedAt: '1:cc20' }],
    },
  )
  const drives = (of: typeof rig) => resolveMappings(of).map((resolved) => drivesOf(of, resolved))
  const before = drives(rig)
  expect(drives(rig)[0]).toBe(before[0])
  expect(drives({ ...rig, name: 'Another name' })[0]).toBe(before[0])
  const { rig: after } = perform(rig, 'x', [
    { type: 'controls-set', model: 'plain', controls: [{ id: 'k6', set: { detentsPerTurn: 24 } }] },
  ])
  expect(before[0]?.[0]?.travel).toMatchObject({ kind: 'clicks', clicksPerTurn: null })
  expect(drives(after)[0]?.[0]?.travel).toMatchObject({ kind: 'clicks', clicksPerTurn: 24 })
})
