import { expect, it } from 'vitest'
import { bigSurfaceRig } from '../core/testing/big-surface'
import { measureDesk } from './desk-work'

const FRAME_MS = 1000 / 60

it('300 controls × 16 layers on the Desk', async () => {
  const measured = await measureDesk(bigSurfaceRig(300, 16), 300)
  expect(measured).not.toEqual([])
  console.log(
    [
      '300 controls × 16 layers, work of one frame (figure to hold: a frame or two):',
      ...measured.map(
        ({ name, median, p95 }) =>
          `  ${name.padEnd(44)} median ${median.toFixed(1).padStart(6)} ms, 95th percentile ${p95
            .toFixed(1)
            .padStart(6)} ms = ${(p95 / FRAME_MS).toFixed(1)} frames`,
      ),
    ].join('\n'),
  )
})
