import type { NamedTrack } from '../../midi/smf'
import { readSmf } from '../../midi/smf-read'
import { readCaptureCsv } from './csv'

/** Messages that were kept, by sender, or why they cannot be read. */
export type CaptureRead = { ok: true; tracks: readonly NamedTrack[] } | { ok: false; message: string }

const SMF_BEGIN = 'MThd'

/** What was kept, from the bytes of a file: a Standard MIDI File, or CSV with the columns ms and Bytes. Times in ms. */
export function readCapture(data: Uint8Array): CaptureRead {
  const begin = String.fromCharCode(...data.subarray(0, SMF_BEGIN.length))
  if (begin === SMF_BEGIN) return readSmf(data)
  if (data.subarray(0, 1000).includes(0))
    return {
      ok: false,
      message: 'This is no capture: open a Standard MIDI File, or CSV with the columns ms and Bytes.',
    }
  return readCaptureCsv(new TextDecoder().decode(data))
}
