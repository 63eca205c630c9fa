import { readdir, readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { brotliCompress, gzip } from 'node:zlib'

/** The server packs what is larger itself. */
const LARGEST = 1024
const PACKERS: ReadonlyArray<readonly [string, (bytes: Uint8Array) => Promise<Uint8Array>]> = [
  ['.br', promisify(brotliCompress)],
  ['.gz', promisify(gzip)],
]

/**
 * Pack the small scripts of a folder, each beside itself, where that makes them smaller: a page fetches many of them.
 */
export async function packSmallScripts(folder: string): Promise<void> {
  const names = await readdir(folder)
  for (const name of names.filter((each) => each.endsWith('.js'))) {
    const path = join(folder, name)
    const bytes = await readFile(path)
    if (bytes.length >= LARGEST) continue
    for (const [ending, pack] of PACKERS) {
      const packed = await pack(bytes)
      if (packed.length < bytes.length) await writeFile(`${path}${ending}`, packed)
    }
  }
}
