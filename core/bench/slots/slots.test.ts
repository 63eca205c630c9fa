import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { rigIndex, type Template } from '../../rig'
import { anyRig } from '../../testing/rigs'
import {
  ANSWER_MS,
  answer,
  compareTemplates,
  fetchSlot,
  heard,
  packed,
  readSlotMessage,
  slotBytes,
  storeSlot,
  templateMark,
  unpacked,
  waited,
  type Hardware,
  type HardwareTrouble,
  type Next,
  type Outcome,
} from '.'
import { cases } from '../../testing/cases'

const demo = nineRingsRig('as-performed')
const syzra = rigIndex(demo).controllers.get('syzra')!
const model = rigIndex(demo).models.get(syzra.model)!
const [full, empty] = [syzra.templates[0]!, syzra.templates[1]!]

const hardware = (held: Record<number, Template> = {}, does: HardwareTrouble[] = []): Hardware => ({
  device: 3,
  model: model.id,
  slots: 6,
  held,
  incoming: null,
  does: new Set(does),
})

interface Line {
  hardware: Hardware
  /** What becomes of a message on its way; null is lost. */
  way?: (bytes: readonly number[], count: number) => readonly number[] | null
}

/** Let a transfer run between the application and hardware, to its end: what comes of it, and the hardware then. */
function carriedOut(first: Next, line: Line): { outcome: Outcome; hardware: Hardware; messages: number } {
  let [next, now, count] = [first, 0, 0]
  let { hardware: own } = line
  const way = line.way ?? ((bytes: readonly number[]) => bytes)
  for (let round = 0; round < 2000; round++) {
    if (next.outcome) return { outcome: next.outcome, hardware: own, messages: count }
    const sent = next.send && way(next.send, count++)
    let replies: ReadonlyArray<readonly number[]> = []
    if (sent) ({ hardware: own, replies } = answer(own, sent))
    let { transfer } = next
    next = { transfer, send: null, outcome: null }
    for (const reply of replies) {
      const came = way(reply, count++)
      if (!came) continue
      next = heard(transfer, came, now)
      ;({ transfer } = next)
      if (next.send || next.outcome) break
    }
    if (next.send || next.outcome) continue
    now += ANSWER_MS
    next = waited(transfer, now)
  }
  throw new Error('never ends')
}

describe('the exchange', () => {
  it('packs any bytes as seven bits, and back', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 600 }), (bytes) => {
        const sent = packed(bytes)
        expect(sent.every((byte) => byte < 0x80)).toBe(true)
        expect([...unpacked(sent)]).toEqual([...bytes])
      }),
    )
  })

  it('reads back what it writes, and nothing in which a byte was changed', () => {
    const message = fc.oneof(
      fc.record({ kind: fc.constant('ask' as const) }),
      fc.record({ kind: fc.constant('taken' as const), index: fc.integer({ min: 0, max: 16383 }) }),
      fc.record({
        kind: fc.constant('piece' as const),
        index: fc.integer({ min: 0, max: 16383 }),
        count: fc.integer({ min: 0, max: 16383 }),
        data: fc.array(fc.integer({ min: 0, max: 127 }), { maxLength: 240 }),
      }),
      fc.record({
        kind: fc.constant('refused' as const),
        why: fc.constantFrom('busy' as const, 'order' as const),
      }),
    )
    fc.assert(
      fc.property(
        message,
        fc.integer({ min: 0, max: 126 }),
        fc.integer({ min: 0, max: 1000 }),
        fc.nat(),
        (body, device, slot, at) => {
          const bytes = slotBytes({ device, slot, ...body })
          expect(readSlotMessage(bytes)).toEqual({ ok: true, message: { device, slot, ...body } })
          const changed = 4 + (at % (bytes.length - 5))
          const broken = bytes.map((byte, index) => (index === changed ? byte ^ 0x11 : byte))
          expect(readSlotMessage(broken)).toMatchObject({ ok: false })
        },
      ),
    )
  })

  it('takes any bytes, and says of those that are not its own that they are another’s', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        const read = readSlotMessage([...bytes])
        expect(read.ok).toBe(false)
        expect(answer(hardware(), [...bytes]).hardware).toEqual(hardware())
      }),
    )
    expect(readSlotMessage([0xf0, 0x41, 1, 2, 0xf7])).toEqual({
      ok: false,
      isOurs: false,
      why: 'This SysEx is of another device.',
    })
    const huge = [0xf0, 0x7d, 0x44, 0x4c, ...new Array<number>(1_000_000).fill(1), 0xf7]
    expect(readSlotMessage(huge)).toMatchObject({ ok: false, isOurs: true })
  })
})

describe('a template in a slot', () => {
  it('is fetched as it was stored, for any template', () => {
    fc.assert(
      fc.property(anyRig, fc.integer({ min: 1, max: 6 }), (rig, slot) => {
        for (const template of rig.controllers.flatMap(({ templates }) => templates)) {
          const stored = carriedOut(storeSlot(3, model.id, slot, template, 0), { hardware: hardware() })
          expect(stored.outcome).toEqual({ kind: 'stored' })
          expect(carriedOut(fetchSlot(3, model.id, slot, 0), { hardware: stored.hardware }).outcome).toEqual({
            kind: 'fetched',
            template,
          })
        }
      }),
      cases(25),
    )
    const stored = carriedOut(storeSlot(3, model.id, 2, full, 0), { hardware: hardware() })
    expect(stored.messages).toBeGreaterThan(100)
    expect(stored.hardware.held[2]).toEqual(full)
  })

  it('comes through where messages are lost or damaged now and then, and else leaves the slot as it was', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 5, maxLength: 60 }), (luck) => {
        const way = (bytes: readonly number[], count: number): readonly number[] | null => {
          const one = luck[count % luck.length] ?? 9
          if (one === 0) return null
          return one === 1 ? bytes.map((byte, index) => (index === 6 ? (byte ^ 3) & 0x7f : byte)) : bytes
        }
        const before = hardware({ 2: full })
        const { outcome, hardware: after } = carriedOut(storeSlot(3, model.id, 2, empty, 0), {
          hardware: before,
          way,
        })
        if (outcome.kind === 'stored') expect(after.held[2]).toEqual(empty)
        else if (outcome.kind === 'failed' && outcome.isUntouched) expect(after.held[2]).toEqual(full)
        else expect([empty, full]).toContainEqual(after.held[2])
        const back = carriedOut(fetchSlot(3, model.id, 2, 0), { hardware: before, way })
        if (back.outcome.kind === 'fetched') expect(back.outcome.template).toEqual(full)
        else expect(back.outcome.kind).toBe('failed')
      }),
      cases(18),
    )
  })

  it('stays what it was where a transfer is cut in the middle, and the player is told', () => {
    const before = hardware({ 2: empty }, ['stops'])
    const { outcome, hardware: after } = carriedOut(storeSlot(3, model.id, 2, full, 0), { hardware: before })
    expect(outcome).toEqual({
      kind: 'failed',
      why: expect.stringMatching(/^The hardware stopped answering after 2 of \d+ pieces\.$/),
      isUntouched: true,
    })
    expect(after.held[2]).toEqual(empty)
    expect(
      carriedOut(fetchSlot(3, model.id, 2, 0), { hardware: hardware({ 2: full }, ['stops']) }).outcome,
    ).toMatchObject({
      kind: 'failed',
    })
  })

  it('is refused in words: no such slot, busy, no answer, damaged, another kind', () => {
    const why = (first: Next, own: Hardware): string => {
      const { outcome } = carriedOut(first, { hardware: own })
      return outcome.kind === 'failed' ? outcome.why : outcome.kind
    }
    expect(why(fetchSlot(3, model.id, 9, 0), hardware())).toBe('The hardware has no such slot.')
    expect(why(fetchSlot(3, model.id, 2, 0), hardware({}, ['busy']))).toMatch(/^The hardware is busy/)
    expect(why(fetchSlot(3, model.id, 2, 0), hardware({}, ['silent']))).toMatch(
      /^The hardware does not answer/,
    )
    expect(why(fetchSlot(3, model.id, 2, 0), hardware({ 2: full }, ['garbles']))).toMatch(/checksum/)
    expect(why(storeSlot(3, 'another', 2, full, 0), hardware())).toBe('The hardware is of another kind.')
    expect(why(fetchSlot(3, 'another', 2, 0), hardware({ 2: full }))).toMatch(/another kind of controller/)
    expect(why(fetchSlot(5, model.id, 2, 0), hardware({ 2: full }))).toMatch(/does not answer/)
    const unnamed = { ...full, name: 7 as unknown as string }
    expect(why(fetchSlot(3, model.id, 2, 0), hardware({ 2: unnamed }))).toMatch(/name must be a string/)
    expect(carriedOut(fetchSlot(3, model.id, 2, 0), { hardware: hardware() }).outcome).toEqual({
      kind: 'fetched',
      template: null,
    })
  })
})

describe('two templates compared', () => {
  it('say control by control what was and what will be, and nothing where they are the same', () => {
    expect(compareTemplates(model, full, structuredClone(full))).toEqual([])
    const other = structuredClone(full)
    const [key] = Object.keys(other.base)
    const message = other.base[key!]!.messages[0]!
    if ('channel' in message) message.channel = 11
    expect(compareTemplates(model, full, other)).toEqual([
      {
        control: expect.any(String),
        layer: null,
        was: expect.any(String),
        will: expect.stringMatching(/^11:/),
      },
    ])
    expect(templateMark(other)).not.toBe(templateMark(full))
    expect(templateMark({ ...full, name: 'Another name' })).toBe(templateMark(full))
  })

  it('say everything that an empty slot gains, and that one loses which is emptied', () => {
    const gained = compareTemplates(model, null, full)
    expect(gained.every(({ was }) => was === null)).toBe(true)
    expect(gained.length).toBeGreaterThan(100)
    expect(compareTemplates(model, full, null)).toHaveLength(gained.length)
  })
})
