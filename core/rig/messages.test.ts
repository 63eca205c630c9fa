import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseTag, printTag } from '../midi'
import { anyMessage, fullMessage } from '../testing/rigs'
import {
  addressOf,
  freshMessage,
  MESSAGE_KIND_NAME,
  numberOf,
  withAddress,
  withKind,
  withNumber,
  type ControlKind,
  type GestureKind,
  type MessageKind,
} from '.'
import { CONTROL_KINDS, GESTURE_KINDS, Message as MessageSchema, MESSAGE_KINDS } from './schema'

const control = fc.constantFrom<ControlKind[]>(...CONTROL_KINDS)
const gesture = fc.constantFrom<GestureKind[]>(...GESTURE_KINDS)
const kind = fc.constantFrom<MessageKind[]>(...MESSAGE_KINDS)

const tag = fc.constantFrom(
  '5:cc74',
  'cc1',
  'home:cc127',
  '1:cc16+48',
  '10:note36',
  '2:note36-84',
  '1:poly36',
  '3:nrpn1024',
  '3:rpn0',
  '2:pc12',
  '2:pc1.0.12',
  '1:bend',
  '1:pressure',
  '1:mode123',
  'mmc:play',
  'rt:start',
  'sysex',
)

describe('messages', () => {
  it('fresh ones are complete and valid, for every kind, control and gesture', () => {
    fc.assert(
      fc.property(kind, control, gesture, (to, on, by) => {
        const message = freshMessage(to, on, by)
        expect(MessageSchema.parse(message)).toEqual(message)
      }),
    )
  })

  it('stay valid through any change of kind, and keep their channel and moment', () => {
    fc.assert(
      fc.property(anyMessage, kind, kind, control, gesture, (input, first, second, on, by) => {
        const start = fullMessage(input)
        const once = withKind(start, first, on, by)
        const twice = withKind(once, second, on, by)
        expect(MessageSchema.parse(once)).toEqual(once)
        expect(MessageSchema.parse(twice)).toEqual(twice)
        if ('channel' in start && 'channel' in once) expect(once.channel).toBe(start.channel)
      }),
    )
  })

  it('land where a typed address says, and keep the channel when none is typed', () => {
    fc.assert(
      fc.property(anyMessage, tag, control, gesture, (input, text, on, by) => {
        const parsed = parseTag(text)
        if (!parsed.ok) throw new Error(text)
        const message = withAddress(fullMessage(input), parsed.address, on, by)
        expect(MessageSchema.parse(message)).toEqual(message)
        const sent = addressOf(message)
        const written = sent ? printTag(sent) : ''
        if (parsed.address.scope === 'channel' && parsed.address.channel === null)
          expect(written.endsWith(text)).toBe(true)
        else expect(written).toBe(text)
      }),
    )
  })

  it('scale their range between 7 and 14 bits, ends on ends', () => {
    const seven = fullMessage({ kind: 'cc', number: 20, range: { low: 127, high: 0 } })
    expect(withKind(seven, 'cc14', 'fader', 'slide')).toMatchObject({
      number: 20,
      range: { low: 16383, high: 0 },
    })
  })

  it('drop a number that the new kind cannot carry', () => {
    const high = fullMessage({ kind: 'cc', number: 100 })
    expect(numberOf(withKind(high, 'cc14', 'fader', 'slide'))).toBeNull()
    expect(() => withNumber(high, 128)).toThrow(RangeError)
    expect(Object.keys(MESSAGE_KIND_NAME)).toEqual([...MESSAGE_KINDS])
  })
})
