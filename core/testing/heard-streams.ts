import * as fc from 'fast-check'

/**
 * Pieces of hardware and the hands that play them, written from the standards and from nothing of the listener's: bytes by hand,
 * with the times at which they come.
 */

/** A whole message and when it comes, in ms. */
export interface Sent {
  at: number
  bytes: number[]
}

/** What a piece of hardware is, in the words of a listener. */
export type Truth =
  | { kind: 'swept' | 'steps' | 'signal' }
  | { kind: 'momentary'; pressed: number; released: number }
  | { kind: 'toggle'; on: number; off: number }
  | { kind: 'trigger'; value: number }
  | { kind: 'list'; values: number[] }
  | { kind: 'relative'; encoding: 'twos-complement' | 'offset-binary' | 'sign-magnitude' }

/** One control of some hardware, as it is played. Each act gives what is sent from a time on, and when it is over. */
export interface Hardware {
  truth: Truth
  /** The address in writing. */
  tag: string
  /** What a hand does that only tries it. */
  tries: (random: () => number, at: number) => Sent[]
  /** What is asked for; null where it cannot be done with it: a knob is not pressed. */
  press: ((random: () => number, at: number, times: number) => Sent[]) | null
  clicks: ((random: () => number, at: number, each: number) => Sent[]) | null
  sweep: ((random: () => number, at: number) => Sent[]) | null
}

type Say = (value: number) => number[][]
const between = (random: () => number, low: number, high: number): number => low + random() * (high - low)

/** Presses, about so often, each held a while. */
function pressing(down: () => number[][], up: () => number[][]): NonNullable<Hardware['press']> {
  return (random, at, times) => {
    const sent: Sent[] = []
    let now = at
    for (let press = 0; press < times; press++) {
      for (const bytes of down()) sent.push({ at: now, bytes })
      const held = between(random, 50, 220)
      for (const bytes of up()) sent.push({ at: now + held, bytes })
      now += held + between(random, 300, 1200)
    }
    return sent
  }
}
const button = (truth: Truth, tag: string, press: NonNullable<Hardware['press']>): Hardware => ({
  truth,
  tag,
  tries: (random, at) => press(random, at, 1 + Math.floor(random() * 3)),
  press,
  clicks: null,
  sweep: null,
})

/** A movement from where it stands: read every few ms, and said where it has changed. */
function moving(
  say: Say,
  top: number,
  state: { at: number },
  from: number,
  to: number,
  ms: number,
  random: () => number,
) {
  const sent: Sent[] = []
  const every = between(random, 4, 11)
  for (let time = every; time <= ms; time += every) {
    const value = Math.round((from + ((to - from) * time) / ms) * top)
    if (value === state.at) continue
    state.at = value
    for (const bytes of say(value)) sent.push({ at: time, bytes })
  }
  return sent
}
function slider(truth: Truth, tag: string, top: number, say: Say): Hardware {
  const state = { at: 0 }
  const move = (random: () => number, at: number, to: number, ms: number): Sent[] => {
    const from = state.at / top
    return moving(say, top, state, from, to, ms, random).map((each) => ({ ...each, at: at + each.at }))
  }
  return {
    truth,
    tag,
    tries: (random, at) => move(random, at, random(), between(random, 200, 600)),
    press: null,
    clicks: (random, at, each) =>
      // A hand that tries to move it by single clicks moves it a little.
      Array.from({ length: 2 * each }).flatMap((_, index) =>
        move(
          random,
          at + index * 400,
          Math.min(1, Math.max(0, state.at / top + (index < each ? 0.03 : -0.03))),
          40,
        ),
      ),
    sweep: (random, at) => [
      ...move(random, at, 0, 400),
      ...move(random, at + 600, 1, between(random, 1500, 2500)),
      ...move(random, at + 3400, 0, between(random, 1500, 2500)),
    ],
  }
}

type Encode = (clicks: number) => number
const ENCODE: Readonly<Record<string, Encode>> = {
  'twos-complement': (clicks) => (clicks < 0 ? 128 + clicks : clicks),
  'offset-binary': (clicks) => 64 + clicks,
  'sign-magnitude': (clicks) => (clicks < 0 ? 64 - clicks : clicks),
}
function encoder(encoding: string, tag: string, status: number, number: number, gain: number): Hardware {
  const encode = ENCODE[encoding] ?? ((clicks) => clicks)
  const turn = (random: () => number, at: number, way: number, count: number, gap: number): Sent[] =>
    Array.from({ length: count }, (_, index) => {
      const fast = gap < 60 ? 1 + Math.floor(random() * gain) : 1
      return { at: at + index * gap, bytes: [status, number, encode(way * fast)] }
    })
  return {
    truth: { kind: 'relative', encoding } as Truth,
    tag,
    tries: (random, at) =>
      turn(random, at, random() < 0.5 ? 1 : -1, 3 + Math.floor(random() * 6), between(random, 20, 200)),
    press: null,
    clicks: (random, at, each) => [
      ...turn(random, at, 1, each, 300),
      ...turn(random, at + each * 300 + 500, -1, each, 300),
    ],
    sweep: (random, at) => [...turn(random, at, 1, 20, 60), ...turn(random, at + 2000, -1, 20, 60)],
  }
}

const channel = fc.integer({ min: 1, max: 16 })
const number = fc.constantFrom(3, 9, 14, 20, 33, 70, 85, 102, 119)
const seven = fc.integer({ min: 0, max: 127 })
const two = fc.uniqueArray(seven, { minLength: 2, maxLength: 2 })

export const anyButton: fc.Arbitrary<Hardware> = fc
  .record({
    channel,
    number,
    values: fc.oneof(fc.constant([127, 0]), fc.constant([1, 0]), two),
    which: fc.integer({ min: 0, max: 3 }),
    size: fc.integer({ min: 3, max: 6 }),
  })
  .map(({ channel: on, number: cc, values, which, size }) => {
    const say = (value: number): number[][] => [[0xb0 + on - 1, cc, value]]
    const tag = `${on}:cc${cc}`
    const [a = 127, b = 0] = values
    let count = 0
    if (which === 0)
      return button(
        { kind: 'momentary', pressed: a, released: b },
        tag,
        pressing(
          () => say(a),
          () => say(b),
        ),
      )
    if (which === 1)
      return button(
        { kind: 'toggle', on: Math.max(a, b), off: Math.min(a, b) },
        tag,
        pressing(
          () => say(count++ % 2 === 0 ? a : b),
          () => [],
        ),
      )
    if (which === 2)
      return button(
        { kind: 'trigger', value: a },
        tag,
        pressing(
          () => say(a),
          () => [],
        ),
      )
    const list = Array.from({ length: size }, (_, index) => Math.round((index * 127) / (size - 1)))
    return button(
      { kind: 'list', values: list },
      tag,
      pressing(
        () => say(list[count++ % size] ?? 0),
        () => [],
      ),
    )
  })
export const anyPad: fc.Arbitrary<Hardware> = fc
  .record({
    channel,
    note: seven,
    byZero: fc.boolean(),
    fixed: fc.boolean(),
    which: fc.integer({ min: 0, max: 2 }),
  })
  .map(({ channel: on, note, byZero, fixed, which }) => {
    const blows = [40, 77, 101, 64, 90]
    let [count, blow] = [0, 0]
    const down = (): number[][] => [[0x90 + on - 1, note, fixed ? 100 : (blows[blow++ % 5] ?? 1)]]
    const up = (): number[][] => [byZero ? [0x90 + on - 1, note, 0] : [0x80 + on - 1, note, 64]]
    const tag = `${on}:note${note}`
    if (which === 0) return button({ kind: 'momentary', pressed: 1, released: 0 }, tag, pressing(down, up))
    if (which === 1)
      return button(
        { kind: 'toggle', on: 1, off: 0 },
        tag,
        pressing(
          () => (count++ % 2 === 0 ? down() : up()),
          () => [],
        ),
      )
    return button(
      { kind: 'trigger', value: 1 },
      tag,
      pressing(down, () => []),
    )
  })
export const anySlider: fc.Arbitrary<Hardware> = fc
  .record({
    channel,
    number,
    which: fc.integer({ min: 0, max: 4 }),
    low: fc.constantFrom(16, 17, 22),
    order: fc.boolean(),
    spares: fc.boolean(),
    omits: fc.boolean(),
  })
  .map(({ channel: on, number: cc, which, low, order, spares, omits }) => {
    const swept: Truth = { kind: 'swept' }
    if (which === 0) return slider(swept, `${on}:cc${cc}`, 127, (value) => [[0xb0 + on - 1, cc, value]])
    if (which === 1)
      return slider(swept, `${on}:bend`, 16383, (value) => [[0xe0 + on - 1, value & 127, value >> 7]])
    if (which === 2) return slider(swept, `${on}:pressure`, 127, (value) => [[0xd0 + on - 1, value]])
    if (which === 3) {
      let msb = -1
      return slider(swept, `${on}:cc${low}+${low + 32}`, 16383, (value) => {
        const isSame = value >> 7 === msb
        msb = value >> 7
        const high = [0xb0 + on - 1, low, value >> 7]
        const fine = [0xb0 + on - 1, low + 32, value & 127]
        if (spares && isSame) return [fine]
        return order ? [high, fine] : [fine, high]
      })
    }
    let isSelected = false
    return slider(swept, `${on}:nrpn300`, 16383, (value) => {
      const select =
        isSelected && omits
          ? []
          : [
              [0xb0 + on - 1, 99, 2],
              [0xb0 + on - 1, 98, 44],
            ]
      isSelected = true
      return [...select, [0xb0 + on - 1, 6, value >> 7], [0xb0 + on - 1, 38, value & 127]]
    })
  })
export const anyEncoder: fc.Arbitrary<Hardware> = fc
  .record({
    channel,
    number,
    encoding: fc.constantFrom(...Object.keys(ENCODE)),
    gain: fc.integer({ min: 1, max: 8 }),
  })
  .map(({ channel: on, number: cc, encoding, gain }) =>
    encoder(encoding, `${on}:cc${cc}`, 0xb0 + on - 1, cc, gain),
  )

export const anyHardware: fc.Arbitrary<Hardware> = fc.oneof(anyButton, anyPad, anySlider, anyEncoder)

/** Trouble on the way: messages lost, late by a little, and others that were touched by accident. */
export interface Trouble {
  lost: number
  lateMs: number
  touched: number
}
export const anyTrouble: fc.Arbitrary<Trouble> = fc.record({
  lost: fc.constantFrom(0, 0.01, 0.02),
  lateMs: fc.constantFrom(0, 3),
  touched: fc.constantFrom(0, 3),
})

/** The stream as it arrives. */
export function troubled(
  sent: readonly Sent[],
  { lost, lateMs, touched }: Trouble,
  random: () => number,
): Sent[] {
  const kept = sent
    .filter(() => random() >= lost)
    .map((each) => ({ ...each, at: each.at + random() * lateMs }))
  // What is late does not overtake.
  kept.forEach((each, index) => {
    const before = kept[index - 1]
    if (before && each.at < before.at) each.at = before.at
  })
  const others = Array.from({ length: touched }, (_, index) => ({
    at: (sent[0]?.at ?? 0) + random() * 500,
    bytes: [0xb0, 110 + index, Math.floor(random() * 128)],
  }))
  const clock = Array.from({ length: 4 }, (_, index) => ({
    at: (sent[0]?.at ?? 0) + index * 21,
    bytes: [0xf8],
  }))
  return [...kept, ...others, ...clock].sort((a, b) => a.at - b.at)
}
