import { printTag } from '../midi'
import { mappingName, relearnList, type RelearnLine } from '../mappings'
import { parameterName, type Rig } from '../rig'
import {
  columns,
  figure,
  numeral,
  row,
  tickBox,
  words,
  type Row,
  type Section,
  type SheetDocument,
} from './document'

function lineOf({ mapping, parameter, text, was, to, hindrance }: RelearnLine, number: number): Row {
  return row(
    [
      numeral(number),
      tickBox(false),
      words(hindrance ?? text),
      words(parameterName(parameter)),
      figure(was ? printTag(was) : '–'),
      figure(to ? printTag(to) : '–'),
    ],
    { kind: 'parameter', destination: mapping.destination, parameter: parameter.id },
  )
}

/** What must be taught again, destination by destination, in the order in which a player sits down and does it. */
export function relearnSheet(rig: Rig): SheetDocument {
  const groups = relearnList(rig)
  const count = groups.reduce((sum, { lines }) => sum + lines.length, 0)
  const sections = groups.map(({ destination, lines }): Section => ({
    heading: destination.name,
    note: `${lines.length} to do, in this order.`,
    table: {
      columns: columns(
        { figures: 'Order' },
        'Done',
        'What to do',
        'Parameter',
        'Listens at',
        'Is to listen at',
      ),
      rows: lines.map((line, index) => lineOf(line, index + 1)),
    },
  }))
  const first = groups[0]?.lines[0]
  return {
    title: 'Teach again',
    subtitle: rig.name,
    facts: [
      { label: 'To do', value: count === 0 ? 'nothing' : String(count) },
      ...(first ? [{ label: 'Begin with', value: mappingName(rig, first.mapping) }] : []),
    ],
    sections:
      sections.length > 0
        ? sections
        : [{ heading: 'Everything is taught', note: 'Every destination listens to what its controls send.' }],
  }
}
