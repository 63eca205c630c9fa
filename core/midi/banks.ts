import { isWhole, SEVEN_MAX } from './ranges'

/** A bank as bank select names it: its MSB and LSB, each 0–127 (MIDI 1.0 Detailed Specification, "Bank Select"). */
export interface Bank {
  msb: number
  lsb: number
}

/** A bank in writing, `1.0`; empty for none. */
export const printBank = (bank: Bank | null): string => (bank === null ? '' : `${bank.msb}.${bank.lsb}`)

/** A bank as written (`1.0`), null for none where nothing is written, or a sentence that says what is wrong. */
export function parseBank(text: string): Bank | null | string {
  if (text.trim() === '') return null
  const match = /^(\d{1,3})\.(\d{1,3})$/.exec(text.trim())
  const [msb, lsb] = [Number(match?.[1]), Number(match?.[2])]
  return match && isWhole(msb, 0, SEVEN_MAX) && isWhole(lsb, 0, SEVEN_MAX)
    ? { msb, lsb }
    : `“${text.trim()}” is no bank: write its two numbers with a point, such as 0.1.`
}

/** One string for a program of a bank, to compare by. */
export const programKey = ({ number, bank }: { number: number; bank: Bank | null }): string =>
  `${printBank(bank)}/${number}`
