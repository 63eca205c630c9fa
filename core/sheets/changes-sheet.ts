import { changedFindings, changeReport, type ChangeLine } from '../history'
import type { Rig } from '../rig'
import { columns, figure, row, words, type Row, type Section, type SheetDocument } from './document'

const KIND_WORDS: Readonly<Record<ChangeLine['kind'], string>> = {
  new: 'new',
  gone: 'gone',
  moved: 'moved',
  changed: 'changed',
}

const lineRow = ({ kind, name, was, is }: ChangeLine): Row =>
  row([words(KIND_WORDS[kind]), words(name), figure(was ?? ''), figure(is ?? '')])

function listed(heading: string, title: string, texts: readonly string[]): Section[] {
  return texts.length === 0
    ? []
    : [{ heading, table: { columns: columns(title), rows: texts.map((text) => row([words(text)])) } }]
}

/**
 * What changed from an earlier rig to a later one: what must be taught again, the findings that came and went, and every thing that
 * differs, with addresses old and new.
 *
 * @param since The earlier one as the player knows it: a version’s name, a time, another rig.
 */
export function changesSheet(before: Rig, after: Rig, since: string): SheetDocument {
  const report = changeReport(before, after)
  const { came, went } = changedFindings(before, after)
  const sections = report.groups.flatMap(({ name, sections: own }) =>
    own.map(({ name: part, lines }): Section => ({
      heading: part === '' ? name : `${name}: ${part}`,
      table: { columns: columns('How', 'What', 'Was', 'Is'), rows: lines.map(lineRow) },
    })),
  )
  return {
    title: 'What changed',
    subtitle: after.name,
    facts: [
      { label: 'Since', value: since },
      { label: 'Things that differ', value: String(report.count) },
      { label: 'To teach again', value: String(report.teach.length) },
      { label: 'Findings that came', value: String(came.length) },
      { label: 'Findings that went', value: String(went.length) },
    ],
    sections:
      report.count === 0
        ? [{ heading: 'Nothing differs', note: 'The rig is as it was.' }]
        : [
            ...listed('Teach again', 'Parameter', report.teach),
            ...listed(
              'Findings that came',
              'Finding',
              came.map(({ message }) => message),
            ),
            ...listed(
              'Findings that went',
              'Finding',
              went.map(({ message }) => message),
            ),
            ...sections,
          ],
  }
}
