import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { anyRig } from '../testing/rigs'
import { livenessOf, liveTogether, sendersOf } from '.'
import { cases } from '../testing/cases'

it('what a place brings, worked out once, answers as each pair does by itself', () => {
  fc.assert(
    fc.property(fc.oneof(anyRig, fc.constant(nineRingsRig('as-found'))), (rig) => {
      const { together } = livenessOf(rig)
      const all = sendersOf(rig).filter((_, index) => index % 5 === 0)
      for (const a of all)
        for (const b of all) expect(together(a, b)).toBe(liveTogether(rig, a.place, b.place))
    }),
    cases(4),
  )
})
