import { DRUM_LABELS } from '../models/pelluna'
import { slug, type DestinationInput, type ParameterInput } from '../kit'

/** The notes of its fourteen sounds, with the gaps between them. */
export const DRUM_NOTES = [36, 38, 40, 41, 43, 45, 47, 48, 50, 52, 55, 57, 60, 62] as const

export const kettlow: DestinationInput = {
  id: 'kettlow',
  name: 'Kettlow',
  kind: 'drum-machine',
  ports: [
    { id: 'in', name: 'In', direction: 'in' },
    { id: 'thru', name: 'Thru', direction: 'thru' },
  ],
  hears: {
    playing: { channels: { kind: 'only', channels: [10] } },
    learning: {},
    settable: true,
  },
  parameters: DRUM_LABELS.map((name, index): ParameterInput => ({
    id: slug(name),
    name,
    path: ['Sounds'],
    kind: 'note',
    fixed: { kind: 'note', number: DRUM_NOTES[index] ?? 0 },
  })),
  noteNames: DRUM_LABELS.map((name, index) => ({ number: DRUM_NOTES[index] ?? 0, name })),
}
