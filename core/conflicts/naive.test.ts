import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { cellsListened } from '../addresses'
import type { Rig } from '../rig'
import { naiveKept, naiveMeetings, naiveUnheard, type NaiveFinding } from '../testing/naive-check'
import { NAIVE_BY_MAPPING, NAIVE_BY_SENDER } from '../testing/naive-rules'
import { anyWiredRig, naiveDoubled, naiveLoops } from '../testing/naive-wiring'
import { anyChannelRig, anyMappedRig, anyRig } from '../testing/rigs'
import { check, type Finding } from '.'
import { cases } from '../testing/cases'

const keyOf = ({ controller, template, layer, gesture, message }: Finding['at'][number]): string =>
  [controller, template, layer, gesture, message].join('/')

const sorted = (items: Iterable<string>): string[] => [...new Set(items)].toSorted()

/** Who, and where, a rule speaks of, over all its findings. */
const ofCheck = (findings: readonly Finding[], rule: string) => {
  const own = findings.filter((finding) => finding.rule === rule)
  return {
    senders: sorted(own.flatMap(({ at }) => at.map(keyOf))),
    destinations: sorted(own.flatMap(({ destinations }) => destinations)),
  }
}
const ofNaive = (found: readonly NaiveFinding[], rule: string) => {
  const own = found.filter((finding) => finding.rule === rule)
  return {
    senders: sorted(own.flatMap(({ senders }) => [...senders])),
    destinations: sorted(own.map(({ destination }) => destination)),
  }
}

/** Is every pair that the slow way found, in one finding of the check? */
const areTogether = (findings: readonly Finding[], { rule, senders, destination }: NaiveFinding): boolean =>
  findings.some((finding) => {
    const keys = new Set(finding.at.map(keyOf))
    return (
      finding.rule === rule &&
      finding.destinations.includes(destination) &&
      [...senders].every((key) => keys.has(key))
    )
  })

const RULES = ['same-address', 'split-value', 'merged-channels', 'reserved', 'claimed'] as const

/** Every spot that the findings of a rule speak of, as often as they do. */
const spotsTold = (findings: readonly Finding[], rule: string): string[] =>
  findings
    .filter((finding) => finding.rule === rule)
    .flatMap(({ addresses }) => addresses.flatMap(cellsListened))
    .map(({ kind, channel, number }) => `${kind} ${channel} ${number}`)
    .toSorted()

/** Rules of which each spot is told once, in one finding. */
const TOLD_ONCE = ['same-address', 'split-value'] as const

it('the check agrees with all pairs, taken one by one straight from the definitions', () => {
  const seen = new Map<string, number>()
  fc.assert(
    fc.property(anyRig, (rig: Rig) => {
      const { findings } = check(rig)
      const naive = [...naiveMeetings(rig), ...naiveKept(rig)]
      for (const rule of RULES) expect(ofCheck(findings, rule), rule).toEqual(ofNaive(naive, rule))
      for (const rule of TOLD_ONCE) {
        const spots = naive
          .filter((finding) => finding.rule === rule)
          .flatMap((finding) => [...finding.spots])
        expect(spotsTold(findings, rule), rule).toEqual(sorted(spots))
      }
      // A mapping that is there twice is told twice.
      const mapped = rig.mappings.map((each) => `${each.gesture} ${each.destination} ${each.parameter}`)
      const said = findings.map(({ message }) => message)
      if (new Set(mapped).size === mapped.length) expect(said).toEqual([...new Set(said)])
      for (const finding of naive) {
        expect(areTogether(findings, finding), `${finding.rule} ${[...finding.senders].join(' ')}`).toBe(true)
        seen.set(finding.rule, (seen.get(finding.rule) ?? 0) + 1)
      }
    }),
    cases(77),
  )
  // The rigs made at random must show each rule, or the agreement would say nothing.
  for (const rule of [...RULES, 'pair-broken']) expect(seen.get(rule) ?? 0, rule).toBeGreaterThan(2)
})

it('a mapping is unheard where nothing of its control fits, taken message by message', () => {
  const seen = new Map<string, number>()
  fc.assert(
    fc.property(anyRig, (rig: Rig) => {
      const naive = naiveUnheard(rig)
      const found = check(rig).findings.filter(({ rule }) => rule === 'unheard')
      for (const severity of ['error', 'warning', 'advice'] as const) {
        const told = found.filter((finding) => finding.severity === severity)
        const gestures = told.flatMap(({ at }) => at.map((place) => `${place.controller}/${place.gesture}`))
        const wanted = naive.filter((each) => each.severity === severity)
        expect(sorted(gestures), severity).toEqual(sorted(wanted.map(({ gesture }) => gesture)))
        seen.set(severity, (seen.get(severity) ?? 0) + wanted.length)
      }
    }),
    cases(97),
  )
  for (const severity of ['error', 'warning', 'advice'])
    expect(seen.get(severity) ?? 0, severity).toBeGreaterThan(2)
})

const entriesOf = <T extends object>(of: T) => Object.entries(of) as Array<[string, T[keyof T]]>

it('what shares a channel is found as it is found pair by pair', () => {
  const seen = new Map<string, number>()
  fc.assert(
    fc.property(anyChannelRig, (rig: Rig) => {
      const { findings } = check(rig)
      for (const [rule, slow] of entriesOf(NAIVE_BY_SENDER)) {
        const naive = slow(rig)
        const own = findings.filter((finding) => finding.rule === rule)
        expect(ofCheck(findings, rule), rule).toEqual({
          senders: sorted(naive.flatMap(({ who }) => who)),
          destinations: sorted(naive.map(({ destination }) => destination)),
        })
        for (const { who, destination, severity } of naive) {
          const told = own.filter(({ at, destinations }) => {
            const keys = new Set(at.map(keyOf))
            return destinations.includes(destination) && who.every((key) => keys.has(key))
          })
          expect(told.length, `${rule} ${who.join(' ')}`).toBeGreaterThan(0)
          // What is grave for two is grave for all who share with them.
          if (severity === 'error') expect(told.some((each) => each.severity === 'error')).toBe(true)
        }
        if (naive.every(({ severity }) => severity !== 'error'))
          expect(own.every(({ severity }) => severity !== 'error')).toBe(true)
        seen.set(rule, (seen.get(rule) ?? 0) + naive.length)
      }
    }),
    cases(88),
  )
  for (const rule of Object.keys(NAIVE_BY_SENDER)) expect(seen.get(rule) ?? 0, rule).toBeGreaterThan(5)
})

/** Mappings that findings of a rule speak of: named by their ids, in what each is about. */
const mappingsTold = (findings: readonly Finding[], rule: string): string[] =>
  findings
    .filter((finding) => finding.rule === rule && finding.severity !== 'advice')
    .map(({ id }) => id.slice(rule.length + 1))
    .toSorted()

it('what is joined is found as it is found mapping by mapping', () => {
  const seen = new Map<string, number>()
  fc.assert(
    fc.property(anyMappedRig, (rig: Rig) => {
      const { findings } = check(rig)
      for (const [rule, slow] of entriesOf(NAIVE_BY_MAPPING)) {
        const naive = slow(rig)
        seen.set(rule, (seen.get(rule) ?? 0) + naive.length)
        if (rule === 'layer-share') {
          // One finding for one address: who is in it, not which mappings.
          expect(ofCheck(findings, rule).destinations).toEqual(
            sorted(naive.map(({ destination }) => destination)),
          )
          continue
        }
        expect(mappingsTold(findings, rule), rule).toEqual(naive.map(({ who }) => who.join(' ')).toSorted())
      }
    }),
    cases(113),
  )
  for (const rule of Object.keys(NAIVE_BY_MAPPING)) expect(seen.get(rule) ?? 0, rule).toBeGreaterThan(2)
})

it('loops and double ways are found as by walking every way', () => {
  const seen = { loops: 0, doubled: 0 }
  fc.assert(
    fc.property(anyWiredRig, (rig: Rig) => {
      const { findings } = check(rig)
      const isLooping = naiveLoops(rig)
      expect(findings.some(({ rule }) => rule === 'loop')).toBe(isLooping)
      const doubled = naiveDoubled(rig)
      const told = findings
        .filter(({ rule }) => rule === 'double-path')
        .flatMap(({ at, destinations }) =>
          at.flatMap(({ controller, gesture }) =>
            destinations.map((destination) => `${controller}/${gesture} ${destination}`),
          ),
        )
      expect(sorted(told)).toEqual(sorted(doubled))
      seen.loops += isLooping ? 1 : 0
      seen.doubled += doubled.length
    }),
    cases(109),
  )
  expect(seen.loops).toBeGreaterThan(10)
  expect(seen.doubled).toBeGreaterThan(2)
})
