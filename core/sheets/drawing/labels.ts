import type { Control } from '../../rig'

/** Line height of labels and tags, and rough widths of their letters, in px. */
const LINE = 13
const LABEL_CHAR = 5.9
const TAG_CHAR = 6.7
const TAG_PADDING = 6
/** Letters of other alphabets, and those that stand each in a square. */
const OTHER_CHAR = 7.2
const SQUARE_CHAR = 11.5
const FIRST_OTHER = 0x250
const FIRST_SQUARE = 0x1100

function widthOf(text: string, ordinary: number): number {
  let width = 0
  for (const character of text) {
    const point = character.codePointAt(0) ?? 0
    width += point < FIRST_OTHER ? ordinary : point < FIRST_SQUARE ? OTHER_CHAR : SQUARE_CHAR
  }
  return width
}

/** The beginning of a text in a width, with a sign that it goes on; null where fewer letters fit than so many. */
function cutTo(text: string, width: number, ordinary: number, fewest: number): string | null {
  const kept: string[] = []
  let used = ordinary
  for (const character of text) {
    used += widthOf(character, ordinary)
    if (used > width) break
    kept.push(character)
  }
  return kept.length < fewest ? null : `${kept.join('').trimEnd()}…`
}

/** Forms of an address from the whole to the shortest: `1:cc102`, `cc102`, `102`. */
export function tagForms(tag: string): string[] {
  const colon = tag.indexOf(':')
  const body = colon === -1 ? tag : tag.slice(colon + 1)
  const number = /[\d].*$/.exec(body)?.[0]
  return [...new Set([tag, body, ...(number === undefined ? [] : [number])])]
}

/** How wide a tag is drawn, in px. */
export const tagWidth = (text: string): number => widthOf(text, TAG_CHAR) + TAG_PADDING

/** The longest form of an address that fits a width in px; null if none does. */
export const fitTag = (tag: string, width: number): string | null =>
  tagForms(tag).find((form) => tagWidth(form) <= width) ?? null

/** The longest of some names that fits a width in px, else the shortest, cut; null if not even two letters fit. */
export function fitName(names: readonly string[], width: number): string | null {
  const whole = names.find((name) => tagWidth(name) <= width)
  if (whole !== undefined) return whole
  return cutTo(names.at(-1) ?? '', width - TAG_PADDING, TAG_CHAR, 2)
}

/** A label cut to a width in px, with a dot to show that it goes on; empty if not even a letter fits. */
export function fitLabel(label: string, width: number): string {
  return widthOf(label, LABEL_CHAR) <= width ? label : (cutTo(label, width, LABEL_CHAR, 1) ?? '')
}

/** Where a control's writing goes, in px. */
export interface LabelPlace {
  control: Control
  /** Centre of the writing. */
  x: number
  label: { text: string; y: number } | null
  /** Top of the first tag; further tags follow below, one line each. */
  tagsY: number | null
  tagWidth: number
  tagLines: number
  inside: boolean
}

interface Spot {
  control: Control
  left: number
  right: number
  top: number
  bottom: number
}

const overlaps = (a1: number, a2: number, b1: number, b2: number): boolean => a1 < b2 && b1 < a2

/** Px from the middle of a spot to the middle of its nearest neighbour in the same row. */
function slotWidth(spot: Spot, spots: readonly Spot[]): number {
  const middle = (spot.left + spot.right) / 2
  const own = spot.right - spot.left
  const distances = spots
    .filter(
      (other) =>
        other !== spot && overlaps(other.top, other.bottom + 2 * LINE, spot.top, spot.bottom + 2 * LINE),
    )
    .map((other) => {
      const gap = other.left >= spot.right ? other.left - middle : middle - other.right
      const half = (other.right - other.left) / 2
      return gap > 0 ? gap + Math.min(half, gap) : Infinity
    })
  return Math.max(own, Math.min(own + 120, ...distances) - 3)
}

function roomBelow(spot: Spot, spots: readonly Spot[], width: number, floor: number): number {
  const middle = (spot.left + spot.right) / 2
  const below = spots
    .filter(
      (other) =>
        other.top >= spot.bottom - 1 &&
        overlaps(other.left, other.right, middle - width / 2, middle + width / 2),
    )
    .map((other) => other.top)
  return Math.min(floor, ...below) - spot.bottom
}

const MIN_INSIDE_WIDTH = 30

/** The room for a control's writing, in px, whatever will be written there. */
export type LabelRoom = { control: Control; x: number; width: number } & (
  { side: 'inside'; top: number; height: number } | { side: 'below'; bottom: number; room: number }
)

/**
 * Where there is room for the writing of each control of a surface drawn at `scale` px a mm: inside large
 * controls, else below them, without running into a neighbour.
 */
export function labelRooms(
  controls: readonly Control[],
  scale: number,
  surface: { height: number },
): LabelRoom[] {
  const spots = controls.map((control): Spot => ({
    control,
    left: control.place.x * scale,
    right: (control.place.x + control.place.w) * scale,
    top: control.place.y * scale,
    bottom: (control.place.y + control.place.h) * scale,
  }))
  return spots.map((spot) => {
    const { control } = spot
    const x = (spot.left + spot.right) / 2
    const own = spot.right - spot.left
    const height = spot.bottom - spot.top
    const isRoomy = ['pad', 'xy', 'keybed', 'pedal'].includes(control.kind)
    if (isRoomy && own >= MIN_INSIDE_WIDTH && height >= LINE) {
      return { control, x, width: own - 4, side: 'inside', top: spot.top, height }
    }
    const width = slotWidth(spot, spots)
    const room = roomBelow(spot, spots, Math.min(width, own + 40), surface.height * scale + 6)
    return { control, x, width, side: 'below', bottom: spot.bottom, room }
  })
}

/**
 * Place the names and address tags of controls. Where there is room for one line only, the tag stays;
 * below a control there is one tag, and the rest is counted. A place that is as in `before` is that
 * very object, so that what has not moved need not be drawn again.
 */
export const placeLabels = (
  rooms: readonly LabelRoom[],
  tagsOf: (control: Control) => number,
  before: readonly LabelPlace[] = [],
): LabelPlace[] =>
  rooms.map((room, index) => {
    const count = tagsOf(room.control)
    const placed =
      room.side === 'inside'
        ? inside(room.control, room.x, room.width, room.top, room.height, count)
        : below(room.control, room.x, room.width, room.bottom, room.room, count)
    const old = before[index]
    return old && isSamePlace(placed, old) ? old : placed
  })

const isSamePlace = (a: LabelPlace, b: LabelPlace): boolean =>
  a.control === b.control &&
  a.x === b.x &&
  a.label?.text === b.label?.text &&
  a.label?.y === b.label?.y &&
  a.tagsY === b.tagsY &&
  a.tagWidth === b.tagWidth &&
  a.tagLines === b.tagLines

function inside(
  control: Control,
  x: number,
  width: number,
  top: number,
  height: number,
  count: number,
): LabelPlace {
  const lines = Math.floor((height - 4) / LINE)
  const isKeybed = control.kind === 'keybed'
  const tagLines = Math.max(0, Math.min(count, lines - (lines > 1 ? 1 : 0)))
  const showLabel = lines > tagLines
  const block = (tagLines + (showLabel ? 1 : 0)) * LINE
  const start = isKeybed ? top + height - block - 5 : top + (height - block) / 2
  return {
    control,
    x,
    label: showLabel ? { text: fitLabel(control.label, width), y: start + 10 } : null,
    tagsY: tagLines > 0 ? start + (showLabel ? LINE : 0) : null,
    tagWidth: width,
    tagLines,
    inside: true,
  }
}

function below(
  control: Control,
  x: number,
  width: number,
  bottom: number,
  room: number,
  count: number,
): LabelPlace {
  const gap = control.kind === 'encoder' ? 5 : 3
  const lines = Math.floor((room - gap + 2) / LINE)
  const tagLines = Math.min(count, 1, Math.max(0, lines))
  const showLabel = lines > tagLines && control.label !== ''
  return {
    control,
    x,
    label: showLabel ? { text: fitLabel(control.label, width), y: bottom + gap + 10 } : null,
    tagsY: tagLines > 0 ? bottom + gap + (showLabel ? LINE : 0) : null,
    tagWidth: width,
    tagLines,
    inside: false,
  }
}

export const TAG_LINE_PX = LINE
