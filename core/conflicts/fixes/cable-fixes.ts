import { isChannelMessage, type Cable, type CableKind, type Rig } from '../../rig'
import type { Sender } from '../../addresses'
import type { Fix } from '../finding'
import { portWords } from '../words'

const cableName = (rig: Rig, { from, to }: Cable): string => `${portWords(rig, from)} → ${portWords(rig, to)}`

/** Take a cable out. */
export const unplugFix = (rig: Rig, cable: Cable): Fix => ({
  id: `unplug-${cable.id}`,
  kind: 'unplug',
  label: `Unplug ${cableName(rig, cable)}`,
  edits: [{ type: 'cable-remove', cable: cable.id }],
})

/** Let a cable stop what these senders send, by kind and channel; its other rules come after. */
export function stopFix(rig: Rig, cable: Cable, senders: readonly Sender[]): Fix {
  const kinds = [
    ...new Set(senders.map(({ message }) => message).flatMap((m) => (isChannelMessage(m) ? [m.kind] : []))),
  ] as CableKind[]
  const channels = [...new Set(senders.map(({ channel }) => channel))].toSorted((a, b) => a - b)
  return {
    id: `stop-${cable.id}`,
    kind: 'stop',
    label: `Let ${cableName(rig, cable)} stop it`,
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
