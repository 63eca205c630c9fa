import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import {
  freshMessage,
  parseSysex,
  printSysex,
  type Control,
  type ControlKind,
  type GestureKind,
  type Message,
} from '../../core/rig'
import { CONTROL_KINDS, GESTURE_KINDS, Message as MessageSchema, MESSAGE_KINDS } from '../../core/rig/schema'
import { detailsOf, momentField } from './details'
import { manyFields } from './many'
import { sentenceOf, type FieldWord, type SentenceContext } from './sentence'

const rig = nineRingsRig('as-found')
const abilities = { ...(rig.models[0]?.abilities ?? ({} as never)), kinds: {}, fourteenBit: true }
const controlOf = (kind: ControlKind): Control => ({
  ...(rig.models[0]?.surface.controls[0] as Control),
  kind,
})
const context = (
  message: Message,
  kind: ControlKind = 'encoder',
  gesture: GestureKind = 'turn',
): SentenceContext => ({
  message,
  control: controlOf(kind),
  gesture,
  homeChannel: 5,
  abilities,
  rig,
})
const read = (message: Message): string =>
  sentenceOf(context(message))
    .map((word) => word.text)
    .join(' ')
    .replace(/ ([.,])/g, '$1')

const fieldsOf = (given: SentenceContext): FieldWord[] => [
  ...sentenceOf(given).filter((word): word is FieldWord => word.type !== 'plain'),
  ...[momentField(given.message)].filter((word) => word !== null),
  ...detailsOf(given.message),
]

describe('the sentence', () => {
  it('reads as one', () => {
    expect(read({ ...freshMessage('cc', 'encoder', 'turn'), number: 74 } as Message)).toBe(
      'Turn sends CC 74 (brightness) on home (5), from 0 to 127, absolute.',
    )
    expect(read({ ...freshMessage('program', 'encoder', 'turn'), number: 0 } as Message)).toBe(
      'Turn sends program 1 on home (5).',
    )
    expect(read(freshMessage('off', 'encoder', 'turn'))).toBe('Turn sends nothing.')
  })

  it('every field of every kind leads to a valid message, whatever is chosen or typed in its range', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...MESSAGE_KINDS),
        fc.constantFrom(...CONTROL_KINDS),
        fc.constantFrom(...GESTURE_KINDS),
        fc.array(fc.nat(), { minLength: 1, maxLength: 8 }),
        (kind, control, gesture, picks) => {
          let message = freshMessage(kind, control, gesture)
          for (const pick of picks) {
            const fields = fieldsOf(context(message, control, gesture))
            const field = fields[pick % fields.length]
            if (field?.type === 'choice')
              message = field.set(field.options[pick % field.options.length]?.value ?? field.value)
            else if (field) {
              try {
                message = field.set(field.low + (pick % (field.high - field.low + 1)))
              } catch (error) {
                expect(error).toBeInstanceOf(RangeError)
              }
            }
            expect(MessageSchema.parse(message), field?.id).toEqual(message)
          }
        },
      ),
    )
  })
})

describe('many at once', () => {
  const cc = (number: number, channel: number): Message =>
    ({ ...freshMessage('cc', 'knob', 'turn'), number, channel }) as Message
  const over = (...messages: Message[]) => manyFields(messages.map((message) => context(message)))
  const field = (id: string, ...messages: Message[]) => over(...messages).find((each) => each.id === id)

  it('says what is common and what is mixed', () => {
    expect(field('channel', cc(1, 2), cc(3, 2))?.text).toBe('channel 2')
    expect(field('channel', cc(1, 2), cc(3, 4))?.text).toBe('mixed')
    expect(field('number', cc(1, 2), freshMessage('pitchBend', 'knob', 'turn'))?.text).toBe('mixed')
  })

  it('sets all that have the field, and leaves the others', () => {
    const bend = freshMessage('pitchBend', 'knob', 'turn')
    const channel = field('channel', cc(1, 2), bend)
    expect(
      channel?.type === 'choice' &&
        channel.set('9').map((message) => 'channel' in message && message.channel),
    ).toEqual([9, 9])
    const low = field('low', cc(1, 2), freshMessage('off', 'knob', 'turn'))
    expect(
      low?.type === 'number' && low.set(12).map((message) => ('range' in message ? message.range.low : null)),
    ).toEqual([12, null])
  })
})

describe('SysEx in writing', () => {
  it('reads back as written', () => {
    const byte = fc.oneof(
      fc.integer({ min: 0, max: 127 }),
      fc.constantFrom('value' as const, 'value-high' as const, 'value-low' as const, 'device' as const),
    )
    fc.assert(
      fc.property(
        fc.array(byte),
        (bytes) => void expect(parseSysex(`F0 ${printSysex(bytes)} F7`)).toEqual({ ok: true, bytes }),
      ),
    )
  })
  it('names the word that is no byte', () => {
    expect(parseSysex('7D 80')).toEqual({ ok: false, message: expect.stringContaining('“80” is no byte') })
  })
})
