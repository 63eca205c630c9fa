import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { parseValueList, printValueList } from './value-list'

it('a list of values is read as it is written', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 128 }), (values) => {
      expect(parseValueList(printValueList(values))).toEqual({ ok: true, values })
    }),
  )
  expect(parseValueList('0 32;64')).toEqual({ ok: true, values: [0, 32, 64] })
})

it.each([
  ['', /at least one/],
  ['1, 128', /“128” is no value/],
  ['1, -4', /“-4”/],
  ['1.5', /“1.5”/],
  [Array(200).fill(1).join(' '), /At most 128/],
])('refuses %j, and says why', (text, why) => {
  const result = parseValueList(text)
  expect(result.ok ? '' : result.message).toMatch(why)
})
