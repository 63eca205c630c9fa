import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { anyRig } from '../testing/rigs'
import { occupancyOf } from './occupancy'
import { isUnheard, sentByAll } from './sent'
import { cases } from '../testing/cases'

it('everyone who sends and has a way out is in one place, cables or not', () => {
  fc.assert(
    fc.property(anyRig, (rig) => {
      const sent = sentByAll({ ...rig, cables: [], destinations: [] })
      const there = new Set(
        [...sent.cells.values()].flatMap((cells) => [...cells.values()].flat().map(({ sender }) => sender)),
      )
      const out = new Set(
        rig.controllers
          .filter(({ ports }) => ports.some(({ direction }) => direction === 'out'))
          .map(({ id }) => id),
      )
      for (const sender of sent.senders)
        if (
          out.has(sender.place.controller) &&
          sent.emissionsOf(sender).some(({ cells }) => cells.length > 0)
        )
          expect(there.has(sender)).toBe(true)
    }),
    cases(60),
  )
})

it('with the cables of the demo pulled out nothing is heard, and all of it can be looked at', () => {
  const rig = nineRingsRig('as-found')
  expect(isUnheard(occupancyOf(rig))).toBe(false)
  const pulled = { ...rig, cables: [] }
  expect(isUnheard(occupancyOf(pulled))).toBe(true)
  const sent = sentByAll(pulled)
  expect(sent.buses.map(({ name }) => name)).toEqual(['sent, heard by nobody yet'])
  expect(isUnheard(sent)).toBe(false)
})
