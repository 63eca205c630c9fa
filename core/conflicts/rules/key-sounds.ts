import { deliveryOf, isHeard, landedAt } from '../../addresses'
import { noteName } from '../../midi'
import { arrivalsFor, mappingName, type ResolvedMapping } from '../../mappings'
import type { Destination, Id } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { destinationWords, moverWords } from '../words'

/** A DAW that has learned a note takes it; whatever else hears a note plays it too. */
const takesWhatItLearned = ({ kind }: Destination): boolean => kind === 'daw'

/** Where the key of a mapping is heard as a note, besides where it is taken for the mapping. */
function soundsAt({ rig }: CheckContext, { mapping, destination, senders }: ResolvedMapping): Id[] {
  const delivery = deliveryOf(rig)
  const heard = senders.flatMap((sender) =>
    arrivalsFor(delivery, sender, mapping.key).filter(({ bus, messages }) =>
      messages
        .flatMap(landedAt)
        .some(
          (address) => address.scope === 'channel' && address.target.kind === 'note' && isHeard(bus, address),
        ),
    ),
  )
  const ids = new Set(heard.map(({ bus }) => bus.destination))
  if (takesWhatItLearned(destination)) ids.delete(destination.id)
  return rig.destinations.flatMap(({ id }) => (ids.has(id) ? [id] : []))
}

function draftOf(context: CheckContext, resolved: ResolvedMapping): Draft[] {
  const { rig } = context
  const { mapping, senders } = resolved
  if (mapping.key === null || senders.length === 0) return []
  const destinations = soundsAt(context, resolved)
  if (destinations.length === 0) return []
  return [
    {
      severity: 'advice',
      message: `${moverWords(rig, mapping, senders)} moves ${mappingName(rig, mapping)}, and is heard as the note ${noteName(mapping.key, rig.middleC)} at ${destinationWords(rig, destinations)} too.`,
      senders,
      addresses: [],
      destinations,
      about: mapping.id,
    },
  ]
}

/** A key of a keyboard moves a parameter, and sounds as well. */
export const keySounds: Rule = {
  id: 'key-sounds',
  title: 'A key that also sounds',
  topic: 'taken',
  reach: 'mapping',
  find: (context) => context.resolved().flatMap((resolved) => draftOf(context, resolved)),
}
