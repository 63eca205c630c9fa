import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import type { Control } from '../../../core/rig'
import { blockEnd, nearestTo } from './walk'

const rig = nineRingsRig('as-found')
const surfaceOf = (id: string) => {
  const found = rig.models.find((model) => model.id === id)
  if (!found) throw new Error(`no ${id}`)
  return found.surface
}
const syzra = surfaceOf('syzra-24')
const byId = (id: string): Control => {
  const found = syzra.controls.find((control) => control.id === id)
  if (!found) throw new Error(`no ${id}`)
  return found
}

describe('walking the surface', () => {
  it('goes to the nearest that way, and stops at the edge', () => {
    expect(nearestTo(syzra.controls, byId('enc-1'), 'right')?.id).toBe('enc-2')
    expect(nearestTo(syzra.controls, byId('enc-1'), 'down')?.id).toBe('knob-1')
    expect(nearestTo(syzra.controls, byId('fader-3'), 'up')?.id).toBe('knob-3')
    expect(nearestTo(syzra.controls, byId('enc-1'), 'left')).toBeNull()
    expect(nearestTo(syzra.controls, byId('enc-8'), 'right')?.id).toBe('master')
  })
  it('can reach every control from every other by arrows', () => {
    for (const { surface } of rig.models) {
      const seen = new Set([surface.controls[0] as Control])
      for (const control of seen) {
        for (const direction of ['left', 'right', 'up', 'down'] as const) {
          const next = nearestTo(surface.controls, control, direction)
          if (next) seen.add(next)
        }
      }
      expect(seen.size).toBe(surface.controls.length)
    }
  })
  it('Home and End stay in the block', () => {
    expect(blockEnd(syzra.controls, byId('knob-4'), 'first').id).toBe('knob-1')
    expect(blockEnd(syzra.controls, byId('knob-4'), 'last').id).toBe('knob-8')
    expect(blockEnd(syzra.controls, byId('master'), 'last').id).toBe('master')
  })
})
