import { changedSince } from '../bench/rehearsal'
import { mappingName } from '../mappings'
import { findGesture, gestureName, type Id, type Mapping, type Rig } from '../rig'
import { columns, row, words, type Row, type Section, type SheetDocument } from './document'
import { timeWords } from './time'

const controlWords = (rig: Rig, gesture: string | null): string => {
  const found = gesture === null ? null : findGesture(rig, gesture)
  return found ? `${gestureName(found.control, found.gesture)} (${found.controller.name})` : '–'
}

const mappingRow = (rig: Rig, mapping: Mapping): Row =>
  row([words(controlWords(rig, mapping.gesture)), words(mappingName(rig, mapping))], {
    kind: 'parameter',
    destination: mapping.destination,
    parameter: mapping.parameter,
  })

function listed(rig: Rig, heading: string, note: string, ids: readonly Id[]): Section[] {
  const known = new Set(ids)
  const mappings = rig.mappings.filter(({ id }) => known.has(id))
  return mappings.length === 0
    ? []
    : [
        {
          heading,
          note,
          table: {
            columns: columns('Control', 'Moves'),
            rows: mappings.map((each) => mappingRow(rig, each)),
          },
        },
      ]
}

/** What the last rehearsal proved, what it found, and what has changed since. */
export function rehearsalSheet(rig: Rig): SheetDocument {
  const { rehearsed } = rig
  const since = changedSince(rig)
  if (!rehearsed || !since)
    return {
      title: 'Rehearsal',
      subtitle: rig.name,
      facts: [],
      sections: [
        {
          heading: 'Not rehearsed yet',
          note: 'Rehearse the rig on the Bench, under Prove, and keep what it proved.',
        },
      ],
    }
  const more = rehearsed.faults - rehearsed.findings.length
  return {
    title: 'Rehearsal',
    subtitle: rig.name,
    facts: [
      { label: 'Rehearsed', value: timeWords(rehearsed.at) },
      { label: 'Proven then', value: String(Object.keys(rehearsed.proven).length) },
      { label: 'Faults', value: String(rehearsed.faults) },
      { label: 'As proven now', value: String(since.same.length) },
      { label: 'Changed since', value: String(since.changed.length + since.gone) },
    ],
    sections: [
      rehearsed.findings.length === 0
        ? { heading: 'What was found', note: 'No fault was found.' }
        : {
            heading: 'What was found',
            note: more > 0 ? `The first ${rehearsed.findings.length} of ${rehearsed.faults}.` : '',
            table: {
              columns: columns('Fault', 'What to do'),
              rows: rehearsed.findings.map(({ text, cure }) => row([words(text), words(cure)])),
            },
          },
      ...(since.gone > 0
        ? [{ heading: 'Gone since', note: `${since.gone} of what was proven is gone from the rig.` }]
        : []),
      ...listed(
        rig,
        'Changed since',
        'It was proven, and rests on something else now. Rehearse again.',
        since.changed,
      ),
      ...listed(rig, 'Not proven', 'It is new since then, or was found faulty.', since.unproven),
      ...listed(
        rig,
        'Proven',
        'It reached both ends, nothing else moved, and the light came right.',
        since.same,
      ),
    ],
  }
}
