import { decodeWire, readMessage, READ_START, WIRE_START } from '../../midi/bytes'
import type { NamedTrack } from '../../midi/smf'
import type { Controller, Id, Rig } from '../../rig'
import { poweredUp } from '../controller-state'
import { attribute } from '../heard/attribute'

/** So many messages of a track are looked at to tell whose it is. */
const LOOKED_AT = 2000

/** How many of a track's first messages are such as a controller's template sends. */
function known(controller: Controller, { messages }: NamedTrack): number {
  const state = poweredUp(controller)
  let read = READ_START
  let count = 0
  for (const { bytes } of messages.slice(0, LOOKED_AT))
    for (const event of decodeWire(WIRE_START, bytes, 0).events) {
      if (event.kind === 'fault') continue
      const next = readMessage(read, event.bytes)
      read = next.state
      if (attribute(controller, state, next.reading)?.place) count++
    }
  return count
}

/**
 * The controller that each track of a capture is from: the one of its name, else the one whose template sends the most of
 * what is in it. Null where there is none in use.
 */
export function ownersOf(rig: Rig, tracks: readonly NamedTrack[]): Array<Id | null> {
  const all = rig.controllers.filter(({ inUse }) => inUse)
  return tracks.map((track) => {
    const named = all.find(({ name }) => name === track.name)
    if (named) return named.id
    const [best] = all
      .map((controller) => ({ id: controller.id, count: known(controller, track) }))
      .sort((a, b) => b.count - a.count)
    return best?.id ?? null
  })
}
