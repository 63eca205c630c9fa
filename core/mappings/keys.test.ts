import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import { perform, type Rig } from '../rig'
import { joined, rewrite, rigOf, ruled, told } from '../testing/mapped-rigs'
import { sending } from '../testing/rigs'
import { tagOf } from '../testing/addresses'
import { mappingState, relearnList } from '.'

const keyboard = (more: object = {}) => ({
  'k1.turn': sending({ kind: 'note', keys: { kind: 'span', low: 36, high: 84, ...more } }),
})
const stateOf = (rig: Rig, index = 0) => {
  const mapping = rig.mappings[index]
  if (!mapping) throw new Error('no mapping')
  return mappingState(rig, mapping)
}
/** The rig after everything on the list was taught. */
const taught = (rig: Rig): Rig =>
  perform(
    rig,
    'x',
    relearnList(rig).flatMap(({ lines }) => lines.map(({ done }) => done)),
  ).rig

describe('one key of a keyboard', () => {
  it('is taught as the note that it plays, wherever it lies and however it is transposed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 36, max: 84 }), fc.integer({ min: -36, max: 36 }), (key, transpose) => {
        const rig = rigOf(keyboard({ transpose }), [joined('a/k1.turn', 'p1', { key })])
        expect(stateOf(rig).agreement).toBe('not-taught')
        const after = taught(rig)
        expect(stateOf(after).agreement).toBe('agrees')
        expect(stateOf(after).listening).toEqual({
          scope: 'channel',
          channel: 1,
          target: { kind: 'note', low: key + transpose, high: key + transpose },
        })
      }),
    )
  })

  it('is no other key: what another one sends is not heard for it', () => {
    const rig = rigOf(keyboard(), [joined('a/k1.turn', 'p1', { key: 40, learnedAt: '1:note41' })])
    expect(stateOf(rig).agreement).toBe('differs')
    expect(told(rig, 'unheard')).toEqual([
      'warning: E1 of Knob 1 (A) sends 1:note40, but D · One learned 1:note41: teach it again.',
    ])
  })

  it('moves one parameter while its neighbour moves another', () => {
    const rig = taught(
      rigOf(keyboard(), [
        joined('a/k1.turn', 'p1', { id: 'm1', key: 36 }),
        joined('a/k1.turn', 'p2', { id: 'm2', key: 37 }),
      ]),
    )
    expect([0, 1].map((index) => stateOf(rig, index).meeting.map(tagOf))).toEqual([
      ['1:note36'],
      ['1:note37'],
    ])
    expect(check(rig).findings.filter(({ severity }) => severity !== 'advice')).toEqual([])
  })

  it('follows what a cable makes of it', () => {
    const rule = rewrite({ kinds: ['note'], low: 51, high: 51 }, { kind: 'cc', number: 64 })
    const rig = rigOf(keyboard(), [joined('a/k1.turn', 'p1', { key: 51 })], {}, ruled([rule]))
    expect(stateOf(taught(rig)).listening).toMatchObject({ target: { kind: 'cc', number: 64 } })
  })

  it('that the keyboard does not have is an error', () => {
    const rig = rigOf(keyboard(), [joined('a/k1.turn', 'p1', { key: 20 })])
    expect(told(rig, 'unheard')).toEqual([
      'error: D · One is to be moved by G#-1 of Knob 1 (A), but there is no such key: choose one that is there.',
    ])
    expect(relearnList(rig)).toEqual([])
  })

  it('that sounds as well is said as advice, and not where it is only taken', () => {
    const mapping = joined('a/k1.turn', 'p1', { key: 60, learnedAt: '1:note60' })
    expect(told(rigOf(keyboard(), [mapping]), 'key-sounds')).toEqual([
      'advice: C3 of Knob 1 (A) moves D · One, and is heard as the note C3 at D too.',
    ])
    expect(told(rigOf(keyboard(), [mapping], { kind: 'daw' }), 'key-sounds')).toEqual([])
    const elsewhere = rewrite({ kinds: ['note'], low: 60, high: 60 }, { kind: 'cc', number: 64 })
    expect(told(rigOf(keyboard(), [mapping], {}, ruled([elsewhere])), 'key-sounds')).toEqual([])
  })
})
