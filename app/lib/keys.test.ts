import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { keyAreas, keyAt } from './keys'

describe('a drawn keyboard', () => {
  it('finds each key in its own middle, black ones above', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 90 }), fc.integer({ min: 1, max: 37 }), (low, count) => {
        const areas = keyAreas(low, low + count - 1)
        expect(areas).toHaveLength(count)
        for (const { note, x, w, h } of areas) {
          const inMiddle = x + w / 2
          if (inMiddle > 0 && inMiddle < 1) expect(keyAt(areas, inMiddle, h < 1 ? h / 2 : 0.9)).toBe(note)
        }
      }),
    )
  })
})
