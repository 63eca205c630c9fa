import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { printTag } from '../../midi'
import { readNames, writeNames } from '../../midi/names'
import { readProperties, writeProperties, type PropertyDocument } from '../../midi/properties'
import { anyMappedRig, sendingCc, testController, testDestination, testRig } from '../../testing/rigs'
import { addressOf } from '../messages'
import { assignmentsOf } from '../places'
import { modelOf } from '../lookup'
import { assignmentsFrom, ASSIGNMENT_FIELDS } from './assignment-table'
import { guessedColumns } from './columns'
import { controllerNames, namesRows } from './names'
import { controllerProperties, destinationProperties, fromProperties, propertyRows } from './properties'
import { cases } from '../../testing/cases'

const performed = nineRingsRig('as-performed')
/** As a file has it. */
function throughFile(properties: PropertyDocument): PropertyDocument {
  const read = readProperties(writeProperties(properties))
  if (!read.ok) throw new Error(read.message)
  expect(read.left).toEqual([])
  return read.properties
}

describe('the lists of a destination', () => {
  it('come back by property exchange: fixed numbers with names and channels, and presets', () => {
    const both = [performed, nineRingsRig('as-found')].flatMap(({ destinations }) => destinations)
    let fixed = 0
    for (const destination of both) {
      const { parameters, programs, left } = fromProperties(
        throughFile(destinationProperties(destination)),
        new Set(),
      )
      const own = destination.parameters.filter(
        (each) => each.fixed !== null && each.fixed.kind !== 'note' && each.fixed.kind !== 'program',
      )
      expect(left).toEqual([])
      expect(parameters.map((each) => [each.path, each.name, each.fixed])).toEqual(
        own.map((each) => [each.path, each.name, each.fixed]),
      )
      expect(programs.map(({ name, number }) => [name, number])).toEqual(
        destination.programs.map(({ name, number }) => [name, number]),
      )
      fixed += own.length
    }
    expect(fixed).toBeGreaterThan(10)
  })

  it('says the channels it hears', () => {
    const only = testDestination('d', {
      hears: { playing: { channels: { kind: 'only', channels: [2, 5] } } },
    })
    const [destination] = testRig([], [only]).destinations
    if (!destination) throw new Error('no destination')
    expect(throughFile(destinationProperties(destination)).channels.map(({ channel }) => channel)).toEqual([
      2, 5,
    ])
  })
})

describe('a MIDI Name Document of a controller', () => {
  it('names every number it sends, and comes back as a table of them', () => {
    for (const controller of performed.controllers) {
      const names = controllerNames(controller, modelOf(performed, controller))
      const read = readNames(writeNames(names))
      if (!read.ok) throw new Error(read.message)
      const tags = namesRows(read.names)
        .slice(1)
        .map(({ cells }) => cells[1])
      const sent = [...assignmentsOf(controller)].flatMap(({ assignment: { messages } }) =>
        messages.flatMap((message) => {
          const address = addressOf(message)
          const isNamed =
            ['cc', 'cc14', 'nrpn', 'rpn'].includes(message.kind) ||
            (message.kind === 'note' && message.keys.kind === 'one')
          return address?.scope === 'channel' && isNamed ? [printTag({ ...address, channel: 'home' })] : []
        }),
      )
      expect(new Set(tags)).toEqual(new Set(sent))
      expect(new Set(tags).size).toBe(tags.length)
    }
  })

  it('names with all their names what several controls send', () => {
    const rig = testRig([testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(20) })])
    const [controller] = rig.controllers
    if (!controller) throw new Error('no controller')
    const labels = modelOf(rig, controller).surface.controls.map(({ label }) => label)
    const { controls } = controllerNames(controller, modelOf(rig, controller))
    expect(controls.map(({ name }) => name)).toEqual([`${labels[0]} / ${labels[1]}`])
  })
})

describe('what a controller sends', () => {
  it('comes back by property exchange as a table that writes the same addresses, control by control', () => {
    let written = 0
    for (const controller of performed.controllers) {
      const model = modelOf(performed, controller)
      const [template] = controller.templates
      if (!template || controller.templates.length > 1) continue
      const { rows } = propertyRows(throughFile(controllerProperties(controller, model)))
      const { items, bad } = assignmentsFrom(rows, guessedColumns(ASSIGNMENT_FIELDS, rows), {
        controller,
        model,
        template,
        middleC: 4,
        draw: null,
      })
      // Controls that are called alike cannot be told apart in any table.
      for (const { message } of bad) expect(message).toMatch(/are called|already what/)
      const before = new Map(
        [...assignmentsOf(controller)].map(({ place, assignment }) => [JSON.stringify(place), assignment]),
      )
      for (const { place, assignment } of items) {
        const [is] = assignment.messages
        const was = before.get(JSON.stringify(place))?.messages.map((each) => addressOf(each)) ?? []
        const atHome = (address: unknown): unknown =>
          JSON.parse(JSON.stringify(address).replaceAll('"home"', String(controller.homeChannel)))
        expect(was.map(atHome)).toContainEqual(atHome(is ? addressOf(is) : null))
        written++
      }
    }
    expect(written).toBeGreaterThan(50)
  })

  it('is written of any rig, and says of what is left out why', () => {
    fc.assert(
      fc.property(anyMappedRig, (rig) => {
        for (const controller of rig.controllers) {
          const document = throughFile(controllerProperties(controller, modelOf(rig, controller)))
          const { rows, left } = propertyRows(document)
          expect(rows.length - 1 + left.length).toBe(document.controls.length)
          for (const sentence of left)
            expect(sentence).toMatch(/is left out: it is (relative|the pressure of single keys)/)
        }
      }),
      cases(50),
    )
  })
})
