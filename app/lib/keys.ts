import { isBlackKey } from '#core/midi'

/** A key on a drawn keyboard, in shares of its width and height. */
export interface KeyArea {
  note: number
  x: number
  w: number
  h: number
}

const BLACK = { width: 0.6, height: 0.58 }

/** Where the keys from `low` to `high` lie: white ones side by side, black ones between and above. */
export function keyAreas(low: number, high: number): KeyArea[] {
  const notes = Array.from({ length: high - low + 1 }, (_, index) => low + index)
  const whites = notes.filter((note) => !isBlackKey(note)).length
  let before = 0
  return notes.map((note) =>
    isBlackKey(note)
      ? { note, x: (before - BLACK.width / 2) / whites, w: BLACK.width / whites, h: BLACK.height }
      : { note, x: before++ / whites, w: 1 / whites, h: 1 },
  )
}

/** The key at a place of the drawing, in shares of its width and height: black ones lie above. */
export function keyAt(areas: readonly KeyArea[], x: number, y: number): number | null {
  const at = areas.filter((area) => x >= area.x && x < area.x + area.w && y <= area.h)
  return (at.find(({ h }) => h < 1) ?? at[0])?.note ?? null
}
