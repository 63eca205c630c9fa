import type { Lit } from '#core/lights'
import type { Id } from '#core/rig'
import { lightColours, type SurfaceLight } from '~/lib/surface/light-colours'

export interface BenchLight extends SurfaceLight {
  words: string
  /** Does it say that something is on, or in whatever state but off? It is marked by a ring besides its colour. */
  isOn: boolean
}

const isOn = (state: string | null): boolean => state !== null && state.toLowerCase() !== 'off'

/** The lights that shine, by control: a dark one is drawn as the control is. */
export function litControls(lights: readonly Lit[]): ReadonlyMap<Id, BenchLight> {
  return new Map(
    lights.flatMap(({ control, entry, state }) =>
      entry.colour === DARK
        ? []
        : [
            [
              control.id,
              { ...lightColours(entry.colour), words: state ?? entry.name, isOn: isOn(state) },
            ] as const,
          ],
    ),
  )
}

const DARK = '#000000'
