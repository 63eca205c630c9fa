import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { check } from '../conflicts'
import { readRig, writeRig } from './parse'
import { RIG_VERSION } from './schema'

/** The demo as version 1 of the format wrote it; kept as it was. */
const oldText = readFileSync(new URL('../testing/old-rigs/version-1.json', import.meta.url), 'utf8')
type Json = any
const spoiled = (spoil: (rig: Json) => void): string => {
  const rig = JSON.parse(oldText)
  spoil(rig)
  return JSON.stringify(rig)
}

/** Every `kind` and every key that is anywhere in a document. */
function wordsOf(value: Json, kinds = new Set<string>(), keys = new Set<string>()) {
  if (Array.isArray(value)) for (const entry of value) wordsOf(entry, kinds, keys)
  else if (value && typeof value === 'object')
    for (const [key, entry] of Object.entries(value)) {
      keys.add(key)
      if (key === 'kind' && typeof entry === 'string') kinds.add(entry)
      wordsOf(entry, kinds, keys)
    }
  return { kinds, keys }
}

describe('a rig of version 1', () => {
  it('is read as the rig that it was, and written in the version of today', () => {
    const old = JSON.parse(oldText)
    expect(old.version).toBe(1)
    const read = readRig(oldText)
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect(read.rig).toEqual({ ...nineRingsRig('as-found'), setAside: read.rig.setAside })
    const written = writeRig(read.rig)
    expect(JSON.parse(written).version).toBe(RIG_VERSION)
    expect(readRig(written)).toEqual({ ok: true, rig: read.rig })
  })

  it('has the same conflicts', () => {
    const read = readRig(oldText)
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    const ids = (of: typeof read.rig): string[] => check(of).findings.map(({ id }) => id)
    expect(ids(read.rig)).toEqual(ids(nineRingsRig('as-found')))
  })

  it('used words that are no more: none is left', () => {
    const before = wordsOf(JSON.parse(oldText))
    expect(before.kinds).toContain('bend')
    const read = readRig(oldText)
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    const after = wordsOf(JSON.parse(writeRig(read.rig)))
    for (const word of ['bend', 'pressure', 'poly', 'mode']) expect(after.kinds).not.toContain(word)
    for (const word of ['secondByte', 'halves-first']) expect(after.keys).not.toContain(word)
  })

  it('keeps what a player called by one of those words', () => {
    const read = readRig(spoiled((rig) => (rig.name = 'bend')))
    expect(read.ok && read.rig.name).toBe('bend')
  })

  it.each<[string, (rig: Json) => void, RegExp]>([
    ['a list that is none', (rig) => (rig.controllers = 'none'), /controllers: must be a/],
    ['an entry that is none', (rig) => (rig.cables[0] = null), /cables\[0\]: must be a/],
    [
      'a word of version 2 for a field of version 1',
      (rig) => (rig.destinations[0].claims[0] = { ...rig.destinations[0].claims[0], kind: 'vibrato' }),
      /claims\[0\]\.kind: must be one of/,
    ],
  ])('with %s is refused, with the place', (_, spoil, expected) => {
    const read = readRig(spoiled(spoil))
    expect(read.ok ? '' : read.problems.map(({ path, message }) => `${path}: ${message}`).join('\n')).toMatch(
      expected,
    )
  })
})

describe('a rig of version 2', () => {
  it('is read as the rig that it was: no mapping of it is of one key', () => {
    const read = readRig(readFileSync(new URL('../testing/old-rigs/version-2.json', import.meta.url), 'utf8'))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect(read.rig).toEqual({ ...nineRingsRig('as-performed'), setAside: read.rig.setAside })
    expect(read.rig.mappings.every(({ key }) => key === null)).toBe(true)
  })
})

describe('a rig of version 3', () => {
  it('is read as the rig that it was: what bends pitch rests in its centre', () => {
    const read = readRig(readFileSync(new URL('../testing/old-rigs/version-3.json', import.meta.url), 'utf8'))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect(read.rig).toEqual({ ...nineRingsRig('as-found'), setAside: read.rig.setAside })
    const resting = read.rig.models.flatMap(({ surface }) =>
      surface.controls.flatMap(({ label, restsInCentre }) => (restsInCentre ? [label] : [])),
    )
    expect(resting).toEqual(['Pitch'])
  })
})

describe('a rig of version 4', () => {
  it('is read as the rig that it was: no step of its checklist is ticked', () => {
    const read = readRig(readFileSync(new URL('../testing/old-rigs/version-4.json', import.meta.url), 'utf8'))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect(read.rig).toEqual(nineRingsRig('as-performed'))
    expect(read.rig.checklist).toEqual([])
  })
})

describe('a rig of version 5', () => {
  it('is read as the rig that it was: nothing of it was proven yet', () => {
    const read = readRig(readFileSync(new URL('../testing/old-rigs/version-5.json', import.meta.url), 'utf8'))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect({ ...read.rig, checklist: [] }).toEqual(nineRingsRig('as-performed'))
    expect(read.rig.checklist).toHaveLength(1)
    expect(read.rig.rehearsed).toBeNull()
    expect(read.rig.controllers.map(({ lineCheck }) => lineCheck)).toEqual(
      read.rig.controllers.map(() => null),
    )
  })
})

describe('a rig of version 6', () => {
  it('is read as the rig that it was, with its recipe, which asks for nothing yet', () => {
    const read = readRig(readFileSync(new URL('../testing/old-rigs/version-6.json', import.meta.url), 'utf8'))
    if (!read.ok) throw new Error(JSON.stringify(read.problems))
    expect({ ...read.rig, recipes: [] }).toEqual(nineRingsRig('as-performed'))
    expect(read.rig.recipes).toMatchObject([{ name: 'Syzra store', waitMs: 30, request: '' }])
  })
})
