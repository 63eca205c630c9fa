/** Texts that a reader could take very long over, by what they are full of; `count` of it each. */
export interface HostileText {
  what: string
  format: 'rig' | 'table' | 'names' | 'properties'
  text: (count: number) => string
}

const device = (inside: string): string =>
  `<MIDINameDocument><MasterDeviceNames><Manufacturer>M</Manufacturer><Model>N</Model>${inside}</MasterDeviceNames></MIDINameDocument>`
const rig = (fields: string): string => `{"format":"deft-lattice/rig","version":2,"name":"R",${fields}}`
const times = (text: string, count: number, between = ''): string =>
  Array.from({ length: count }, () => text).join(between)
const each = (count: number, text: (index: number) => string, between = ''): string =>
  Array.from({ length: count }, (_, index) => text(index)).join(between)

const table = (what: string, text: HostileText['text']): HostileText => ({ what, format: 'table', text })
const properties = (what: string, text: HostileText['text']): HostileText => ({
  what,
  format: 'properties',
  text,
})
const names = (what: string, text: HostileText['text']): HostileText => ({ what, format: 'names', text })
const rigText = (what: string, text: HostileText['text']): HostileText => ({ what, format: 'rig', text })

export const HOSTILE_TEXTS: readonly HostileText[] = [
  table('one name', (count) => `name\n${times('Cutoff\n', count)}`),
  table(
    'spaces in a cell',
    (count) => `name,group,choices\nA,"x${' '.repeat(count)}y","a${' '.repeat(count)}b"\n`,
  ),
  table('empty lines', (count) => '\n'.repeat(count)),
  table('quotation marks', (count) => '"'.repeat(count)),
  table('columns', (count) => times('a', count, ',')),
  properties('bad entries', (count) => `{"AllCtrlList":[${times('7', count, ',')}]}`),
  properties('lists within lists', (count) => times('[', count) + times(']', count)),
  names('equal controls', (count) =>
    device(
      `<ControlNameList Name="c">${times('<Control Number="7" Name="Same"/>', count)}</ControlNameList>`,
    ),
  ),
  names('lists of values', (count) =>
    device(
      `<ControlNameList Name="c">${each(count, (index) => `<Control Number="7" Name="C${index}"><Values Min="0" Max="127"><UsesValueNameList Name="v${index}"/></Values></Control>`)}</ControlNameList>${each(count, (index) => `<ValueNameList Name="v${index}"><Value Number="0" Name="x"/></ValueNameList>`)}`,
    ),
  ),
  names('openings of comments', (count) => `<a>${times('<!--', count)}</a>`),
  names('openings of CDATA', (count) => `<a>${times('<![CDATA[', count)}</a>`),
  names('openings of doctypes', (count) => `${times('<!DOCTYPE', count)}<a></a>`),
  names('openings of tags', (count) => times('<a ', count)),
  names('attributes', (count) => `<a ${each(count, (index) => `x${index}="1"`, ' ')}/>`),
  names('entities in text', (count) => `<a>${times('x&amp;', count)}</a>`),
  rigText('empty mappings', (count) => rig(`"mappings":[${times('{}', count, ',')}]`)),
  rigText('numbers for mappings', (count) => rig(`"mappings":[${times('0', count, ',')}]`)),
  rigText('unknown fields', (count) => rig(each(count, (index) => `"k${index}":0`, ','))),
  rigText('brackets', (count) => '['.repeat(count)),
  rigText('empty lines', (count) => '\n'.repeat(count)),
  rigText('quotation marks', (count) => `"${'\\"'.repeat(count)}`),
  rigText('lines before a fault', (count) => `{${'\n'.repeat(count)}"a" 1}`),
]
