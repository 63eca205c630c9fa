import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import {
  assignmentsAt,
  controlsOf,
  modelOf,
  perform,
  powerUpShowing,
  rigIndex,
  shownPlace,
  type GestureKey,
  type Id,
  type Rig,
  type Showing,
} from '../../rig'
import type { SentMessage } from '../../midi'
import { sending, sendingCc, testController, testDestination, testRig } from '../../testing/rigs'
import { play } from '../controller'
import { poweredUp } from '../controller-state'
import type { Hand } from '../hands'
import { actsOver } from '../rehearsal/range'
import {
  lineCheck,
  lineCheckedOf,
  ruledCablesOf,
  takeOffGone,
  type LineCheck,
  type LineReport,
  type Listened,
} from '.'
import { cases } from '../../testing/cases'

const demo = nineRingsRig('as-performed')
const showingsOf = (rig: Rig): Record<Id, Showing> =>
  Object.fromEntries(rig.controllers.map((controller) => [controller.id, powerUpShowing(controller)]))

interface Hardware {
  rig: Rig
  controller: Id
  showing?: Showing
  /** What becomes of each message on its way. */
  change?: (bytes: readonly number[], gesture: GestureKey) => readonly number[]
}

/** Touch every gesture of hardware that shows something, in some order; gives what comes out, gesture by gesture. */
function touched({
  rig,
  controller: id,
  showing,
  change = (bytes) => bytes,
}: Hardware): Map<GestureKey, number[][]> {
  const controller = rigIndex(rig).controllers.get(id)
  if (!controller) throw new Error(id)
  const found = new Map<GestureKey, number[][]>()
  const state = { ...poweredUp(controller), showing: showing ?? powerUpShowing(controller) }
  for (const control of controlsOf(modelOf(rig, controller)).values())
    for (const kind of control.gestures) {
      const gesture = `${control.id}.${kind}`
      const place = shownPlace(controller, state.showing, gesture)
      const messages = (place && assignmentsAt(controller, place)?.[gesture]?.messages) ?? []
      const sent = messages.filter((message): message is SentMessage => message.kind !== 'off')
      if (!place || sent.length === 0) continue
      // A hand that chooses a layer must not change what is listened to here.
      let own = state
      const bytes: number[][] = []
      let at = 0
      for (const { hand, ms } of actsOver(control, gesture, sent, [])) {
        const next = play(rig, controller, own, hand as Hand, at)
        own = { ...next.state, showing: state.showing }
        at += ms
        for (const each of next.sent)
          if (each.place.gesture === gesture) bytes.push([...change(each.bytes, gesture)])
      }
      if (bytes.length > 0) found.set(gesture, bytes)
    }
  return found
}

const listened = (rig: Rig, controller: Id, more: Partial<Listened> = {}): Listened => ({
  rig,
  controller,
  showings: showingsOf(rig),
  behind: null,
  ...more,
})

/** What a check says of what hardware sends, its gestures touched in an order. */
function checkedBy(
  check: LineCheck,
  hardware: Hardware,
  order: (keys: string[]) => string[] = (keys) => keys,
): LineReport {
  const all = touched(hardware)
  let at = 0
  for (const key of order([...all.keys()]))
    for (const bytes of all.get(key) ?? []) check.hear(bytes, (at += 10))
  return check.report()
}
const checked = (
  rig: Rig,
  id: Id,
  hardware: Partial<Hardware> = {},
  more: Partial<Listened> = {},
): LineReport => checkedBy(lineCheck(listened(rig, id, more)), { rig, controller: id, ...hardware })
const texts = ({ causes }: LineReport): string[] => causes.map(({ text }) => text)

const inUse = demo.controllers.filter((each) => each.inUse).map(({ id }) => id)

describe('a line check of hardware that is as written', () => {
  it.each(inUse)('says so of every control of %s, in whatever order', (id) => {
    fc.assert(
      fc.property(fc.infiniteStream(fc.nat()), (numbers) => {
        const shuffled = (keys: string[]): string[] => {
          const ranks = new Map(keys.map((key) => [key, numbers.next().value as number]))
          return [...keys].sort((a, b) => (ranks.get(a) ?? 0) - (ranks.get(b) ?? 0))
        }
        const report = checkedBy(lineCheck(listened(demo, id)), { rig: demo, controller: id }, shuffled)
        expect(texts(report)).toEqual([])
        expect(report.strangers).toEqual([])
        expect(report.lines.filter(({ state }) => state !== 'as-written')).toEqual([])
        expect(report.touched).toBe(report.lines.length)
      }),
      cases(3),
    )
  })

  it('holds untouched what nobody has touched', () => {
    const check = lineCheck(listened(demo, 'syzra'))
    const all = touched({ rig: demo, controller: 'syzra' })
    const [first] = all
    for (const bytes of first?.[1] ?? []) check.hear(bytes, 0)
    const report = check.report()
    expect(report.touched).toBe(1)
    expect(report.lines.find(({ gesture }) => gesture === first?.[0])?.state).toBe('as-written')
    expect(report.lines.filter(({ state }) => state === 'not-touched')).toHaveLength(report.lines.length - 1)
  })
})

/** Every value the wrong way round. */
const turned = (bytes: readonly number[]): readonly number[] =>
  (bytes[0] ?? 0) >> 4 === 0xb ? bytes.map((byte, index) => (index % 3 === 2 ? 127 - byte : byte)) : bytes

describe('a line check names the one cause', () => {
  const syzra = rigIndex(demo).controllers.get('syzra')!
  const showing = powerUpShowing(syzra)

  it('another layer', () => {
    for (const layer of ['rings', 'transit', 'night-side']) {
      const report = checked(demo, 'syzra', {
        showing: { ...showing, layers: { ...showing.layers, knobs: layer } },
      })
      expect(texts(report)).toHaveLength(1)
      expect(texts(report)[0]).toMatch(/^Another layer is on: Knobs of Syzra 24 shows /)
      expect(report.strangers).toEqual([])
      expect(report.differing).toBeGreaterThan(8)
    }
  })

  it('two ports that are swapped', () => {
    expect(texts(checked(demo, 'syzra', { controller: 'pelluna' }))).toEqual([
      'Two ports are swapped: what comes from Syzra 24 is sent by Pelluna 36.',
    ])
    expect(texts(checked(demo, 'pelluna', { controller: 'syzra' }))).toEqual([
      'Two ports are swapped: what comes from Pelluna 36 is sent by Syzra 24.',
    ])
  })

  it('another home channel', () => {
    const homed = perform(demo, '', [
      { type: 'controller-set', controller: 'merrod', set: { homeChannel: 7 } },
    ]).rig
    const report = checked(demo, 'merrod', { rig: homed })
    expect(texts(report)).toEqual(['The home channel is another: Merrod 49 sends on channel 7, not on 2.'])
    expect(report.strangers).toEqual([])
  })

  it('another slot', () => {
    const template = { ...syzra.templates[0]!, id: 'spare', name: 'Spare' }
    const moved = JSON.parse(
      JSON.stringify(template).replaceAll(/"channel":6/g, '"channel":13'),
    ) as typeof template
    const rig = perform(demo, '', [
      { type: 'template-add', controller: 'syzra', template: moved },
      { type: 'slot-set', controller: 'syzra', number: 4, set: { template: 'spare' } },
    ]).rig
    const report = checked(rig, 'syzra', {
      showing: powerUpShowing(
        rig.controllers.find(({ id }) => id === 'syzra')!,
        'spare',
      ),
    })
    expect(texts(report)).toEqual(['Another slot is loaded: Syzra 24 sends template “Spare” (slot 4).'])
  })

  it('keys an octave up, and transposed', () => {
    const shiftedBy =
      (semitones: number) =>
      (bytes: readonly number[], gesture: GestureKey): readonly number[] =>
        gesture === 'keys.strike' ? [bytes[0] ?? 0, (bytes[1] ?? 0) + semitones, bytes[2] ?? 0] : bytes
    for (const [semitones, says] of [
      [-24, 'are 2 octaves down'],
      [-12, 'are 1 octave down'],
      [12, 'are 1 octave up'],
      [24, 'are 2 octaves up'],
      [5, 'are transposed 5 semitones up: C3 plays F3'],
      [-1, 'are transposed 1 semitone down: C3 plays B2'],
    ] as const)
      expect(texts(checked(demo, 'merrod', { change: shiftedBy(semitones) }))).toEqual([
        `The keys of Merrod 49 ${says}.`,
      ])
  })

  it('all values the wrong way round', () => {
    const rig = demo
    const report = checked(rig, 'syzra', { change: turned })
    expect(texts(report).slice(0, 1)).toEqual([
      'All values of Syzra 24 come the wrong way round: pressed says what let go is to say.',
    ])
  })

  it('a toggle that is stuck, and a pedal that does not reach its end', () => {
    const stuck = checked(demo, 'syzra', {
      change: (bytes) => ([0x85, 0x95].includes(bytes[0] ?? 0) && bytes[1] === 36 ? [0x95, 36, 127] : bytes),
    })
    expect(texts(stuck)).toEqual([expect.stringMatching(/ is stuck: it says the same at every press\.$/)])
    const short = checked(demo, 'umbrek', {
      change: (bytes) =>
        (bytes[0] ?? 0) >> 4 === 0xb && bytes[1] === 11
          ? [bytes[0] ?? 0, 11, Math.min(104, bytes[2] ?? 0)]
          : bytes,
    })
    expect(texts(short)).toEqual(['Expression does not reach its end: 104 of 127.'])
  })

  it('two at a time', () => {
    const layers = { ...showing.layers, knobs: 'transit', buttons: 'scenes' }
    const both = checked(demo, 'syzra', { showing: { ...showing, layers } })
    expect(texts(both).sort()).toEqual([
      'Another layer is on: Buttons of Syzra 24 shows Scenes.',
      'Another layer is on: Knobs of Syzra 24 shows Transit.',
    ])
    const pelluna = powerUpShowing(rigIndex(demo).controllers.get('pelluna')!)
    const swapped = checked(demo, 'syzra', {
      controller: 'pelluna',
      showing: { ...pelluna, layers: { ...pelluna.layers, pads: 'scales' } },
    })
    expect(texts(swapped).sort()).toEqual([
      'Another layer is on: Pads of Pelluna 36 shows Scales.',
      'Two ports are swapped: what comes from Syzra 24 is sent by Pelluna 36.',
    ])
  })
})

describe('a line check behind a cable', () => {
  const rules = [{ kind: 'rewrite' as const, match: { channels: [2] }, to: { channel: 9 } }]
  const rig = testRig(
    [
      testController('a', {
        'k1.turn': sendingCc(20, { channel: 2 }),
        'k2.turn': sendingCc(21, { channel: 2 }),
        'k3.turn': sendingCc(22),
      }),
    ],
    [testDestination('d')],
    { cables: [{ id: 'c', from: { owner: 'a', port: 'out' }, to: { owner: 'd', port: 'in' }, rules }] },
  )
  const ruled = (bytes: readonly number[]): readonly number[] => [
    bytes[0] === 0xb1 ? 0xb8 : (bytes[0] ?? 0),
    ...bytes.slice(1),
  ]

  it('expects what the rules of the cable make of it, and names rules that are missing', () => {
    const behind = checked(rig, 'a', { change: ruled }, { behind: 'c' })
    expect(texts(behind)).toEqual([])
    expect(behind.lines.map(({ state }) => state)).toEqual(['as-written', 'as-written', 'as-written'])
    expect(texts(checked(rig, 'a', {}, { behind: 'c' }))).toEqual([
      'The rules of the cable A · Out → D · In are missing: what comes is as it was sent.',
    ])
  })
})

describe('the cables with rules that a controller comes to', () => {
  const performed = nineRingsRig('as-performed')
  const fed = (controller: string): string[] => ruledCablesOf(performed, controller).map(({ id }) => id)

  it('are found through boxes and through software, and not beyond one another', () => {
    expect(fed('umbrek')).toEqual(['feet-to-laptop'])
    expect(fed('syzra')).toEqual(['feet-to-laptop', 'to-kettlow'])
    expect(fed('pelluna')).toEqual(['to-kettlow'])
    expect(fed('corvel')).toEqual([])
  })

  it('are none where every cable hands on everything', () => {
    const plain = {
      ...performed,
      cables: performed.cables.map((each) => ({ ...each, rules: [], otherwise: 'pass' as const })),
    }
    for (const { id } of plain.controllers) expect(ruledCablesOf(plain, id)).toEqual([])
  })

  it('end in a ring of thru boxes', () => {
    const box = (id: string) => ({
      id,
      name: id,
      kind: 'thru' as const,
      ports: [
        { id: 'in', name: 'In', direction: 'in' as const },
        { id: 'out', name: 'Out', direction: 'out' as const },
      ],
    })
    const wire = (id: string, from: string, to: string, rules: Rig['cables'][number]['rules'] = []) => ({
      id,
      from: { owner: from, port: 'out' },
      to: { owner: to, port: 'in' },
      rules,
    })
    const first: Rig['cables'][number]['rules'] = [
      { kind: 'pass', match: { kinds: [], channels: [1], low: null, high: null } },
    ]
    const ring = testRig([testController('a', { 'k1.turn': sendingCc(20) })], [testDestination('d')], {
      boxes: [box('b1'), box('b2'), box('b3')],
      cables: [
        wire('1', 'a', 'b1'),
        wire('2', 'b1', 'b2'),
        wire('3', 'b2', 'b1'),
        wire('4', 'b2', 'b3', first),
        // Behind the first rules: what comes there is no longer what the controller sends.
        wire('5', 'b3', 'd', first),
      ],
    })
    expect(ruledCablesOf(ring, 'a').map(({ id }) => id)).toEqual(['4'])
  })
})

describe('a line check of controllers that could be parts of something longer', () => {
  it('takes them for what is written: a pair where a pair is, else two controls', () => {
    const plain = testRig([
      testController('a', { 'k1.turn': sendingCc(8), 'k2.turn': sendingCc(40), 'k3.turn': sendingCc(98) }),
    ])
    const paired = testRig([testController('a', { 'k1.turn': sending({ kind: 'cc14', number: 8 }) })])
    for (const rig of [plain, paired]) {
      const report = checked(rig, 'a')
      expect(report.lines.map(({ state }) => state)).toEqual(report.lines.map(() => 'as-written'))
      expect(report.strangers).toEqual([])
    }
  })
})

describe('a line check that cannot be sure', () => {
  it('names the control that came as another number, where it is known which was touched', () => {
    const check = lineCheck(listened(demo, 'syzra'))
    check.hear([0xb0, 119, 5], 0, 'fader-1.slide')
    const line = check.report().lines.find(({ gesture }) => gesture === 'fader-1.slide')
    expect(line).toMatchObject({ state: 'differs', came: '1:cc119, 5' })
    const other = lineCheck(listened(demo, 'syzra'))
    other.hear([0xb0, 119, 5], 0)
    expect(other.report().strangers).toMatchObject([{ text: '1:cc119, 5' }])
  })

  it('says of two causes that explain as much what would tell them apart', () => {
    const layered = (x: number, y: number) => ({ 'k1.turn': sendingCc(x), 'k2.turn': sendingCc(y) })
    const rig = testRig([
      testController(
        'a',
        {},
        {
          templates: [
            {
              id: 't',
              name: 'T',
              base: {},
              stacks: [
                {
                  id: 's',
                  name: 'S',
                  gestures: ['k1.turn', 'k2.turn'],
                  powerUp: 'x',
                  layers: [
                    { id: 'x', name: 'X', assignments: layered(20, 21) },
                    { id: 'y', name: 'Y', assignments: layered(30, 31) },
                    { id: 'z', name: 'Z', assignments: layered(30, 90) },
                  ],
                },
              ],
            },
          ],
        },
      ),
    ])
    const check = lineCheck(listened(rig, 'a'))
    // Two of the layers send this, and the first of the knobs does in both.
    check.hear([0xb0, 30, 5], 0)
    const unsure = check.report()
    expect(texts(unsure)).toEqual(['Another layer is on: S of A shows Y.'])
    expect(unsure.doubt).toEqual({
      other: 'Another layer is on: S of A shows Z.',
      touch: 'Touch Knob 2 to tell.',
    })
    check.hear([0xb0, 90, 5], 10)
    const sure = check.report()
    expect(texts(sure)).toEqual(['Another layer is on: S of A shows Z.'])
    expect(sure.doubt).toBeNull()
  })

  it('takes any bytes, and never names a control that is not there', () => {
    fc.assert(
      fc.property(fc.array(fc.uint8Array({ maxLength: 12 }), { maxLength: 30 }), (streams) => {
        const check = lineCheck(listened(demo, 'umbrek'))
        streams.forEach((bytes, index) => check.hear([...bytes], index))
        const { lines, touched: count, differing } = check.report()
        expect(lines.length).toBeGreaterThan(0)
        expect(count).toBeGreaterThanOrEqual(differing)
      }),
      cases(30),
    )
  })
})

describe('what the hardware no longer has', () => {
  const all = touched({ rig: demo, controller: 'syzra' })
  const isOf = (gesture: GestureKey, ...controls: string[]): boolean =>
    controls.includes(gesture.split('.')[0] ?? '')
  /** Everything is touched but one fader, one encoder’s push and the rest of it. */
  function half(): { check: LineCheck; left: GestureKey[] } {
    const check = lineCheck(listened(demo, 'syzra'))
    let at = 0
    for (const [gesture, sent] of all)
      if (!isOf(gesture, 'fader-1') && gesture !== 'enc-1.push')
        for (const bytes of sent) check.hear(bytes, (at += 10))
    const left = check
      .report()
      .lines.flatMap(({ state, gesture }) => (state === 'not-touched' ? [gesture] : []))
    return { check, left }
  }

  it('is what the player says of what was not touched: neither touched nor differing, and kept so', () => {
    const { check, left } = half()
    expect(left.length).toBeGreaterThan(0)
    const before = check.report()
    check.miss(left, true)
    const report = check.report()
    expect(report.lines.filter(({ state }) => state === 'gone').map(({ gesture }) => gesture)).toEqual(left)
    expect([report.touched, report.differing, report.causes]).toEqual([before.touched, before.differing, []])
    const kept = lineCheckedOf(report, '2026-11-30T04:00:00.000Z')
    expect(kept.lines).toHaveLength(report.lines.length)
    expect(kept.lines.filter(({ came }) => came !== null).map(({ gesture }) => gesture)).toEqual(left)
    check.miss(left, false)
    expect(check.report()).toEqual(before)
  })

  it('is there after all once it is touched', () => {
    const { check, left } = half()
    check.miss(left, true)
    let at = 100_000
    for (const gesture of left) for (const bytes of all.get(gesture) ?? []) check.hear(bytes, (at += 10))
    expect(check.report().lines.every(({ state }) => state === 'as-written')).toBe(true)
  })

  it('is taken off the surface: whole controls, and single movements of those that stay', () => {
    const { check, left } = half()
    check.miss(left, true)
    const { lines } = check.report()
    const offer = takeOffGone(demo, 'syzra', lines)
    if (!offer) throw new Error('nothing is offered')
    const { rig } = perform(demo, offer.label, offer.edits)
    const syzra = rig.controllers.find(({ id }) => id === 'syzra')
    const controls = syzra ? controlsOf(modelOf(rig, syzra)) : new Map()
    for (const gesture of left) {
      const [control = '', kind] = gesture.split('.')
      expect(controls.get(control)?.gestures.includes(kind) ?? false).toBe(false)
    }
    expect(controls.has('fader-1')).toBe(false)
    expect(lineCheck(listened(rig, 'syzra')).report().lines.length).toBe(lines.length - left.length)
    expect(takeOffGone(demo, 'syzra', check.report().lines.slice(0, 0))).toBe(null)
  })

  it('goes whole where all that it sends is gone, whatever else it could do', () => {
    const one = testRig([testController('a', { 'k1.turn': sendingCc(20) })])
    const rig = perform(one, 'x', [
      { type: 'controls-set', model: 'plain', controls: [{ id: 'k1', set: { gestures: ['turn', 'push'] } }] },
    ]).rig
    const check = lineCheck(listened(rig, 'a'))
    check.miss(['k1.turn'], true)
    const offer = takeOffGone(rig, 'a', check.report().lines)
    const [model] = offer ? perform(rig, offer.label, offer.edits).rig.models : []
    expect(model?.surface.controls.some(({ id }) => id === 'k1')).toBe(false)
  })

  it('stays on a surface that another controller has too', () => {
    const rig = testRig([
      testController('a', { 'k1.turn': sendingCc(20) }),
      testController('b', { 'k1.turn': sendingCc(21) }),
    ])
    const check = lineCheck(listened(rig, 'a'))
    check.miss(['k1.turn'], true)
    expect(check.report().lines.map(({ state }) => state)).toEqual(['gone'])
    expect(takeOffGone(rig, 'a', check.report().lines)).toBe(null)
  })
})
