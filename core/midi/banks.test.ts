import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { parseBank, parseNote, noteName, printBank } from '.'

it('a bank is read as it is written; what is no bank is refused with its text', () => {
  const seven = fc.nat(127)
  fc.assert(
    fc.property(fc.option(fc.record({ msb: seven, lsb: seven })), (bank) => {
      expect(parseBank(` ${printBank(bank)} `)).toEqual(bank)
    }),
  )
  for (const text of ['128.0', '0.128', '1', '1.', '.1', '1.2.3', '-1.0', '1,0'])
    expect(parseBank(text)).toMatch(`“${text}” is no bank`)
})

it('a note is read as a number or as a name', () => {
  fc.assert(
    fc.property(fc.nat(127), fc.constantFrom(3, 4, 5), (note, middleC) => {
      expect(parseNote(` ${note}`, middleC)).toBe(note)
      expect(parseNote(noteName(note, middleC), middleC)).toBe(note)
    }),
  )
  for (const text of ['128', '', 'H3', '1.5', '-1']) expect(parseNote(text, 3)).toBeNull()
})
