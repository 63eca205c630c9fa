import type { NamedTrack, TimedMessage } from '../../midi/smf'
import { readTable } from '../../rig'
import { CAPTURE_LIMITS } from './limits'
import type { CaptureRead } from './read'

/** The columns of a capture as CSV that are read back, by their headings. */
const [TIME, BYTES, SENDER] = ['ms', 'bytes', 'controller']

const LIMITS = { characters: CAPTURE_LIMITS.bytes, lines: 500_000, rows: CAPTURE_LIMITS.messages }

/** Bytes in writing: two hex digits each, with spaces between; null where they are none. */
function bytesIn(text: string): number[] | null {
  const parts = text.split(/\s+/)
  return parts.every((part) => /^[0-9a-f]{2}$/i.test(part)) ? parts.map((part) => parseInt(part, 16)) : null
}

/** A capture as CSV, as the Bench keeps it: a line for each message, with its ms and bytes. Refused whole with the line. */
export function readCaptureCsv(text: string): CaptureRead {
  const table = readTable(text, LIMITS)
  if (!table.ok) return { ok: false, message: table.message }
  const [head, ...rows] = table.rows
  const headings = head?.cells.map((cell) => cell.toLowerCase()) ?? []
  const [time, bytes, sender] = [TIME, BYTES, SENDER].map((name) => headings.indexOf(name ?? ''))
  if (time === undefined || bytes === undefined || time < 0 || bytes < 0)
    return {
      ok: false,
      message: 'This table is no capture: it needs the columns ms and Bytes, named in its first line.',
    }
  const tracks = new Map<string, TimedMessage[]>()
  for (const { line, cells } of rows) {
    const at = Number(cells[time] === '' ? NaN : cells[time])
    if (!Number.isFinite(at) || at < 0)
      return { ok: false, message: `Line ${line}: “${cells[time] ?? ''}” is no time in ms.` }
    const found = bytesIn(cells[bytes] ?? '')
    if (!found)
      return {
        ok: false,
        message: `Line ${line}: “${(cells[bytes] ?? '').slice(0, 40)}” is not bytes in hex, as b0 4a 40.`,
      }
    const name = sender === undefined || sender < 0 ? '' : (cells[sender] ?? '')
    const track = tracks.get(name) ?? []
    tracks.set(name, track)
    track.push({ at, bytes: found })
  }
  if (tracks.size === 0)
    return { ok: false, message: 'This capture holds no message: there is nothing to play.' }
  return {
    ok: true,
    isTimed: true,
    tracks: [...tracks].map(([name, messages]): NamedTrack => ({
      name,
      messages: messages.toSorted((a, b) => a.at - b.at),
    })),
  }
}
