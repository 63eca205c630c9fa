import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { perform, rigIndex } from '../../rig'
import {
  readParts,
  recipeIn,
  type ReadRecipe,
  readRecipe,
  recipeProblems,
  requestProblems,
  rowsOf,
  syxMessages,
  templateEdits,
  withRows,
  writeRecipe,
  writeRequest,
  type RecipeRow,
} from '.'

const KINDS = ['off', 'cc', 'cc14', 'note', 'nrpn', 'program', 'pitchBend', 'channelPressure', 'polyPressure']
const BEHAVIOURS = ['absolute', 'relative', 'momentary', 'toggle', 'trigger', 'latch', 'list']

function recipe(text: string, more: Partial<ReadRecipe> = {}): ReadRecipe {
  const read = readParts(text)
  if (!read.ok) throw new Error(read.message)
  return {
    parts: read.parts,
    kinds: KINDS.map((word, byte) => ({ word, byte })),
    behaviours: [...BEHAVIOURS].map((word, byte) => ({ word, byte: byte + 10 })),
    ...more,
  }
}

const row: fc.Arbitrary<RecipeRow> = fc.record({
  layer: fc.integer({ min: 0, max: 9 }),
  control: fc.integer({ min: 0, max: 120 }),
  kind: fc.constantFrom(...KINDS),
  channel: fc.integer({ min: 1, max: 16 }),
  number: fc.integer({ min: 0, max: 16383 }),
  low: fc.integer({ min: 0, max: 16383 }),
  high: fc.integer({ min: 0, max: 16383 }),
  behaviour: fc.constantFrom(...BEHAVIOURS),
  colour: fc.integer({ min: 0, max: 127 }),
  name: fc.string({ unit: fc.constantFrom('A', 'b', '7', '-'), minLength: 1, maxLength: 8 }),
})
const RUN =
  '{layer} {control} {kind} {channel-1} {number:halves} {low:halves} {high:halves} {behaviour} {colour} {name:8}'
const texts = [
  `F0 7D 01 {device} {slot:halves} [ ${RUN} ] {sum from 3} F7`,
  `F0 7D 02 {slot} [packed ${RUN} ] {negated from 1} F7`,
  `F0 7D 03 {device} {slot} ${RUN} {xor from 2} F7`,
]

describe('a recipe', () => {
  it('reads back what it writes, for any rows: one message for all, packed, and one a control', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...texts),
        fc.array(row, { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 1, max: 100 }),
        fc.integer({ min: 0, max: 126 }),
        (text, rows, slot, device) => {
          const own = recipe(text)
          expect(recipeProblems(own)).toEqual([])
          const written = writeRecipe(own, rows, { slot, device })
          if (!written.ok) throw new Error(written.why)
          expect(written.messages).toHaveLength(text.includes('[') ? 1 : rows.length)
          for (const message of written.messages) {
            expect([message[0], message.at(-1)]).toEqual([0xf0, 0xf7])
            expect(message.slice(1, -1).every((byte) => byte < 0x80)).toBe(true)
          }
          const read = readRecipe(own, written.messages)
          expect(read).toEqual({
            ok: true,
            where: text.includes('{device}') ? { slot, device } : { slot },
            rows,
          })
        },
      ),
    )
  })

  it('is refused with the byte where any byte of what it wrote is changed, as far as it keeps a checksum', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...texts),
        fc.array(row, { minLength: 1, maxLength: 6 }),
        fc.nat(),
        (text, rows, at) => {
          const own = recipe(text)
          const written = writeRecipe(own, rows, { slot: 3, device: 1 })
          if (!written.ok) throw new Error(written.why)
          const [first = []] = written.messages
          // From the first byte that the checksum is of.
          const index = 3 + (at % (first.length - 4))
          const changed = first.map((byte, place) => (place === index ? (byte + 1) & 0x7f : byte))
          const read = readRecipe(own, [changed, ...written.messages.slice(1)])
          expect(read.ok).toBe(false)
          if (!read.ok) expect(read.byte).toBeLessThanOrEqual(first.length)
          expect(readRecipe(own, [first.slice(0, -3)]).ok).toBe(false)
        },
      ),
    )
  })

  it('takes a whole template of the demo out to bytes and back', () => {
    const rig = nineRingsRig('as-performed')
    for (const id of ['syzra', 'pelluna', 'umbrek']) {
      const controller = rigIndex(rig).controllers.get(id)!
      const model = rigIndex(rig).models.get(controller.model)!
      const [template] = controller.templates
      const rows = rowsOf(model, controller, template!, rig.lightRoles)
      expect(rows.length).toBeGreaterThan(20)
      const own = recipe(texts[0]!, {
        kinds: [...KINDS, 'rpn', 'channelMode', 'mmc', 'realtime', 'sysex'].map((word, byte) => ({
          word,
          byte,
        })),
        behaviours: [...BEHAVIOURS, '-'].map((word, byte) => ({ word, byte })),
      })
      const sayable = rows.filter(({ behaviour }) => behaviour !== '')
      const written = writeRecipe(own, sayable, { slot: 2, device: 0 })
      if (!written.ok) throw new Error(written.why)
      const read = readRecipe(own, written.messages)
      if (!read.ok) throw new Error(read.why)
      expect(templateEdits(controller, template!, withRows(model, controller, template!, read.rows))).toEqual(
        [],
      )
      // What is written into the template that it came from changes nothing that a recipe can say.
      expect(
        rowsOf(model, controller, withRows(model, controller, template!, read.rows), rig.lightRoles),
      ).toEqual(rows)
    }
  })

  it('writes what was read into another template: channel, number, range and behaviour', () => {
    const rig = nineRingsRig('as-performed')
    const controller = rigIndex(rig).controllers.get('merrod')!
    const model = rigIndex(rig).models.get(controller.model)!
    const [template] = controller.templates
    const rows = rowsOf(model, controller, template!, [])
    for (const edit of templateEdits(
      controller,
      template!,
      withRows(
        model,
        controller,
        template!,
        rows.map((each) => ({ ...each, behaviour: 'relative' })),
      ),
    ))
      expect(() => perform(rig, '', [edit])).not.toThrow()
    const moved = rows.map((each) => ({
      ...each,
      channel: 9,
      ...(each.kind === 'cc' ? { low: 5, high: 90 } : {}),
    }))
    const after = rowsOf(model, controller, withRows(model, controller, template!, moved), [])
    expect(after.filter(({ kind, channel }) => kind !== 'off' && channel !== 9)).toEqual([])
    expect(after.filter(({ kind }) => kind === 'cc').every(({ low, high }) => low === 5 && high === 90)).toBe(
      true,
    )
  })
})

describe('a recipe that cannot be', () => {
  it('is refused with the word where it is wrong', () => {
    const said = (text: string): string => {
      const read = readParts(text)
      return read.ok ? 'fine' : `${read.word}: ${read.message}`
    }
    expect(said('7D {control} F7')).toBe('1: A message begins with F0.')
    expect(said('F0 7D {control}')).toBe('3: A message ends with F7.')
    expect(said('F0 7D {knob} F7')).toMatch(/^3: There is no place called “knob”\. There are: slot, device,/)
    expect(said('F0 9D {control} F7')).toMatch(/^2: 9D is more than 7F/)
    expect(said('F0 xyz F7')).toMatch(/^2: “xyz” is no byte/)
    expect(said('F0 [ {control} F7')).toMatch(/ends with \]/)
    expect(said('F0 [ [ {control} ] ] F7')).toMatch(/inside another/)
    expect(said('F0 {number:8} F7')).toMatch(/Only a name has letters/)
    expect(said('F0 {number:huge} F7')).toMatch(/“huge” is no size/)
    expect(said('F0 {crc from 2} F7')).toMatch(/no checksum “crc”/)
    expect(said('F0 F7')).toMatch(/Nothing stands/)
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (text) => {
        const read = readParts(text)
        if (!read.ok) expect(read.message.length).toBeGreaterThan(10)
      }),
    )
  })

  it('says why it could not be read back', () => {
    const problems = (text: string, more: Partial<ReadRecipe> = {}): string =>
      recipeProblems(recipe(text, more)).join(' ')
    expect(problems('F0 7D {number} F7')).toMatch(/never says which control/)
    expect(problems('F0 {number} [ {control} ] F7')).toMatch(/outside the run/)
    expect(problems('F0 [ {control} ] [ {number} ] F7')).toMatch(/two runs/)
    expect(problems('F0 {control} {number} {number} F7')).toMatch(/stands 2 times/)
    expect(problems('F0 {control} {kind} F7', { kinds: [] })).toMatch(/table of kinds is empty/)
    expect(problems('F0 {control} {kind} F7', { kinds: [{ word: 'smell', byte: 1 }] })).toMatch(
      /no kind of message “smell”/,
    )
    expect(problems('F0 {control} {sum from 9} F7')).toMatch(/checksum is of bytes from 9 on/)
    const told = recipeIn({
      message: 'F0 {control} {kind} F7',
      request: '',
      kinds: 'cc 1, note 1',
      behaviours: 'x y z',
    })
    expect(told).toEqual({
      ok: false,
      problems: [
        'Kinds: “note 1” and “cc 1” cannot be told apart.',
        expect.stringMatching(/^Behaviours: “x y z” is no entry/),
      ],
    })
    expect(recipeIn({ message: 'F0 {number} F7', request: '', kinds: '', behaviours: '' })).toMatchObject({
      ok: false,
    })
    expect(
      recipeIn({ message: texts[0]!, request: '', kinds: 'cc 1, note 2', behaviours: 'toggle 3' }),
    ).toMatchObject({
      ok: true,
    })
  })

  it('says which control has a value that does not fit, or a word that the table lacks', () => {
    const one: RecipeRow = {
      layer: 0,
      control: 1,
      kind: 'nrpn',
      channel: 1,
      number: 1024,
      low: 0,
      high: 127,
      behaviour: 'absolute',
      colour: 0,
      name: 'Cutoff',
    }
    expect(writeRecipe(recipe('F0 {control} {number} F7'), [one], { slot: 1, device: 0 })).toEqual({
      ok: false,
      why: '{number} would be 1024 for Cutoff, and has room for 0 to 127.',
    })
    expect(
      writeRecipe(recipe('F0 {control} {kind} F7', { kinds: [{ word: 'cc', byte: 0 }] }), [one], {
        slot: 1,
        device: 0,
      }),
    ).toEqual({
      ok: false,
      why: 'The table has no kind “nrpn”, which Cutoff has: add it with the number that the manual gives.',
    })
  })
})

describe('a .syx file', () => {
  it('is split into its messages, and refused with the byte where it is damaged', () => {
    const message = fc
      .array(fc.integer({ min: 0, max: 127 }), { maxLength: 40 })
      .map((inside) => [0xf0, ...inside, 0xf7])
    fc.assert(
      fc.property(fc.array(message, { minLength: 1, maxLength: 10 }), (messages) => {
        const data = new Uint8Array(messages.flat())
        expect(syxMessages(data)).toEqual({ ok: true, messages })
        const last = messages.at(-1)?.length ?? 0
        expect(syxMessages(data.subarray(0, data.length - 1))).toMatchObject({
          ok: false,
          byte: data.length - last + 1,
        })
      }),
    )
    expect(syxMessages(new Uint8Array())).toMatchObject({ ok: false })
    expect(syxMessages(new Uint8Array([0xf0, 1, 0xf7, 0x90, 1, 2]))).toEqual({
      ok: false,
      byte: 4,
      message: 'Something other than SysEx stands here: this is no file of templates alone.',
    })
    expect(syxMessages(new Uint8Array([0xf0, 1, 0x91, 1, 2]))).toMatchObject({ ok: false, byte: 1 })
    expect(syxMessages(new Uint8Array([1, 0xf0, 1, 0xf7]))).toMatchObject({ ok: false, byte: 1 })
    expect(syxMessages(new Uint8Array([0xf0, ...new Array<number>(1_000_000).fill(1), 0xf7]))).toMatchObject({
      ok: false,
      byte: 1,
    })
    expect(syxMessages(new Uint8Array(5_000_000))).toMatchObject({ ok: false })
  })
})

describe('the message that asks for a template', () => {
  it('names the slot and the hardware, with a checksum, and nothing of a control', () => {
    expect(requestProblems('F0 7D {device} 41 {slot-1} {sum from 2} F7')).toEqual([])
    expect(writeRequest('F0 7D {device} 41 {slot-1} {sum from 2} F7', { slot: 3, device: 5 })).toEqual({
      ok: true,
      messages: [[0xf0, 0x7d, 5, 0x41, 2, 5 + 0x41 + 2, 0xf7]],
    })
    expect(requestProblems('')).toEqual([])
  })

  it('is refused with what is wrong, also as part of its recipe', () => {
    expect(requestProblems('F0 7D {number} F7').join()).toMatch(/\{number\} is of a control/)
    expect(requestProblems('F0 7D [ {slot} ] F7').join()).toMatch(/no run for each control/)
    expect(requestProblems('F0 7D {knob} F7').join()).toMatch(/Asking, word 3/)
    const own = { message: texts[0]!, kinds: 'cc 1, note 2', behaviours: 'toggle 3' }
    expect(recipeIn({ ...own, request: 'F0 {high} F7' })).toMatchObject({ ok: false })
    expect(recipeIn({ ...own, request: 'F0 {slot} F7' })).toMatchObject({ ok: true })
    expect(writeRequest('F0 7D {slot} F7', { slot: 200, device: 0 })).toMatchObject({ ok: false })
  })
})
