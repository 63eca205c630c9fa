import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { cableWords, claimWords, hearingWords, ruleWords, spansOf } from './wiring-words'
import type { CableRule } from './types'

const match = { kinds: [], channels: [], low: null, high: null } as CableRule['match']

it('writes runs of numbers short', () => {
  expect(spansOf([3, 1, 2, 9, 12, 11])).toBe('1–3, 9, 11–12')
})

it.each<[CableRule, string]>([
  [{ kind: 'stop', match: { ...match, kinds: ['cc'], channels: [3] } }, 'stops CC on channel 3'],
  [{ kind: 'pass', match }, 'lets everything pass'],
  [
    {
      kind: 'rewrite',
      match: { ...match, kinds: ['note'], low: 51, high: 51 },
      to: { kind: 'cc', number: 64, channel: null, range: null },
    },
    'note 51 becomes CC 64',
  ],
  [
    {
      kind: 'rewrite',
      match: { ...match, kinds: ['cc'], low: 20, high: 27 },
      to: { kind: null, number: 102, channel: 2, range: { low: 0, high: 63 } },
    },
    'CC 20–27 becomes 102–109 on channel 2 from 0 to 63',
  ],
])('a rule in words: %j', (rule, words) => {
  expect(ruleWords(rule)).toBe(words)
})

it('every destination and cable of the demo has words', () => {
  const { destinations, cables } = nineRingsRig('as-found')
  for (const { hears, claims, ports } of destinations) {
    expect(hearingWords(hears.playing, ports.length)).toMatch(/^(hears|takes) /)
    for (const claim of claims) expect(claimWords(claim)).toMatch(/^keeps .+ for .+/)
  }
  for (const cable of cables) expect(cableWords(cable)).toMatch(/pass|stop/)
})
