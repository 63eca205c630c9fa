import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { relearnList } from '../../mappings'
import { sameAddress } from '../../midi'
import { perform, rigIndex, type LearnedAddress, type Rig } from '../../rig'
import { anyRig } from '../../testing/rigs'
import { playRig, showOnRig, switchedOn } from '../played'
import { rehearse } from '../rehearsal'
import type { Passing } from '../running'
import { learnedFrom, showingFor, sittingOf, type SittingLine } from '.'
import { cases } from '../../testing/cases'

/** Do what a line says with the simulated rig: what passes. */
function soloed(rig: Rig, { place, steps }: SittingLine): Passing[] {
  let state = switchedOn(rig)
  if (!place) return []
  const now = state.controllers[place.controller]?.showing
  const owner = rigIndex(rig).controllers.get(place.controller)
  const showing = now && owner && showingFor(owner, place, now)
  if (showing && showing !== now) state = showOnRig(rig, state, place.controller, showing, 0).state
  let at = 1000
  return steps.flatMap(({ hand, ms }) => {
    const step = playRig(rig, state, place.controller, hand, at)
    state = step.state
    at += ms
    return [...step.passed]
  })
}

/** What a destination learns in a line: from the first message that it can learn. */
function taught(rig: Rig, line: SittingLine): LearnedAddress | null {
  for (const passing of soloed(rig, line)) {
    const learned = learnedFrom(rig, line.destination.id, passing)
    if (learned) return learned
  }
  return null
}

/** The rig after a sitting in which every line was done that nothing hinders. */
function afterSitting(rig: Rig): { rig: Rig; lines: number } {
  let next = rig
  let lines = 0
  for (const line of sittingOf(rig)) {
    if (line.line.hindrance !== null) continue
    const learned = taught(rig, line)
    const edit =
      line.line.kind === 'clear'
        ? line.line.done
        : { type: 'mapping-set' as const, mapping: line.line.mapping.id, set: { learnedAt: learned } }
    next = perform(next, 'taught', [edit]).rig
    lines++
  }
  return { rig: next, lines }
}

describe('a sitting', () => {
  it('teaches every destination what the rig says, in any rig', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        for (const line of sittingOf(rig)) {
          if (line.line.hindrance !== null || line.line.to === null) continue
          const learned = taught(rig, line)
          expect(learned && sameAddress(learned, line.line.to), JSON.stringify([learned, line.line.to])).toBe(
            true,
          )
        }
        const left = relearnList(afterSitting(rig).rig).flatMap(({ lines }) => lines)
        expect(left.filter(({ hindrance, kind }) => hindrance === null && kind !== 'clear')).toEqual([])
      }),
      cases(62),
    )
  })

  it('sends one gesture and nothing else: no other axis, no touch, no pressure', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        for (const line of sittingOf(rig))
          for (const passing of soloed(rig, line))
            if (passing.controller === line.place?.controller && passing.place)
              expect(passing.place.gesture).toBe(line.place.gesture)
      }),
      cases(86),
    )
  })

  it('takes the demo from nothing taught to everything proven', { timeout: 120_000 }, () => {
    const performed = nineRingsRig('as-performed')
    const isUsed = (gesture: string | null): boolean =>
      gesture !== null && rigIndex(performed).controllers.get(gesture.split('/')[0] ?? '')?.inUse === true
    const untaught: Rig = {
      ...performed,
      mappings: performed.mappings.map((mapping) =>
        isUsed(mapping.gesture) ? { ...mapping, learnedAt: null } : mapping,
      ),
    }
    const { rig, lines } = afterSitting(untaught)
    expect(lines).toBeGreaterThan(120)
    expect(relearnList(rig)).toEqual([])
    expect(rehearse(rig)?.findings.filter(({ weight }) => weight === 'fault')).toEqual([])
  })

  it('says what to do on the hardware first, and shows the layer that a line is taught in', () => {
    const performed = nineRingsRig('as-performed')
    const mapping = performed.mappings.find(({ id, gesture }) => gesture === 'syzra/knob-1.turn' && id !== '')
    if (!mapping) throw new Error('no such mapping')
    const rig = perform(performed, '', [
      { type: 'mapping-set', mapping: mapping.id, set: { learnedAt: null } },
    ]).rig
    const [line] = sittingOf(rig)
    expect(line?.first).toMatch(/^On Syzra 24, load template “Nine Rings” and choose Knobs: /)
    expect(line?.place?.layer).not.toBeNull()
  })
})
