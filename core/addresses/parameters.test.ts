import { expect, it } from 'vitest'
import { powerUpShowing, rigIndex } from '../rig'
import { sending, testController, testDestination, testRig } from '../testing/rigs'
import { CHANNELS } from '../midi'
import { busesNamed, EVERY_BUS, latticeOf, occupancyOf, parametersOf, withSilent } from '.'

const rig = testRig(
  [
    testController('a', {
      'k1.turn': sending({ kind: 'nrpn', number: 641 }),
      'k2.turn': sending({ kind: 'rpn', number: 0 }),
      'k3.turn': sending({ kind: 'cc', number: 20 }),
    }),
    testController('b', { 'k1.turn': sending({ kind: 'nrpn', number: 641 }) }),
  ],
  [
    testDestination('d'),
    testDestination('e', { hears: { playing: { channels: { kind: 'only', channels: [2] } } } }),
  ],
)
const occupancy = occupancyOf(rig)
const showing = Object.fromEntries(
  [...rigIndex(rig).controllers.values()].map((controller) => [controller.id, powerUpShowing(controller)]),
)

it('lists the parameters that arrive, with who sends them', () => {
  const lines = parametersOf(occupancy, busesNamed(occupancy, 'd'), showing)
  expect(lines.map(({ kind, channel, number, owners }) => [kind, channel, number, owners.length])).toEqual([
    ['nrpn', 1, 641, 2],
    ['rpn', 1, 0, 1],
  ])
  expect(lines.every(({ owners }) => owners.every(({ live }) => live))).toBe(true)
  expect(parametersOf(occupancy, busesNamed(occupancy, 'e'), showing)).toEqual([])
})

it('shows every destination at once, each sender once a cell', () => {
  const all = latticeOf(occupancy, busesNamed(occupancy, EVERY_BUS), 'cc', showing)
  const one = latticeOf(occupancy, busesNamed(occupancy, 'd'), 'cc', showing)
  expect(all.bus).toBe(EVERY_BUS)
  expect(all.rows).toEqual(one.rows)
  expect(busesNamed(occupancy, 'gone').map(({ id }) => id)).toEqual(['d'])
})

it('gives rows to silent channels, in their place or below, and leaves the others as they are', () => {
  const { rows, silentChannels } = latticeOf(occupancy, busesNamed(occupancy, EVERY_BUS), 'cc', showing)
  const lattice = { bus: EVERY_BUS, family: 'cc' as const, rows, silentChannels, used: 0 }
  const every = new Set(CHANNELS)
  expect(withSilent(lattice, every, 'in-order').rows.map(({ channel }) => channel)).toEqual(CHANNELS)
  expect(withSilent(lattice, every, 'below').rows.slice(0, rows.length)).toEqual(rows)
  const [silent] = silentChannels
  const one = withSilent(lattice, new Set(silent === undefined ? [] : [silent]), 'below')
  expect(one.rows.at(-1)).toMatchObject({ channel: silent, cells: [] })
  expect(one.silentChannels).toEqual(silentChannels.slice(1))
})
