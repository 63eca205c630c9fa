import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { toJson } from '../midi'
import { anyRig } from '../testing/rigs'
import { MOST_PROBLEMS, readWithin } from './bounded'
import { FILE_LIMITS, readRig } from './parse'
import { problemsOf } from './problems'
import { RigSchema } from './schema'
import { cases } from '../testing/cases'

const MOST = FILE_LIMITS.assignments
const plain = (value: unknown): unknown => JSON.parse(toJson(value)) as unknown

/** Every place in a value, as the object or list that holds it and the key. */
function placesIn(value: unknown): Array<[Record<PropertyKey, unknown>, string]> {
  if (typeof value !== 'object' || value === null) return []
  const own = value as Record<PropertyKey, unknown>
  return Object.keys(own).flatMap((key) => [[own, key] as [typeof own, string], ...placesIn(own[key])])
}

const junk = fc.constantFrom<unknown>(
  undefined,
  null,
  -1,
  1.5,
  1e9,
  '',
  'home',
  'x'.repeat(5000),
  [],
  {},
  [null],
  { kind: 'none' },
)

it('reads what the schema reads, with the same value, and refuses what it refuses, in the same places', () => {
  fc.assert(
    fc.property(
      fc.oneof(anyRig, fc.constant(nineRingsRig('as-found'))),
      fc.array(fc.record({ at: fc.nat(), value: junk, isNew: fc.boolean() }), { maxLength: 3 }),
      (rig, spoils) => {
        const value = plain(rig)
        for (const { at, value: bad, isNew } of spoils) {
          const places = placesIn(value)
          const [holder, key] = places[at % places.length] ?? [{}, '']
          if (bad === undefined) Reflect.deleteProperty(holder, key)
          else if (isNew && !Array.isArray(holder)) holder.unheardOf = bad
          else holder[key] = bad
        }
        const asked = RigSchema.safeParse(value, { reportInput: true })
        const found = readWithin(RigSchema, value, MOST)
        expect(found.ok).toBe(asked.success)
        if (found.ok) expect(found.value).toEqual(asked.data)
        else if (asked.error && asked.error.issues.length < MOST_PROBLEMS) {
          const sorted = (list: ReturnType<typeof problemsOf>) =>
            list.map(({ path, message }) => `${path}: ${message}`).sort()
          expect(sorted(found.problems)).toEqual(sorted(problemsOf(asked.error)))
        }
      },
    ),
    cases(7),
  )
})

describe('a hostile file is refused with few problems, whatever it holds', () => {
  const whole = (fields: string): string => `{"format":"deft-lattice/rig","version":2,"name":"R",${fields}}`
  const many = (text: string, count: number): string => Array.from({ length: count }, () => text).join(',')
  const refused = (text: string) => {
    const result = readRig(text)
    if (result.ok) throw new Error('It was read.')
    expect(result.problems.length).toBeLessThanOrEqual(MOST_PROBLEMS)
    expect(JSON.stringify(result.problems).length).toBeLessThan(10_000)
    return result.problems
  }

  it('40,000 empty mappings', () => {
    expect(refused(whole(`"mappings":[${many('{}', 40_000)}]`))[0]?.path).toMatch(/^mappings\[0\]/)
  })

  it('a list of millions, by its length', () => {
    expect(refused(whole(`"mappings":[${many('0', 100_001)}]`))).toEqual([
      { path: 'mappings', message: 'has too many entries: 100000 at most' },
    ])
    const [problem] = refused(whole(`"mappings":[${many('0', 3_000_000)}]`))
    expect(problem?.path).toMatch(/^line 1, column \d+$/)
    expect(problem?.message).toMatch(/more than 250000 entries/)
  })

  it('names of fields without number and without end', () => {
    const keys = Array.from({ length: 200_000 }, (_, index) => `"k${index}":0`).join(',')
    const [problem] = refused(whole(keys))
    expect(problem?.message).toMatch(/does not belong here: “k0”, .* and 199994 more$/)
    refused(whole(`"${'x'.repeat(2_000_000)}":0`))
  })

  it('the name of a prototype, at the top and in a table', () => {
    expect(refused(whole('"__proto__":{"x":1}'))[0]?.message).toMatch(/__proto__/)
    const template = '{"id":"t","name":"T","base":{"__proto__":{"messages":[]}},"stacks":[]}'
    const rig = { ...(plain(nineRingsRig('as-found')) as { controllers: Array<{ templates: unknown }> }) }
    const text = toJson(rig).replace(/"templates":\[\{/, `"templates":[${template},{`)
    expect(refused(text).some(({ path }) => path.includes('base'))).toBe(true)
  })

  it('assignments without end in one layer', () => {
    const rig = plain(nineRingsRig('as-found')) as {
      controllers: Array<{ templates: Array<{ base: Record<string, unknown> }> }>
    }
    const base = rig.controllers[0]?.templates[0]?.base ?? {}
    for (let index = 0; index <= MOST; index++) base[`k${index}.turn`] = 0
    expect(refused(toJson(rig))[0]?.message).toMatch(/more than 250000 entries/)
  })
})
