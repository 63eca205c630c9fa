import type { Block, Control, ControlKind, GestureKind, Id, Surface } from '../types'
import { snapped } from './arrange'

/** What a kind of control usually senses, and its usual size in mm. */
export interface KindFacts {
  gestures: readonly GestureKind[]
  /** What some hardware senses as well. */
  more: readonly GestureKind[]
  size: { w: number; h: number }
  name: string
  plural: string
}

export const KIND_FACTS: Readonly<Record<ControlKind, KindFacts>> = {
  knob: { gestures: ['turn'], more: ['touch'], size: { w: 14, h: 14 }, name: 'Knob', plural: 'Knobs' },
  encoder: {
    gestures: ['turn'],
    more: ['push', 'touch'],
    size: { w: 15, h: 15 },
    name: 'Encoder',
    plural: 'Encoders',
  },
  fader: { gestures: ['slide'], more: ['touch'], size: { w: 12, h: 50 }, name: 'Fader', plural: 'Faders' },
  button: { gestures: ['press'], more: ['touch'], size: { w: 14, h: 7 }, name: 'Button', plural: 'Buttons' },
  pad: {
    gestures: ['strike'],
    more: ['pressure', 'x', 'y'],
    size: { w: 28, h: 24 },
    name: 'Pad',
    plural: 'Pads',
  },
  keybed: { gestures: ['strike'], more: ['pressure'], size: { w: 420, h: 90 }, name: 'Keys', plural: 'Keys' },
  wheel: { gestures: ['turn'], more: ['touch'], size: { w: 20, h: 70 }, name: 'Wheel', plural: 'Wheels' },
  ribbon: {
    gestures: ['slide'],
    more: ['touch', 'pressure'],
    size: { w: 200, h: 14 },
    name: 'Ribbon',
    plural: 'Ribbons',
  },
  xy: {
    gestures: ['x', 'y'],
    more: ['touch', 'pressure'],
    size: { w: 80, h: 80 },
    name: 'XY',
    plural: 'XY surfaces',
  },
  pedal: { gestures: ['press'], more: [], size: { w: 60, h: 110 }, name: 'Pedal', plural: 'Pedals' },
  footswitch: {
    gestures: ['press'],
    more: [],
    size: { w: 30, h: 30 },
    name: 'Switch',
    plural: 'Footswitches',
  },
  tilt: { gestures: ['tilt'], more: [], size: { w: 30, h: 30 }, name: 'Tilt', plural: 'Tilt sensors' },
  joystick: {
    gestures: ['x', 'y'],
    more: ['push', 'touch'],
    size: { w: 40, h: 40 },
    name: 'Stick',
    plural: 'Joysticks',
  },
}

/** A block to be laid out: rows × columns of one kind, sizes and gaps in mm. */
export interface BlockPlan {
  kind: ControlKind
  rows: number
  columns: number
  size: { w: number; h: number }
  gap: { across: number; down: number }
}

/** Room under a control for its name and address, in mm. */
const WRITING_MM = 14
const ACROSS_MM = 20

/** Controls that take their writing inside need little room around. */
const WRITES_INSIDE: ReadonlySet<ControlKind> = new Set(['pad', 'xy', 'keybed', 'pedal'])

/** One control of a kind in its usual size, in mm. */
export function usualPlan(kind: ControlKind): BlockPlan {
  const gap = WRITES_INSIDE.has(kind) ? { across: 4, down: 4 } : { across: ACROSS_MM, down: WRITING_MM }
  return { kind, rows: 1, columns: 1, size: { ...KIND_FACTS[kind].size }, gap }
}

/** The whole space of a block, in mm. */
export const planSize = ({ rows, columns, size, gap }: BlockPlan): { w: number; h: number } => ({
  w: columns * size.w + (columns - 1) * gap.across,
  h: rows * size.h + (rows - 1) * gap.down,
})

/** An id made of a word and the first number that no id in `taken` has; it is added to `taken`. */
export function freshId(word: string, taken: Set<Id>): Id {
  for (let number = 1; ; number++) {
    const id = `${word}-${number}`
    if (taken.has(id)) continue
    taken.add(id)
    return id
  }
}

const takenIds = (surface: Surface): Set<Id> =>
  new Set([...surface.controls.map(({ id }) => id), ...surface.blocks.map(({ id }) => id)])

/**
 * The controls of a block at a place (its left top corner in mm), named and counted on from what the
 * surface has; in a block of their own if there is more than one.
 */
export function layOut(
  surface: Surface,
  plan: BlockPlan,
  at: { x: number; y: number },
): { controls: Control[]; block: Block | null } {
  const taken = takenIds(surface)
  const { name, plural, gestures } = KIND_FACTS[plan.kind]
  const count = plan.rows * plan.columns
  const block: Block | null =
    count > 1
      ? { id: freshId(`${plan.kind}s`, taken), label: plural, rows: plan.rows, columns: plan.columns }
      : null
  const before = surface.controls.filter(({ kind }) => kind === plan.kind).length
  const controls = Array.from({ length: count }, (_, index): Control => ({
    id: freshId(plan.kind, taken),
    kind: plan.kind,
    label: `${name} ${before + index + 1}`,
    block: block?.id ?? null,
    gestures: [...gestures],
    silent: false,
    restsInCentre: plan.kind === 'joystick',
    detentsPerTurn: plan.kind === 'encoder' ? 24 : null,
    lightNumber: null,
    place: {
      x: snapped(at.x + (index % plan.columns) * (plan.size.w + plan.gap.across)),
      y: snapped(at.y + Math.floor(index / plan.columns) * (plan.size.h + plan.gap.down)),
      w: plan.size.w,
      h: plan.size.h,
    },
  }))
  return { controls, block }
}

const MARGIN_MM = 12

/** Where new controls go: right of or below what is selected; else below everything. */
export function placeFor(
  surface: Surface,
  selected: readonly Control[],
  side: 'right' | 'below',
): { x: number; y: number } {
  const around = selected.length > 0 ? selected : surface.controls
  if (around.length === 0) return { x: MARGIN_MM, y: MARGIN_MM }
  const left = Math.min(...around.map(({ place }) => place.x))
  const top = Math.min(...around.map(({ place }) => place.y))
  const right = Math.max(...around.map(({ place }) => place.x + place.w))
  const bottom = Math.max(...around.map(({ place }) => place.y + place.h))
  return side === 'right' && selected.length > 0
    ? { x: right + ACROSS_MM, y: top }
    : { x: left, y: bottom + WRITING_MM + 4 }
}

interface Extent {
  width: number
  height: number
}

/** However small its frame, a surface is drawn no smaller than this, in px per mm. */
const LEAST_SCALE = 0.3

/**
 * The scale, in px per mm, at which a surface is as large as it goes into a frame.
 *
 * @param extent How wide and high the surface is, in mm.
 * @param frame How wide and high the frame is, in px.
 * @param fitting `padding`: what is kept free on every side, in px; `most`: the largest scale.
 */
export function fittedScale(
  extent: Extent,
  frame: Extent,
  { padding = 0, most = Infinity }: { padding?: number; most?: number } = {},
): number {
  const across = (frame.width - 2 * padding) / extent.width
  const down = (frame.height - 2 * padding) / extent.height
  return Math.max(LEAST_SCALE, Math.min(across, down, most))
}

/** The surface size that holds all controls with a margin, never smaller than now. */
export function grownSurface(surface: Surface, controls: readonly Control[]): Extent {
  const right = Math.max(0, ...controls.map(({ place }) => place.x + place.w + MARGIN_MM))
  const bottom = Math.max(
    0,
    ...controls.map(({ place, kind }) => place.y + place.h + (WRITES_INSIDE.has(kind) ? 8 : WRITING_MM)),
  )
  return {
    width: Math.max(surface.width, Math.ceil(right)),
    height: Math.max(surface.height, Math.ceil(bottom)),
  }
}

/** Copies of controls, each run of them shifted further, in a block of their own where they were in one. */
export function copies(
  surface: Surface,
  originals: readonly Control[],
  times: number,
  direction: 'right' | 'below',
): { controls: Control[]; blocks: Block[] } {
  const taken = takenIds(surface)
  const left = Math.min(...originals.map(({ place }) => place.x))
  const top = Math.min(...originals.map(({ place }) => place.y))
  const width = Math.max(...originals.map(({ place }) => place.x + place.w)) - left
  const height = Math.max(...originals.map(({ place }) => place.y + place.h)) - top
  const step =
    direction === 'right' ? { x: width + ACROSS_MM / 2, y: 0 } : { x: 0, y: height + WRITING_MM + 2 }
  const blocks: Block[] = []
  const controls: Control[] = []
  for (let time = 1; time <= times; time++) {
    const renamed = new Map<Id, Id>()
    for (const original of originals) {
      if (original.block !== null && !renamed.has(original.block)) {
        const source = surface.blocks.find(({ id }) => id === original.block)
        const id = freshId(`${original.kind}s`, taken)
        renamed.set(original.block, id)
        blocks.push({
          id,
          label: source?.label ?? KIND_FACTS[original.kind].plural,
          rows: source?.rows ?? 1,
          columns: source?.columns ?? 1,
        })
      }
      controls.push({
        ...original,
        id: freshId(original.kind, taken),
        label: countedOn(original.label, time * originals.length),
        block: original.block === null ? null : (renamed.get(original.block) ?? null),
        place: {
          ...original.place,
          x: original.place.x + step.x * time,
          y: original.place.y + step.y * time,
        },
      })
    }
  }
  return { controls, blocks }
}

/** "Fader 8" counted on by 8 is "Fader 16"; a name without a number stays. */
const countedOn = (label: string, by: number): string =>
  label.replace(/(\d+)(\D*)$/, (_, number: string, rest: string) => `${Number(number) + by}${rest}`)
