import type { ParseResult } from '#core/rig/parse'
import type { PartResult } from '#core/rig/part'
import type { CaptureRead } from '#core/bench/capture/read'
import type { Destination } from '#core/rig'
import type { Given } from '~/lib/destinations/read-list'

/** How far the reading of a file is: of which part of the work, 0–1. */
export interface ReadProgress {
  stage: 'opening' | 'checking'
  done: number
}

export type Report = (progress: ReadProgress) => void

/** What comes in from outside, read away from the page. */
export interface Reader {
  rig: (file: Blob, report: Report) => Promise<ParseResult>
  part: (file: Blob, report: Report) => Promise<PartResult>
  list: (file: Blob, destination: Destination, report: Report) => Promise<Given>
  capture: (file: Blob, report: Report) => Promise<CaptureRead>
}

/** The browser does not give what is in a file: it is gone, or may not be read. */
export class UnreadableError extends Error {
  override name = 'UnreadableError'
}

/** A file, piece by piece. Throws an UnreadableError. */
async function readPieces(file: Blob, report: Report, take: (piece: Uint8Array) => void): Promise<void> {
  let read = 0
  try {
    for (const source = file.stream().getReader(); ;) {
      const { done, value } = await source.read()
      if (done) return
      take(value)
      read += value.length
      report({ stage: 'opening', done: read / file.size })
    }
  } catch (error) {
    throw new UnreadableError('The browser could not read the file.', { cause: error })
  }
}

/** The text of a file. Throws an UnreadableError. */
async function textOf(file: Blob, report: Report): Promise<string> {
  const decoder = new TextDecoder()
  const pieces: string[] = []
  await readPieces(file, report, (piece) => pieces.push(decoder.decode(piece, { stream: true })))
  return pieces.join('') + decoder.decode()
}

/** The bytes of a file. Throws an UnreadableError. */
async function bytesOf(file: Blob, report: Report): Promise<Uint8Array> {
  const bytes = new Uint8Array(file.size)
  let at = 0
  await readPieces(file, report, (piece) => {
    bytes.set(piece, at)
    at += piece.length
  })
  return bytes
}

/** The readers, to be run in a worker. */
export const createReader = (): Reader => ({
  rig: async (file, report) => {
    const [text, { readRig }] = await Promise.all([textOf(file, report), import('#core/rig/parse')])
    return readRig(text, (done) => report({ stage: 'checking', done }))
  },
  part: async (file, report) => {
    const [text, { readPart }] = await Promise.all([textOf(file, report), import('#core/rig/part')])
    return readPart(text)
  },
  list: async (file, destination, report) => {
    const [text, { readGiven }] = await Promise.all([
      textOf(file, report),
      import('../lib/destinations/read-list'),
    ])
    return readGiven(text, destination)
  },
  capture: async (file, report) => {
    const [bytes, { readCapture }] = await Promise.all([
      bytesOf(file, report),
      import('#core/bench/capture/read'),
    ])
    return readCapture(bytes)
  },
})
