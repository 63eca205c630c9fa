import Papa from 'papaparse'
import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { writeNames } from '../midi/names'
import { writeProperties } from '../midi/properties'
import { anyDamage, damaged } from '../testing/damage'
import { HOSTILE_TEXTS } from '../testing/hostile-texts'
import { READERS, type Reading } from '../testing/readers'
import { anyRig } from '../testing/rigs'
import { controllerProperties, destinationProperties, modelOf, namesOf } from '.'
import { cutPart, writePart } from './part'
import { readRig, writeRig } from './parse'

/** `npm run fuzz` tries more. */
const RUNS = Number(process.env.FUZZ_RUNS ?? 60)

/** What is said of a text that was not read can be shown: sentences, not too many, and none too long. */
function expectSaid(reading: Reading): void {
  if (reading.ok) return
  expect(reading.says.length).toBeGreaterThan(0)
  expect(reading.says.length).toBeLessThanOrEqual(20)
  for (const sentence of reading.says) {
    expect(sentence.length).toBeLessThan(2000)
    expect(sentence).not.toMatch(/Invalid input|undefined|\[object/)
    expect(sentence.trim()).not.toBe('')
  }
}

const demo = nineRingsRig('as-found')
const document = fc.constantFrom(...demo.destinations.map((destination) => writeNames(namesOf(destination))))
const table = fc
  .array(
    fc.array(fc.oneof(fc.string({ maxLength: 12 }), fc.constantFrom('name', 'cc', '7', 'C3', '#ff8800'))),
    {
      maxLength: 6,
    },
  )
  .map((rows) => Papa.unparse(rows))
const parts = demo.controllers.flatMap(({ id }) => cutPart(demo, { kind: 'controller', id }) ?? [])
const part = fc.constantFrom(...parts.map(writePart))
const properties = fc.constantFrom(
  ...demo.destinations.map((each) => writeProperties(destinationProperties(each))),
  ...demo.controllers.map((each) => writeProperties(controllerProperties(each, modelOf(demo, each)))),
)
const texts: Readonly<Record<keyof typeof READERS, fc.Arbitrary<string>>> = {
  rig: anyRig.map((rig) => writeRig(rig)),
  part,
  table,
  names: document,
  properties,
}

describe.each(Object.keys(READERS) as Array<keyof typeof READERS>)(
  'damaged texts of the kind %s',
  (format) => {
    it('are read, or refused in sentences, and never break the reader', () => {
      fc.assert(
        fc.property(texts[format], anyDamage, (text, all) => {
          const hurt = damaged(text, all)
          const reading = READERS[format](hurt)
          expectSaid(reading)
          if (format !== 'rig' || !reading.ok) return
          // What is read can be written and read again.
          const read = readRig(hurt)
          if (read.ok) expect(readRig(writeRig(read.rig))).toEqual(read)
        }),
        { numRuns: RUNS },
      )
    }, 3_600_000)
  },
)

describe('texts on which a careless reader would hang', () => {
  it.each(HOSTILE_TEXTS.map((hostile) => [hostile.what, hostile] as const))('%s', (_, { format, text }) => {
    expectSaid(READERS[format](text(format === 'rig' ? 1_000_000 : 300_000)))
  })
})
