import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { Surface as SurfaceSchema, CONTROL_KINDS } from '../schema'
import type { Control, ControlKind, Surface } from '../types'
import {
  align,
  columnsWith,
  copies,
  distribute,
  fittedScale,
  grownSurface,
  layOut,
  moved,
  namesByPattern,
  placeFor,
  readingOrder,
  rowsOf,
  rowsWith,
  snapMove,
  STARTERS,
  usualPlan,
} from '.'

const syzra = nineRingsRig('as-found').models[0] as { surface: Surface }
const at = (id: string, x: number, y: number, w = 10, h = 10): Control => ({
  id,
  kind: 'knob',
  label: id,
  block: null,
  gestures: ['turn'],
  silent: false,
  restsInCentre: false,
  detentsPerTurn: null,
  lightNumber: null,
  place: { x, y, w, h },
})
const someControls = fc
  .uniqueArray(
    fc.record({
      x: fc.integer({ min: 0, max: 200 }),
      y: fc.integer({ min: 0, max: 200 }),
      w: fc.integer({ min: 1, max: 40 }),
    }),
    { minLength: 2, maxLength: 8 },
  )
  .map((list) => list.map(({ x, y, w }, index) => at(`k${index}`, x, y, w)))
const overlap = (a: Control, b: Control): boolean =>
  a.place.x < b.place.x + b.place.w &&
  b.place.x < a.place.x + a.place.w &&
  a.place.y < b.place.y + b.place.h &&
  b.place.y < a.place.y + a.place.h

describe('laying out', () => {
  it('a block of any kind: no control on another, ids free, the surface large enough', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<ControlKind[]>(...CONTROL_KINDS),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 6 }),
        fc.constantFrom('right' as const, 'below' as const),
        (kind, rows, columns, side) => {
          const plan = { ...usualPlan(kind), rows, columns }
          const { controls, block } = layOut(syzra.surface, plan, placeFor(syzra.surface, [], side))
          expect(controls).toHaveLength(rows * columns)
          expect(block === null).toBe(rows * columns === 1)
          const all = [...syzra.surface.controls, ...controls]
          expect(new Set(all.map(({ id }) => id)).size).toBe(all.length)
          for (const control of controls)
            expect(all.some((other) => other !== control && overlap(other, control))).toBe(false)
          const size = grownSurface(syzra.surface, all)
          const surface = {
            ...syzra.surface,
            ...size,
            controls: all,
            blocks: block ? [...syzra.surface.blocks, block] : syzra.surface.blocks,
          }
          expect(SurfaceSchema.parse(surface)).toEqual(surface)
        },
      ),
    )
  })

  it('starters make valid surfaces at every size that they offer', () => {
    for (const starter of STARTERS) {
      for (const pick of ['low', 'usual', 'high'] as const) {
        const surface = starter.make(
          Object.fromEntries(starter.fields.map((field) => [field.id, field[pick]])),
        )
        expect(SurfaceSchema.parse(surface), `${starter.name} ${pick}`).toEqual(surface)
        for (const [index, control] of surface.controls.entries()) {
          expect(control.place.x + control.place.w).toBeLessThanOrEqual(surface.width)
          expect(
            surface.controls.slice(index + 1).find((other) => overlap(control, other))?.id,
            `${starter.name} ${pick} ${control.id}`,
          ).toBeUndefined()
        }
      }
    }
  })

  it('copies count their names on and keep their blocks together', () => {
    const faders = syzra.surface.controls.filter(({ block }) => block === 'faders')
    const { controls, blocks } = copies(syzra.surface, faders, 2, 'below')
    expect(controls).toHaveLength(16)
    expect(blocks).toHaveLength(2)
    expect(new Set(controls.map(({ block }) => block)).size).toBe(2)
    const numbered = copies(
      syzra.surface,
      [at('x', 0, 0)].map((control) => ({ ...control, label: 'Fader 8' })),
      2,
      'right',
    )
    expect(numbered.controls.map(({ label }) => label)).toEqual(['Fader 9', 'Fader 10'])
  })
})

describe('arranging', () => {
  it('aligning puts one edge of all on one line, inside the space they had', () => {
    fc.assert(
      fc.property(someControls, (controls) => {
        const lefts = [...align(controls, 'left').values()].map(({ x }) => x)
        expect(new Set(lefts).size).toBe(1)
        const rights = [...align(controls, 'right').values()].map(({ x, w }) => x + w)
        expect(Math.max(...rights) - Math.min(...rights)).toBeLessThan(0.02)
      }),
    )
  })

  it('distributing makes equal gaps and leaves the ends, and a given gap is that gap', () => {
    const controls = [at('a', 0, 0), at('b', 13, 0), at('c', 50, 0)]
    expect([...distribute(controls, 'across').values()].map(({ x }) => x)).toEqual([0, 25, 50])
    expect([...distribute(controls, 'across', 2).values()].map(({ x }) => x)).toEqual([0, 12, 24])
  })

  it('moving keeps distances and stays on the surface', () => {
    fc.assert(
      fc.property(
        someControls,
        fc.integer({ min: -300, max: 300 }),
        fc.integer({ min: -300, max: 300 }),
        (controls, dx, dy) => {
          const placed = moved(controls, dx, dy)
          const shifts = controls.map(({ id, place }) =>
            [(placed.get(id)?.x ?? 0) - place.x, (placed.get(id)?.y ?? 0) - place.y].join(),
          )
          expect(new Set(shifts).size).toBe(1)
          for (const { x, y } of placed.values()) expect(Math.min(x, y)).toBeGreaterThanOrEqual(0)
        },
      ),
    )
  })

  it('snaps to a neighbour’s edge when near, else to the grid', () => {
    expect(snapMove([at('a', 0, 0)], [at('b', 40, 30)], 39, 12.3).dx).toBe(40)
    expect(snapMove([at('a', 0, 0)], [at('b', 90, 90)], 12.3, 0).dx).toBe(12.5)
  })

  it('reads rows from the top, each from the left, a little slack allowed', () => {
    expect(
      rowsOf([at('c', 0, 20), at('b', 20, 1), at('a', 0, 0)]).map((row) => row.map(({ id }) => id)),
    ).toEqual([['a', 'b'], ['c']])
    expect(readingOrder(syzra.surface.controls)[0]?.id).toBe('enc-1')
  })
})

describe('names by pattern', () => {
  it.each([
    ['Fader {1}', 3, ['Fader 1', 'Fader 2', 'Fader 3']],
    ['Track {5} mute', 2, ['Track 5 mute', 'Track 6 mute']],
    ['Ring {A}', 3, ['Ring A', 'Ring B', 'Ring C']],
    ['One\nTwo', 3, ['One', 'Two', null]],
    ['Kick\tSnare\r\nHat', 3, ['Kick', 'Snare', 'Hat']],
    ['Drum', 2, ['Drum', 'Drum']],
    ['  ', 1, [null]],
  ])('%j for %i', (pattern, count, expected) => {
    expect(namesByPattern(pattern, count)).toEqual(expected)
  })
  it('letters go on after z', () => {
    expect(namesByPattern('{a}', 28).slice(-3)).toEqual(['z', 'aa', 'ab'])
  })
})

describe('rows and columns', () => {
  it('a row goes across blocks, a column is a strip; each holds what it was asked for', () => {
    const { controls } = STARTERS.find(({ id }) => id === 'mixer-box')!.make({
      strips: 8,
      knobs: 2,
      buttons: 1,
    })
    const fader = controls.find(({ id }) => id === 'fader-3')!
    expect(rowsWith(controls, [fader]).map(({ kind }) => kind)).toEqual(
      Array.from({ length: 8 }, () => 'fader'),
    )
    expect(columnsWith(controls, [fader]).map(({ kind }) => kind)).toEqual([
      'knob',
      'knob',
      'fader',
      'button',
    ])
    for (const control of controls) {
      expect(rowsWith(controls, [control])).toContain(control)
      expect(columnsWith(controls, [control])).toContain(control)
    }
  })
})

describe('a surface in a frame', () => {
  const size = fc.record({
    width: fc.integer({ min: 20, max: 2000 }),
    height: fc.integer({ min: 20, max: 2000 }),
  })

  it('is as large as goes, with what is kept free, within the least and the most', () => {
    fc.assert(
      fc.property(size, size, fc.integer({ min: 0, max: 9 }), (extent, frame, padding) => {
        const scale = fittedScale(extent, frame, { padding, most: 3 })
        const free = (side: 'width' | 'height'): number => frame[side] - 2 * padding - extent[side] * scale
        const least = Math.min(free('width'), free('height'))
        expect(scale).toBeGreaterThanOrEqual(0.3)
        expect(scale).toBeLessThanOrEqual(3)
        if (scale > 0.3) expect(least).toBeGreaterThan(-1e-6)
        if (scale < 3 && scale > 0.3) expect(least).toBeCloseTo(0, 6)
      }),
    )
  })
})
