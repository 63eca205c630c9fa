import { changed, each, everyValue, isFields, type Fields, type Json } from './json'
const oneOf =
  (names: Readonly<Record<string, string>>) =>
  (value: Json): Json =>
    typeof value === 'string' ? (names[value] ?? value) : value

const kind = oneOf({
  bend: 'pitchBend',
  pressure: 'channelPressure',
  poly: 'polyPressure',
  mode: 'channelMode',
})
const halves = oneOf({ 'second-while-first-same': 'lsb-while-msb-same', 'first-only': 'msb-only' })

function message(value: Json): Json {
  const renamed = changed(value, { kind, halves })
  if (!isFields(renamed) || !('secondByte' in renamed)) return renamed
  const { secondByte, ...rest } = renamed
  return { ...rest, sendsLsb: secondByte }
}

const assignments = (value: Json): Json =>
  everyValue(value, (assignment) => changed(assignment, { messages: (list) => each(list, message) }))

const layer = (value: Json): Json => changed(value, { assignments })
const stack = (value: Json): Json => changed(value, { layers: (list) => each(list, layer) })
const template = (value: Json): Json =>
  changed(value, { base: assignments, stacks: (list) => each(list, stack) })
const controller = (value: Json): Json => changed(value, { templates: (list) => each(list, template) })

const kinds = (list: Json): Json => each(list, kind)
const abilities = (value: Json): Json => changed(value, { kinds: (table) => everyValue(table, kinds) })
const model = (value: Json): Json => changed(value, { abilities })

const destination = (value: Json): Json =>
  changed(value, {
    claims: (list) => each(list, (claim) => changed(claim, { kind })),
    parameters: (list) =>
      each(list, (parameter) => changed(parameter, { fixed: (fixed) => changed(fixed, { kind }) })),
    learns: kinds,
  })

const cable = (value: Json): Json =>
  changed(value, {
    rules: (list) =>
      each(list, (rule) =>
        changed(rule, {
          match: (match) => changed(match, { kinds }),
          to: (to) => changed(to, { kind }),
        }),
      ),
  })

/**
 * From version 1 to 2: message kinds are called as the standard calls them (`pitchBend`, `channelPressure`,
 * `polyPressure`, `channelMode`), and so are the MSB and LSB of what has two.
 */
export const fromVersion1 = (document: Fields): Fields =>
  changed(document, {
    models: (list) => each(list, model),
    controllers: (list) => each(list, controller),
    destinations: (list) => each(list, destination),
    cables: (list) => each(list, cable),
  }) as Fields
