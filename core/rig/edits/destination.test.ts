import { describe, expect, it } from 'vitest'
import { sendingCc, testController, testDestination, testRig } from '../../testing/rigs'
import { parseRig } from '../parse'
import { Parameter as ParameterSchema } from '../schema'
import type { Rig } from '../types'
import { EditError, perform, type RigEdit } from '.'

const rig = testRig(
  [testController('a', { 'k1.turn': sendingCc(20) })],
  [
    testDestination('d', {
      scopes: [{ id: 's', name: 'S' }],
      parameters: [
        { id: 'p1', name: 'One', range: { min: 0, max: 10, unit: '' }, switchesTo: 's' },
        { id: 'p2', name: 'Two', kind: 'switch' },
      ],
      claims: [{ id: 'c', function: 'x', kind: 'cc', channel: 1, low: 1, high: 2, serves: ['p1', 'p2'] }],
    }),
  ],
  {
    mappings: [
      { id: 'm1', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', min: 2, max: 8 },
      { id: 'm2', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', scope: 's' },
    ],
    passages: [{ id: 'p', name: 'P', scopes: [{ destination: 'd', scope: 's' }] }],
  },
)
const after = (...edits: RigEdit[]): Rig => perform(rig, 'x', edits).rig
const set = (change: Extract<RigEdit, { type: 'mapping-set' }>['set']): RigEdit => ({
  type: 'mapping-set',
  mapping: 'm1',
  set: change,
})
const parameter = (change: Extract<RigEdit, { type: 'parameter-set' }>['set'], id = 'p1'): RigEdit => ({
  type: 'parameter-set',
  destination: 'd',
  parameter: id,
  set: change,
})
const isValid = (next: Rig): boolean => parseRig(structuredClone(next)).ok

describe('edits of a destination', () => {
  it('take with a scope all that counted only there', () => {
    const next = after({ type: 'destination-set', destination: 'd', set: { scopes: [] } })
    expect(next.mappings.map(({ id }) => id)).toEqual(['m1'])
    expect(next.passages[0]?.scopes).toEqual([])
    expect(next.destinations[0]?.parameters[0]?.switchesTo).toBeNull()
    expect(isValid(next)).toBe(true)
  })

  it('take with a parameter what was mapped to it and kept for it', () => {
    const next = after({ type: 'parameters-remove', destination: 'd', parameters: ['p1'] })
    expect(next.mappings).toEqual([])
    expect(next.destinations[0]?.claims[0]?.serves).toEqual(['p2'])
    expect(isValid(next)).toBe(true)
  })

  it('add parameters in order', () => {
    const added = ['x', 'y'].map((id) => ParameterSchema.parse({ id, name: id }))
    const next = after({ type: 'parameters-add', destination: 'd', parameters: added })
    expect(next.destinations[0]?.parameters.map(({ id }) => id)).toEqual(['p1', 'p2', 'x', 'y'])
  })

  it.each<[string, RigEdit, RegExp]>([
    ['a range the wrong way round', set({ min: 8, max: 2 }), /runs from 8 to 2: the first must be below/],
    ['a range that is one value', set({ min: 4, max: 4 }), /must be below/],
    [
      'an end outside the parameter',
      set({ max: 11 }),
      /runs to 11, but its parameter only goes from 0 to 10/,
    ],
    ['a curve for clicks', set({ curve: 's', expects: { kind: 'press' } }), /no position to bend/],
    ['a curve for a switch', set({ parameter: 'p2', min: null, max: null, curve: 's' }), /only on or off/],
    [
      'a parameter whose ends are one',
      parameter({ range: { min: 3, max: 3, unit: '' } }),
      /min must be below max/,
    ],
    [
      'a parameter that cuts a mapping off',
      parameter({ range: { min: 0, max: 5, unit: '' } }),
      /Change that mapping first/,
    ],
    ['names for what is no choice', parameter({ choices: ['a', 'b'] }), /is no choice/],
    ['a single choice', parameter({ kind: 'choice', choices: ['a'] }, 'p2'), /one choice only/],
    ['a scope that is not there', parameter({ switchesTo: 'z' }), /scope is no longer there/],
    [
      'two scopes of one name',
      {
        type: 'destination-set',
        destination: 'd',
        set: {
          scopes: [
            { id: 'a', name: 'A' },
            { id: 'b', name: 'a' },
          ],
        },
      },
      /one name/,
    ],
    [
      'two names for a note',
      {
        type: 'destination-set',
        destination: 'd',
        set: {
          noteNames: [
            { number: 1, name: 'a' },
            { number: 1, name: 'b' },
          ],
        },
      },
      /two names/,
    ],
    [
      'two programs in one place',
      {
        type: 'destination-set',
        destination: 'd',
        set: {
          programs: [
            { number: 1, bank: null, name: 'a' },
            { number: 1, bank: null, name: 'b' },
          ],
        },
      },
      /one number/,
    ],
    [
      'the same parameter again',
      {
        type: 'parameters-add',
        destination: 'd',
        parameters: [ParameterSchema.parse({ id: 'p1', name: 'x' })],
      },
      /already been added/,
    ],
  ])('refuse %s and change nothing', (_, edit, why) => {
    const before = structuredClone(rig)
    expect(() => after(edit)).toThrow(EditError)
    expect(() => after(edit)).toThrow(why)
    expect(rig).toEqual(before)
  })

  it('refuse a file in which a mapping leaves its parameter', () => {
    const bad = structuredClone(rig)
    const [mapping] = bad.mappings
    if (mapping) mapping.max = 99
    const read = parseRig(bad)
    expect(read.ok ? [] : read.problems).toMatchObject([
      { path: 'mappings[0]', message: expect.stringContaining('runs to 99') },
    ])
  })
})
