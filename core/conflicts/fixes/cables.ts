import { outgoing, signatureOf, type Sender } from '../../addresses'
import type { Cable, CableKind, Rig } from '../../rig'
import type { Fix } from '../finding'
import { cableWords } from '../words'

/** Take a cable out. */
export const unplugFix = (rig: Rig, cable: Cable): Fix => ({
  id: `unplug-${cable.id}`,
  kind: 'unplug',
  label: `Unplug ${cableWords(rig, cable)}`,
  edits: [{ type: 'cable-remove', cable: cable.id }],
})

/** Let a cable stop what these senders send, by kind and channel; its other rules come after. */
export function stopFix(rig: Rig, cable: Cable, senders: readonly Sender[]): Fix {
  const sent = senders.map((sender) => signatureOf(outgoing(sender)))
  const kinds: CableKind[] = [...new Set(sent.map(({ kind }) => kind))]
  const channels = [...new Set(sent.flatMap(({ channel }) => channel ?? []))].toSorted((a, b) => a - b)
  return {
    id: `stop-${cable.id}`,
    kind: 'stop',
    label: `Let ${cableWords(rig, cable)} stop it`,
    edits: [
      {
        type: 'cable-set',
        cable: cable.id,
        set: {
          rules: [{ kind: 'stop', match: { kinds, channels, low: null, high: null } }, ...cable.rules],
        },
      },
    ],
  }
}
