import { describe, expect, it } from 'vitest'
import { guessesOf, listen, LISTEN_START, type Guess } from '../../../core/listen'
import { guessTag, guessWords, valueLine } from './find-out'

const heard = (messages: readonly number[][], every: number): Guess => {
  const state = messages.reduce(
    (now, bytes, index) => listen(now, { kind: 'message', at: index * every, bytes }),
    LISTEN_START,
  )
  const [guess] = guessesOf(state)
  if (!guess) throw new Error('nothing was heard')
  return guess
}

describe('what was heard, told', () => {
  it('draws what is moved as a line, and what is pressed as steps, from edge to edge', () => {
    const moved = heard(
      Array.from({ length: 128 }, (_, value) => [0xb0, 20, value]),
      10,
    )
    expect(valueLine(moved, 100, 50)).toMatch(/^M0\.0 50\.0L[\s\S]*L100\.0 0\.0$/)
    const pressed = heard(
      Array.from({ length: 4 }, () => [0xb0, 20, 100]),
      300,
    )
    expect(valueLine(pressed, 100, 127)).toBe('M0 27.0H25.0V27.0H50.0V27.0H75.0V27.0H100.0')
  })

  it('says what it is, what else it could be, and what would tell', () => {
    const open = heard(
      Array.from({ length: 6 }, (_, index) => [0xb2, 20, index % 2 === 0 ? 127 : 0]),
      300,
    )
    expect(guessTag(open)).toBe('3:cc20')
    const { best, others, next } = guessWords(open)
    expect([best, ...others].join()).toMatch(/held: 127[\s\S]*on and off|on and off[\s\S]*held/)
    expect(next).toMatch(/^Press it briefly/)
  })
})
