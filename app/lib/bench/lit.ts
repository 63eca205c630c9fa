import type { Lit } from '#core/lights'
import type { Id } from '#core/rig'
import { lightColours, type SurfaceLight } from '~/lib/surface/light-colours'

/** The lights that shine, by control: a dark one is drawn as the control is. */
export function litControls(lights: readonly Lit[]): ReadonlyMap<Id, SurfaceLight & { words: string }> {
  return new Map(
    lights.flatMap(({ control, entry, state }) =>
      entry.colour === DARK
        ? []
        : [[control.id, { ...lightColours(entry.colour), words: state ?? entry.name }] as const],
    ),
  )
}

const DARK = '#000000'
