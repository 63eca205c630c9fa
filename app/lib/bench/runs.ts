import type { Passing } from '#core/bench'
import { parameterName, parameterOf, rigIndex, type Id, type Rig } from '#core/rig'
import { valueText } from '#core/values'
import { senderKey, senderName, tagOf, type Tape } from './tape'

/** Messages of one control that follow one another, as one line. */
export interface Run {
  key: string
  controller: Id
  /** Null where no control of the template sends it. */
  gesture: string | null
  name: string
  tag: string
  /** From, to, and how many. */
  values: string
  time: string
  /** What the last of them became, in words. */
  became: string
  last: Passing
}

/** A pause this long ends a run, in ms. */
const PAUSE_MS = 400
/** So many of the last messages are read for lines. */
const MOST_READ = 20_000

const timeText = (at: number): string => `${(at / 1000).toFixed(2)} s`

export const bytesText = (bytes: readonly number[]): string =>
  bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' ')

/** What became of a message at its destinations, in words. */
export function becameWords(rig: Rig, { arrived }: Passing): string {
  if (arrived.length === 0) return 'arrives nowhere'
  const all = arrived.flatMap(({ destination: id, effects }) => {
    const destination = rigIndex(rig).destinations.get(id)
    if (!destination) return []
    return effects.map((effect): string => {
      switch (effect.kind) {
        case 'moves': {
          const parameter = parameterOf(destination, effect.parameter)
          if (!parameter) return destination.name
          const name = `${destination.name} · ${parameterName(parameter)}`
          return effect.isHeldBack
            ? `${name} waits to be met`
            : `${name} at ${valueText(parameter, effect.to)}`
        }
        case 'acts': {
          const parameter = parameterOf(destination, effect.parameter)
          return `${destination.name} · ${parameter ? parameterName(parameter) : ''}`
        }
        case 'function':
          return `${destination.name} keeps it for ${destination.claims.find(({ id: claim }) => claim === effect.claim)?.function ?? 'itself'}`
        case 'sounds':
          return effect.velocity > 0 ? `${destination.name} sounds` : `${destination.name} lets go`
        case 'program':
          return `${destination.name} takes the program`
        case 'lost':
          return `${destination.name} has lost it`
        case 'nothing':
          return `${destination.name}: nothing listens`
      }
    })
  })
  return [...new Set(all)].join('; ')
}

const valueWords = (first: Passing, last: Passing, count: number): string => {
  if (last.amount.kind === 'signal') return count > 1 ? `${count} times` : 'once'
  if (last.amount.kind === 'clicks') return `${count} ${count === 1 ? 'click' : 'clicks'}`
  return count === 1 ? String(last.value) : `${first.value} to ${last.value}, ${count}`
}

/** The runs of a tape, newest first. */
export function runsOf(
  rig: Rig,
  { messages, count }: Tape,
  isLookedAt: (passing: Passing) => boolean,
): Run[] {
  const groups: Array<{ first: Passing; last: Passing; count: number; key: string }> = []
  const open = new Map<string, (typeof groups)[number]>()
  for (let index = Math.max(0, count - MOST_READ); index < count; index++) {
    const passing = messages[index]
    if (!passing || !isLookedAt(passing)) continue
    const sender = senderKey(passing)
    const run = open.get(sender)
    const isOn = run && passing.at - run.last.at <= PAUSE_MS && passing.amount.kind !== 'blow'
    if (run && isOn) {
      run.last = passing
      run.count++
    } else {
      const fresh = { first: passing, last: passing, count: 1, key: `${sender} ${index}` }
      open.set(sender, fresh)
      groups.push(fresh)
    }
  }
  return groups.reverse().map(({ first, last, count: length, key }) => ({
    key,
    controller: last.controller,
    gesture: last.place?.gesture ?? null,
    name: senderName(rig, last),
    tag: tagOf(last),
    values: valueWords(first, last, length),
    time: timeText(first.at),
    became: becameWords(rig, last),
    last,
  }))
}
