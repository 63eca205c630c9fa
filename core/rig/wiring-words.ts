import { MESSAGE_KIND_NAME } from './messages'
import type { Cable, CableRule, Claim, Hearing } from './types'

/** 1–4, 9 and 12: runs of numbers written short. */
export function spansOf(numbers: readonly number[]): string {
  const sorted = [...new Set(numbers)].sort((a, b) => a - b)
  const spans: string[] = []
  for (let index = 0; index < sorted.length;) {
    let last = index
    while (sorted[last + 1] === (sorted[last] ?? 0) + 1) last++
    spans.push(last > index ? `${sorted[index]}–${sorted[last]}` : `${sorted[index]}`)
    index = last + 1
  }
  return spans.join(', ')
}

/** What a destination listens to: "hears all channels apart, ports as one". */
export function hearingWords({ channels, ports }: Hearing, portCount: number): string {
  const heard =
    channels.kind === 'apart'
      ? 'hears channels apart'
      : channels.kind === 'merged'
        ? 'takes all channels for one'
        : `hears channel ${spansOf(channels.channels)} only`
  return portCount < 2 ? heard : `${heard}, ports ${ports === 'merged' ? 'as one' : 'apart'}`
}

const ends = (low: number, high: number): string => (low === high ? `${low}` : `${low}–${high}`)

/** What a destination keeps: "keeps note 96–127 on channel 14 for clip launch". */
export function claimWords({ kind, channel, low, high, function: use }: Claim): string {
  const numbers = kind === 'pitchBend' || kind === 'channelPressure' ? '' : ` ${ends(low, high)}`
  const where = channel === null ? 'on any channel' : `on channel ${channel}`
  return `keeps ${MESSAGE_KIND_NAME[kind]}${numbers} ${where} for ${use}`
}

function matchWords({ kinds, channels, low, high }: CableRule['match']): string {
  const what = kinds.length === 0 ? 'everything' : kinds.map((kind) => MESSAGE_KIND_NAME[kind]).join(', ')
  const numbers =
    low === null && high === null
      ? ''
      : low !== null && high !== null
        ? ` ${ends(low, high)}`
        : low !== null
          ? ` from ${low}`
          : ` up to ${high}`
  return `${what}${numbers}${channels.length === 0 ? '' : ` on channel ${spansOf(channels)}`}`
}

/** A rule of a cable in words: "note 51 becomes CC 64", "stops CC on channel 3". */
export function ruleWords(rule: CableRule): string {
  const what = matchWords(rule.match)
  if (rule.kind !== 'rewrite')
    return `${rule.kind === 'pass' ? 'lets' : 'stops'} ${what}${rule.kind === 'pass' ? ' pass' : ''}`
  const { kind, number, channel, range } = rule.to
  const { low, high } = rule.match
  const last = number !== null && low !== null && high !== null ? number + high - low : number
  const become = [
    kind === null ? null : MESSAGE_KIND_NAME[kind],
    number === null || last === null ? null : ends(number, last),
    channel === null ? null : `on channel ${channel}`,
    range === null ? null : `from ${range.low} to ${range.high}`,
  ].filter((word) => word !== null)
  return `${what} becomes ${become.length === 0 ? 'itself' : become.join(' ')}`
}

/** What a cable does beyond carrying: its rules, and what happens to the rest. */
export function cableWords({ rules, otherwise }: Pick<Cable, 'rules' | 'otherwise'>): string {
  if (rules.length === 0) return otherwise === 'pass' ? 'everything passes' : 'nothing passes'
  const rest = otherwise === 'pass' ? 'the rest passes' : 'the rest stops'
  return `${rules.map(ruleWords).join('; ')}; ${rest}`
}
