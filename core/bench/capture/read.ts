import type { NamedTrack } from '../../midi/smf'
import { readSmf } from '../../midi/smf-read'
import { readCaptureCsv } from './csv'
import { readRaw } from './raw'

/** Messages that were kept, by sender, or why they cannot be read. */
export type CaptureRead =
  | {
      ok: true
      tracks: readonly NamedTrack[]
      /** False where the file has no times. */
      isTimed: boolean
    }
  | { ok: false; message: string }

const SMF_BEGIN = 'MThd'
/** What a text in UTF-8 may begin with. */
const TEXT_BEGIN = 0xef
const FIRST_STATUS = 0x80

/**
 * What was kept, from the bytes of a file: a Standard MIDI File, CSV with the columns ms and Bytes, or the bytes of a stream as
 * they were sent. Times in ms.
 */
export function readCapture(data: Uint8Array): CaptureRead {
  const begin = String.fromCharCode(...data.subarray(0, SMF_BEGIN.length))
  if (begin === SMF_BEGIN) {
    const read = readSmf(data)
    return read.ok ? { ...read, isTimed: true } : read
  }
  const isMark = data[0] === TEXT_BEGIN && data[1] === 0xbb && data[2] === 0xbf
  if ((data[0] ?? 0) >= FIRST_STATUS && !isMark) return readRaw(data)
  if (data.subarray(0, 1000).includes(0))
    return {
      ok: false,
      message:
        'This is no capture: open a Standard MIDI File, CSV with the columns ms and Bytes, or the bytes of a stream.',
    }
  return readCaptureCsv(new TextDecoder().decode(data))
}
