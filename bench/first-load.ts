import { gzipSync } from 'node:zlib'
import { startPage } from '../e2e/support/page'

interface Loaded {
  url: string
  sent: number
}

export interface FirstLoad {
  /** Bytes as sent over the wire to this browser. */
  sent: number
  /** Bytes of the same files compressed with gzip, for browsers that take nothing better. */
  gzip: number
  files: Array<{ name: string; sent: number; gzip: number }>
}

/**
 * All JavaScript that the browser fetches on a first visit (empty profile) until the Desk shows its
 * findings: page, chunks, demo rig and worker, each file once.
 */
export async function firstLoad(): Promise<FirstLoad> {
  const page = await startPage()
  try {
    await page.go('/')
    await page.find('[data-testid=findings-count]')
    await page.find('[data-testid=lattice]')
    const loaded = await page.run<Loaded[]>(`
      return performance.getEntriesByType('resource')
        .filter(({ name }) => /\\.js($|\\?)/.test(name))
        .map(({ name, encodedBodySize }) => ({ url: name, sent: encodedBodySize }))`)
    const byUrl = new Map(loaded.map((file) => [file.url, file]))
    const files = await Promise.all(
      [...byUrl.values()].map(async ({ url, sent }) => {
        const plain = await (await fetch(url, { headers: { 'accept-encoding': 'identity' } })).arrayBuffer()
        return {
          name: url.split('/').pop() ?? url,
          sent,
          gzip: gzipSync(new Uint8Array(plain), { level: 9 }).length,
        }
      }),
    )
    const sum = (pick: (file: (typeof files)[number]) => number): number =>
      files.reduce((total, file) => total + pick(file), 0)
    return { files, sent: sum(({ sent }) => sent), gzip: sum(({ gzip }) => gzip) }
  } finally {
    await page.end()
  }
}
