import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { landedAt } from '../addresses'
import {
  ASKED_CLICKS,
  ASKED_PRESSES,
  drawnBy,
  knownIn,
  knownMessage,
  startWalk,
  walk,
  type Walk,
} from '../listen'
import { printTag, type Message } from '../midi'
import { decodeWire, WIRE_START } from '../midi/bytes'
import {
  KIND_FACTS,
  layOut,
  perform,
  powerUpShowing,
  usualPlan,
  type Control,
  type ControlKind,
  type Rig,
} from '../rig'
import { testController, testRig, type Assigned, type MessageInput } from '../testing/rigs'
import { playRig, switchedOn } from './played'
import type { Hand } from './hands'
import type { BenchState } from './running'
import { cases } from '../testing/cases'

/** A row of like controls of some hardware: what each senses, and what each sends. */
interface Row {
  kind: ControlKind
  columns: number
  more: Control['gestures']
  message: (number: number) => MessageInput
}
const FULL = { low: 0, high: 127 }
const cc =
  (behaviour: object, range = FULL) =>
  (number: number): MessageInput =>
    ({ kind: 'cc', number, range, behaviour }) as MessageInput
const ABSOLUTE = { kind: 'absolute' }
const anyRow: fc.Arbitrary<Row> = fc.constantFrom<Row>(
  { kind: 'fader', columns: 8, more: [], message: cc(ABSOLUTE) },
  { kind: 'fader', columns: 2, more: ['touch'], message: cc(ABSOLUTE) },
  { kind: 'knob', columns: 4, more: [], message: cc(ABSOLUTE) },
  { kind: 'button', columns: 3, more: [], message: cc({ kind: 'momentary' }) },
  { kind: 'button', columns: 3, more: [], message: cc({ kind: 'toggle' }) },
  { kind: 'button', columns: 2, more: [], message: cc({ kind: 'trigger' }, { low: 99, high: 99 }) },
  { kind: 'footswitch', columns: 2, more: [], message: (number) => ({ kind: 'program', number }) },
  {
    kind: 'pad',
    columns: 4,
    more: [],
    message: (number) => ({ kind: 'note', keys: { kind: 'one', number } }),
  },
  {
    kind: 'encoder',
    columns: 2,
    more: ['push'],
    message: cc({ kind: 'relative', encoding: 'offset-binary' }),
  },
  {
    kind: 'encoder',
    columns: 2,
    more: ['push', 'touch'],
    message: cc({ kind: 'relative', encoding: 'twos-complement' }),
  },
  { kind: 'xy', columns: 1, more: [], message: cc(ABSOLUTE) },
  { kind: 'xy', columns: 1, more: ['touch'], message: cc(ABSOLUTE) },
)

/** What a player does on a keyboard: the lowest key, then the highest, each bent and leaned into. */
const playedKeys = (gesture: string, low: number, high: number): Hand[] =>
  [low, high].flatMap((key): Hand[] => [
    { kind: 'press', gesture, key, force: 0.6 },
    { kind: 'express', gesture, key, what: 'bend', to: 0.8 },
    { kind: 'express', gesture, key, what: 'pressure', to: 0.5 },
    { kind: 'let-go', gesture, key },
  ])

/** Numbers that no two rows share, and of which none is another’s LSB. */
const numbers = (): (() => number) => {
  const free = Array.from({ length: 128 }, (_, number) => number).filter(
    (number) => (number >= 16 && number < 32 && number !== 20) || (number >= 64 && number < 96),
  )
  return () => free.shift() ?? 102
}

const SIZE = { width: 600, height: 400, blocks: [], controls: [] }

/** The hardware itself, as a rig with its template. */
function hardware(rows: readonly Row[]): { rig: Rig; rows: Control[][] } {
  let surface: Parameters<typeof layOut>[0] = SIZE
  const next = numbers()
  const base: Assigned = {}
  const laid = rows.map(({ kind, columns, more, message }, index) => {
    const { controls } = layOut(surface, { ...usualPlan(kind), columns }, { x: 10, y: 10 + index * 60 })
    const made = controls.map((control): Control => ({
      ...control,
      block: null,
      gestures: [...control.gestures, ...more],
    }))
    surface = { ...surface, controls: [...surface.controls, ...made] }
    for (const control of made)
      for (const gesture of control.gestures)
        base[`${control.id}.${gesture}`] = {
          messages: [
            gesture === 'touch' || gesture === 'push' ? cc({ kind: 'momentary' })(next()) : message(next()),
          ],
        }
    return made
  })
  const model = { id: 'plain', name: 'Plain', abilities: { connection: 'usb' as const }, surface }
  return { rig: testRig([testController('a', base)], undefined, { models: [model] }), rows: laid }
}

/** What a player does with one control, and what is said when they are done. */
function handsFor({ id, gestures }: Control, message: Message | undefined): Hand[] {
  const on = (gesture: string): string => `${id}.${gesture}`
  const press = (gesture: string): Hand[] =>
    Array.from({ length: ASKED_PRESSES }).flatMap((): Hand[] => [
      { kind: 'press', gesture: on(gesture), force: 0.7 },
      { kind: 'let-go', gesture: on(gesture) },
    ])
  const main = gestures.flatMap((gesture): Hand[] => {
    if (gesture === 'touch' || gesture === 'push') return []
    const behaviour = message && 'behaviour' in message ? message.behaviour.kind : null
    if (behaviour === 'relative')
      return [1, -1].flatMap((by) =>
        Array.from({ length: ASKED_CLICKS }, (): Hand => ({ kind: 'click', gesture: on(gesture), by })),
      )
    return behaviour === 'absolute'
      ? [1, 0].map((to): Hand => ({ kind: 'move', gesture: on(gesture), to, overMs: 900 }))
      : press(gesture)
  })
  const touched: Hand[] = gestures.includes('touch')
    ? [{ kind: 'press', gesture: on('touch') }, ...main, { kind: 'let-go', gesture: on('touch') }]
    : main
  return gestures.includes('push') ? [...touched, { kind: 'wait' }, ...press('push')] : touched
}

/** Go along the hardware, row by row, as the player of an empty drawing does. */
function drawn(rig: Rig, rows: readonly Row[], laid: readonly Control[][]): { rig: Rig; sure: boolean } {
  let [bench, drawing, at]: [BenchState, Rig, number] = [
    switchedOn(rig),
    testRig([testController('b', {})], undefined, {
      models: [{ id: 'plain', name: 'Plain', abilities: { connection: 'usb' }, surface: SIZE }],
    }),
    0,
  ]
  let now: Walk = startWalk([])
  let isSure = true
  const base = rig.controllers[0]?.templates[0]?.base ?? {}
  rows.forEach(({ kind, columns }, index) => {
    const surface = drawing.models[0]?.surface ?? SIZE
    const { controls, block } = layOut(
      surface,
      { ...usualPlan(kind), columns },
      { x: 10, y: 10 + index * 60 },
    )
    now = startWalk(controls, now)
    for (const control of laid[index] ?? []) {
      const [first] = control.gestures
      const message = base[`${control.id}.${first}`]?.messages[0]
      for (const hand of handsFor(control, message)) {
        const step = playRig(rig, bench, 'a', hand, at)
        bench = step.state
        for (const { bytes, at: when } of step.passed)
          for (const event of decodeWire(WIRE_START, bytes, when).events)
            if (event.kind === 'message')
              now = walk(now, { kind: 'message', at: when, bytes: event.bytes, isKnown: false })
        at += hand.kind === 'move' ? 1000 : hand.kind === 'press' ? 120 : hand.kind === 'click' ? 130 : 700
      }
      at += 3000
      now = walk(now, { kind: 'time', at })
    }
    for (const control of controls) {
      const [controller] = drawing.controllers
      if (!controller) throw new Error('no controller')
      const known = knownIn(now, control)
      if (known.some(({ state }) => state === 'open')) isSure = false
      const edits = drawnBy(
        { rig: drawing, controller, showing: powerUpShowing(controller) },
        control,
        block,
        known,
      )
      if (edits.length > 0) drawing = perform(drawing, 'Draw', edits).rig
    }
  })
  return { rig: drawing, sure: isSure }
}

/** What a template sends, gesture by gesture: where it lands, and how it works. */
function sent(rig: Rig): Record<string, string> {
  const [controller] = rig.controllers
  return Object.fromEntries(
    Object.entries(controller?.templates[0]?.base ?? {}).map(([gesture, { messages }]) => [
      gesture,
      messages
        .map((message) => {
          const range = 'range' in message ? `${message.range.low}-${message.range.high}` : ''
          const behaviour = 'behaviour' in message ? JSON.stringify(message.behaviour) : ''
          if (message.kind === 'off') return ''
          return `${landedAt(message).map(printTag).join()} ${range} ${behaviour}`
        })
        .join(' and '),
    ]),
  )
}

describe('a keyboard that is gone along', () => {
  const keyboard = { low: 36, high: 84, transpose: 0, octaveReach: 0 }
  it.each([
    { kind: 'span' as const, ...keyboard },
    { kind: 'zone' as const, ...keyboard, manager: 1 as const, members: 7 },
    { kind: 'zone' as const, ...keyboard, manager: 16 as const, members: 5 },
  ])('is drawn with its keys, and a channel for each where it has them: $kind', (keys) => {
    const { controls } = layOut(SIZE, usualPlan('keybed'), { x: 10, y: 10 })
    const surface = { ...SIZE, controls }
    const rig = testRig(
      [testController('a', { 'keybed-1.strike': { messages: [{ kind: 'note', keys } as MessageInput] } })],
      undefined,
      { models: [{ id: 'plain', name: 'Plain', abilities: { connection: 'usb' }, surface }] },
    )
    let [bench, now, at]: [BenchState, Walk, number] = [switchedOn(rig), startWalk(controls), 0]
    for (const hand of playedKeys('keybed-1.strike', 36, 84)) {
      const step = playRig(rig, bench, 'a', hand, at)
      bench = step.state
      for (const { bytes, at: when } of step.passed)
        for (const event of decodeWire(WIRE_START, bytes, when).events)
          if (event.kind === 'message')
            now = walk(now, { kind: 'message', at: when, bytes: event.bytes, isKnown: false })
      at += 300
    }
    now = walk(now, { kind: 'time', at: at + 5000 })
    const [control] = controls
    const [known] = control ? knownIn(now, control) : []
    expect(known && knownMessage(known, null, 1)).toMatchObject({ kind: 'note', keys })
    expect(now.others).toEqual([])
  })
})

describe('hardware that is gone along', () => {
  it('is drawn with the controls that it has, and with what each of them sends', () => {
    fc.assert(
      fc.property(fc.array(anyRow, { minLength: 1, maxLength: 4 }), (rows) => {
        const { rig, rows: laid } = hardware(rows)
        const { rig: drawing, sure } = drawn(rig, rows, laid)
        expect(sure).toBe(true)
        expect(sent(drawing)).toEqual(sent(rig))
        const gestures = (of: Rig): string[] =>
          (of.models[0]?.surface.controls ?? []).map(
            ({ id, kind, gestures: all }) =>
              `${id} ${[...KIND_FACTS[kind].gestures, ...KIND_FACTS[kind].more].filter((each) => all.includes(each)).join()}`,
          )
        expect(gestures(drawing)).toEqual(gestures(rig))
      }),
      cases(60),
    )
  })
})
