import { findGesture, gestureName, gestureRef, placeName, rigIndex, type Id, type Rig } from '../rig'
import { columns, row, words, type SheetDocument } from './document'
import { timeWords } from './time'

/** What the last line check of a controller found: what differs, and what is as written. */
export function lineCheckSheet(rig: Rig, id: Id): SheetDocument {
  const controller = rigIndex(rig).controllers.get(id)
  const name = controller?.name ?? id
  const check = controller?.lineCheck
  if (!controller || !check)
    return {
      title: `${name}: line check`,
      subtitle: rig.name,
      facts: [],
      sections: [
        {
          heading: 'Not checked yet',
          note: 'Check the line on the Bench, under Prove, and keep what was found.',
        },
      ],
    }
  const lines = check.lines.flatMap((line) => {
    const found = findGesture(rig, gestureRef(id, line.gesture))
    if (!found) return []
    const place = { controller: id, template: line.template, layer: line.layer, gesture: line.gesture }
    return [
      {
        ...line,
        place,
        name: gestureName(found.control, found.gesture),
        layer: placeName(rig, place).layer ?? '–',
      },
    ]
  })
  const differing = lines.filter(({ came }) => came !== null)
  const fine = lines.filter(({ came }) => came === null)
  return {
    title: `${name}: line check`,
    subtitle: rig.name,
    facts: [
      { label: 'Checked', value: timeWords(check.at) },
      { label: 'As written', value: String(fine.length) },
      { label: 'Differs', value: String(differing.length) },
    ],
    sections: [
      ...(check.causes.length > 0
        ? [
            {
              heading: 'Causes',
              table: { columns: columns('Cause'), rows: check.causes.map((cause) => row([words(cause)])) },
            },
          ]
        : []),
      differing.length === 0
        ? { heading: 'What differs', note: 'Nothing differs from what is written.' }
        : {
            heading: 'What differs',
            table: {
              columns: columns('Control', 'Layer', 'What came'),
              rows: differing.map((line) =>
                row([words(line.name), words(line.layer), words(line.came ?? '')], {
                  kind: 'place',
                  place: line.place,
                }),
              ),
            },
          },
      {
        heading: 'As written',
        table: {
          columns: columns('Control', 'Layer'),
          rows: fine.map((line) =>
            row([words(line.name), words(line.layer)], { kind: 'place', place: line.place }),
          ),
        },
      },
    ],
  }
}
