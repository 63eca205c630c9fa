import type { Table } from './notation'

/** A table that was read from text, or what is wrong with it. */
export type TableRead = { ok: true; table: Table } | { ok: false; message: string }

/** Read a table as a player writes it: `cc 1, note 2`, the number in decimal digits. */
export function readTable(text: string): TableRead {
  const table: Array<Table[number]> = []
  for (const entry of text.split(',')) {
    if (entry.trim() === '') continue
    const found = /^\s*(\S+)\s+(\d{1,3})\s*$/.exec(entry)
    const byte = Number(found?.[2])
    if (!found?.[1] || byte > 127)
      return {
        ok: false,
        message: `“${entry.trim()}” is no entry: write a word and a number of 0 to 127, for example cc 1.`,
      }
    const twice = table.find((each) => each.word === found[1] || each.byte === byte)
    if (twice)
      return {
        ok: false,
        message: `“${found[1]} ${byte}” and “${twice.word} ${twice.byte}” cannot be told apart.`,
      }
    table.push({ word: found[1], byte })
  }
  return { ok: true, table }
}
