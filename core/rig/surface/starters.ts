import type { Surface } from '../types'
import { grownSurface, layOut, usualPlan, type BlockPlan } from './make'

/** One number that shapes a starter, such as how many strips a mixer box has. */
export interface StarterField {
  id: string
  label: string
  low: number
  high: number
  usual: number
}

/** Something generic to start from, in a size to choose. */
export interface StarterShape {
  id: string
  name: string
  about: string
  fields: readonly StarterField[]
}

/** A starter surface: generic hardware of our own drawing. */
export interface Starter extends StarterShape {
  make: (sizes: Readonly<Record<string, number>>) => Surface
}

const EMPTY: Surface = { width: 60, height: 40, blocks: [], controls: [] }

type Piece = Partial<Omit<BlockPlan, 'kind'>> & Pick<BlockPlan, 'kind'> & { x: number; y: number }

/** A surface of blocks, each at its place in mm, just large enough for them. */
function build(pieces: readonly Piece[], least: { width: number; height: number } = EMPTY): Surface {
  const surface = pieces.reduce<Surface>(
    (made, { x, y, ...piece }) => {
      if ((piece.rows ?? 1) * (piece.columns ?? 1) === 0) return made
      const plan = { ...usualPlan(piece.kind), ...piece }
      const { controls, block } = layOut(made, plan, { x, y })
      return {
        ...made,
        controls: [...made.controls, ...controls],
        blocks: block ? [...made.blocks, block] : made.blocks,
      }
    },
    { ...EMPTY, ...least },
  )
  return { ...surface, ...grownSurface(surface, surface.controls) }
}

/** A size of a starter, with its bounds. */
export const field = (id: string, label: string, usual: number, low: number, high: number): StarterField => ({
  id,
  label,
  usual,
  low,
  high,
})
const STRIP_MM = 36
const strips = (width: number) => ({
  size: { w: width, h: width },
  gap: { across: STRIP_MM - width, down: 14 },
})

const mixerBox: Starter = {
  id: 'mixer-box',
  name: 'Mixer strip box',
  about: 'Strips of knobs over a fader over a button.',
  fields: [
    field('strips', 'Strips', 8, 1, 32),
    field('knobs', 'Knobs a strip', 1, 0, 4),
    field('buttons', 'Buttons a strip', 1, 0, 3),
  ],
  make: ({ strips: count = 8, knobs = 1, buttons = 1 }) =>
    build([
      { kind: 'knob', rows: knobs, columns: count, x: 14, y: 10, ...strips(14) },
      {
        kind: 'fader',
        columns: count,
        x: 15,
        y: 12 + knobs * 28,
        size: { w: 12, h: 50 },
        gap: { across: STRIP_MM - 12, down: 14 },
      },
      {
        kind: 'button',
        rows: buttons,
        columns: count,
        x: 14,
        y: 78 + knobs * 28,
        size: { w: 14, h: 7 },
        gap: { across: STRIP_MM - 14, down: 14 },
      },
    ]),
}

const padGrid: Starter = {
  id: 'pad-grid',
  name: 'Pad grid',
  about: 'Rows and columns of pads.',
  fields: [field('rows', 'Rows', 4, 1, 16), field('columns', 'Columns', 4, 1, 16)],
  make: ({ rows = 4, columns = 4 }) =>
    build([{ kind: 'pad', rows, columns, x: 8, y: 8, size: { w: 32, h: 24 } }]),
}

const knobBox: Starter = {
  id: 'knob-box',
  name: 'Knob box',
  about: 'Rows and columns of knobs.',
  fields: [field('rows', 'Rows', 2, 1, 16), field('columns', 'Columns', 8, 1, 32)],
  make: ({ rows = 2, columns = 8 }) => build([{ kind: 'knob', rows, columns, x: 14, y: 10, ...strips(14) }]),
}

const floorBoard: Starter = {
  id: 'floor-board',
  name: 'Floor board',
  about: 'Footswitches and pedals.',
  fields: [field('switches', 'Switches', 5, 1, 16), field('pedals', 'Pedals', 2, 0, 4)],
  make: ({ switches = 5, pedals = 2 }) =>
    build([
      { kind: 'footswitch', columns: switches, x: 20, y: 24, gap: { across: 26, down: 26 } },
      { kind: 'pedal', columns: pedals, x: 20 + switches * 56, y: 14, gap: { across: 16, down: 16 } },
    ]),
}

/** The first of two wheels bends: a spring takes it back to its centre. */
function withSprungWheel(surface: Surface): Surface {
  const first = surface.controls.find(({ kind }) => kind === 'wheel')
  return {
    ...surface,
    controls: surface.controls.map((control) =>
      control === first ? { ...control, restsInCentre: true } : control,
    ),
  }
}

const keyboard = (id: string, name: string, width: number, about: string): Starter => ({
  id,
  name,
  about,
  fields: [field('knobs', 'Knobs', 8, 0, 16), field('pads', 'Pads', 0, 0, 16)],
  make: ({ knobs = 8, pads = 0 }) => {
    const perRow = Math.max(1, Math.ceil(pads / 2))
    return withSprungWheel(
      build([
        { kind: 'wheel', columns: 2, x: 14, y: 66, size: { w: 18, h: 70 }, gap: { across: 16, down: 8 } },
        { kind: 'knob', columns: knobs, x: 96, y: 12, ...strips(14) },
        {
          kind: 'pad',
          rows: pads > perRow ? 2 : 1,
          columns: pads === 0 ? 0 : perRow,
          x: 110 + knobs * STRIP_MM,
          y: 8,
          size: { w: 32, h: 22 },
        },
        { kind: 'keybed', x: 96, y: 60, size: { w: width, h: 90 } },
      ]),
    )
  },
})

const xySlate: Starter = {
  id: 'xy-slate',
  name: 'XY slate',
  about: 'One surface that senses left–right and up–down, with buttons.',
  fields: [field('buttons', 'Buttons', 4, 0, 12)],
  make: ({ buttons = 4 }) =>
    build([
      { kind: 'xy', x: 12, y: 12, size: { w: 130, h: 110 } },
      {
        kind: 'button',
        rows: buttons,
        columns: 1,
        x: 160,
        y: 14,
        size: { w: 18, h: 8 },
        gap: { across: 20, down: 16 },
      },
    ]),
}

const blank: Starter = {
  id: 'blank',
  name: 'Blank',
  about: 'An empty surface to draw on.',
  fields: [field('width', 'Width, mm', 300, 20, 2000), field('height', 'Height, mm', 160, 20, 1500)],
  make: ({ width = 300, height = 160 }) => build([], { width, height }),
}

/** All starters, in the order in which they are offered. */
export const STARTERS: readonly Starter[] = [
  mixerBox,
  padGrid,
  knobBox,
  floorBoard,
  keyboard('small-keyboard', 'Small keyboard', 330, 'Two octaves with wheels, knobs and pads.'),
  keyboard('large-keyboard', 'Large keyboard', 620, 'Four octaves with wheels, knobs and pads.'),
  xySlate,
  blank,
]
