import { isWhole } from '../midi'

const MOST = 128

export type ValueList = { ok: true; values: number[] } | { ok: false; message: string }

/** Values (0–127) that a button steps through, as written: separated by commas or spaces. */
export function parseValueList(text: string): ValueList {
  const parts = text.split(/[\s,;]+/).filter(Boolean)
  if (parts.length === 0) return { ok: false, message: 'Write at least one value from 0 to 127.' }
  if (parts.length > MOST) return { ok: false, message: `At most ${MOST} values; these are ${parts.length}.` }
  const bad = parts.find((part) => !/^\d+$/.test(part) || !isWhole(Number(part), 0, 127))
  if (bad !== undefined)
    return {
      ok: false,
      message: `“${bad}” is no value: use whole numbers from 0 to 127, separated by commas.`,
    }
  return { ok: true, values: parts.map(Number) }
}

/** Values as `parseValueList` reads them. */
export const printValueList = (values: readonly number[]): string => values.join(', ')
