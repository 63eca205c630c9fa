import { it } from 'vitest'
import { firstLoad } from './first-load'

const LIMIT_KB = 250
const kb = (bytes: number): string => (bytes / 1000).toFixed(1)

it('first load of the Desk', async () => {
  const { sent, gzip, files } = await firstLoad()
  console.log(
    [
      `First load of the Desk: ${kb(sent)} kB of JavaScript as sent, ${kb(gzip)} kB with gzip (figure to hold: ${LIMIT_KB} kB)`,
      ...files
        .toSorted((a, b) => b.gzip - a.gzip)
        .map((file) => `${kb(file.sent).padStart(8)} ${kb(file.gzip).padStart(8)}  ${file.name}`),
    ].join('\n'),
  )
})
