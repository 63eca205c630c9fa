import { occupancyOf, type Sender } from '../addresses'
import { heardNotes, heardPrograms } from '../mappings'
import { noteName, printTag, printTarget } from '../midi'
import { placeName, type Destination, type Rig } from '../rig'
import { columns, figure, numeral, row, words, type Row, type Section, type SheetDocument } from './document'

/** Who sends something: the control, its layer and its controller. */
function senderWords(rig: Rig, { place }: Sender): string {
  const { controller, gesture, layer } = placeName(rig, place)
  return `${gesture}${layer === null ? '' : ` in ${layer}`} (${controller})`
}

const senders = (rig: Rig, by: readonly Sender[]): string =>
  [...new Set(by.map((sender) => senderWords(rig, sender)))].join('; ')
const tags = (by: readonly Sender[]): string =>
  [...new Set(by.flatMap(({ address }) => (address ? printTag(address) : [])))].join(', ')

const PROGRAM_COLUMNS = columns(
  { figures: 'Shown as' },
  'Name',
  'Sent as',
  { figures: 'Bank MSB' },
  { figures: 'Bank LSB' },
  { figures: 'Number' },
  'Called by',
)
const NOTE_COLUMNS = columns({ figures: 'Note' }, 'Shown as', 'Sound', 'Played by', 'Sent as')

function programsOf(rig: Rig, destination: Destination): Section[] {
  if (destination.programs.length === 0) return []
  const rows = heardPrograms(occupancyOf(rig), destination).map(({ program: { number, bank, name }, by }) =>
    row(
      [
        numeral(number + destination.countsFrom),
        words(name),
        figure(printTarget({ kind: 'program', number, bank })),
        numeral(bank?.msb ?? null),
        numeral(bank?.lsb ?? null),
        numeral(number),
        words(senders(rig, by)),
      ],
      { kind: 'destination', id: destination.id },
    ),
  )
  return [
    {
      heading: `${destination.name}: programs`,
      note: `It counts its programs from ${destination.countsFrom}; numbers that are sent count from 0.`,
      table: { columns: PROGRAM_COLUMNS, rows },
    },
  ]
}

function notesOf(rig: Rig, destination: Destination): Section[] {
  if (destination.noteNames.length === 0) return []
  const rows = heardNotes(occupancyOf(rig), destination).map(({ named, by }): Row =>
    row(
      [
        numeral(named.number),
        figure(noteName(named.number, destination.middleC)),
        words(named.name),
        words(senders(rig, by)),
        figure(tags(by)),
      ],
      { kind: 'destination', id: destination.id },
    ),
  )
  return [
    {
      heading: `${destination.name}: notes`,
      note: `It calls middle C (note 60) C${destination.middleC}.`,
      table: { columns: NOTE_COLUMNS, rows },
    },
  ]
}

/** Presets in the counting of each destination beside what is sent, and sounds with the pads and keys that play them. */
export function nameLists(rig: Rig): SheetDocument {
  const sections = rig.destinations.flatMap((destination) => [
    ...programsOf(rig, destination),
    ...notesOf(rig, destination),
  ])
  return {
    title: 'Programs and notes',
    subtitle: rig.name,
    facts: [],
    sections:
      sections.length > 0
        ? sections
        : [
            {
              heading: 'No names yet',
              note: 'No destination has named presets or sounds. Give it a list of them in its view in Rig.',
            },
          ],
  }
}
