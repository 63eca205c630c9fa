import { checksumOf } from '../rig'
import { columns, row, words, type Section, type SheetDocument } from './document'

/** When a book is made, and of which state of the rig. */
export interface BookMade {
  /** The day, as it is to be read: “29 November 2026”. */
  date: string
  version: string
}

/** A sheet as a chapter: its title and facts, then its sections. */
const chapterOf = ({ title, facts, sections }: SheetDocument): Section[] => [
  {
    isChapter: true,
    heading: title,
    table: {
      columns: columns('About', 'Said'),
      rows: facts.map(({ label, value }) => row([words(label), words(value)])),
    },
  },
  ...sections.map((section): Section => ({ ...section, heading: section.heading })),
]

/** Sheets bound into one document, with its contents, the day, and the version of the rig it was made from. */
export function bookOf(
  rigName: string,
  sheets: readonly SheetDocument[],
  { date, version }: BookMade,
  paper: SheetDocument['paper'] = 'a4',
): SheetDocument {
  return {
    title: `${rigName}: the book`,
    subtitle: rigName,
    paper,
    facts: [
      { label: 'Date', value: date },
      { label: 'Version', value: version },
      { label: 'Sheets', value: String(sheets.length) },
    ],
    sections:
      sheets.length > 0
        ? sheets.flatMap(chapterOf)
        : [{ heading: 'No sheet chosen', note: 'Choose the sheets that are to be bound.' }],
  }
}

const GROUPS = 4

/** A short name for the state of a rig, from its JSON: books with the same one were made from the same state. */
export function fingerprint(json: string): string {
  const hex = checksumOf(json).toUpperCase()
  return Array.from({ length: GROUPS }, (_, group) => hex.slice(group * 4, group * 4 + 4)).join('-')
}
