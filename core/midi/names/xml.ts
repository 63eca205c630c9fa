import { XMLParser, XMLValidator } from 'fast-xml-parser'

/** An element: its name, attributes, elements inside, and its own text. */
export interface Element {
  name: string
  attributes: Readonly<Record<string, string>>
  children: readonly Element[]
  text: string
}

export type XmlRead = { ok: true; root: Element } | { ok: false; line: number; message: string }

const MOST_CHARACTERS = 8_000_000
const MOST_DEPTH = 40
const MOST_ELEMENTS = 200_000
/** Of one tag with its attributes, in characters. */
const MOST_TAG = 20_000

const lineOf = (text: string, index: number): number => text.slice(0, index).split('\n').length

interface Danger {
  line: number
  message: string
}

/** What begins with `opens` ends with the first `ends` after it. */
const SECTIONS = [
  { opens: '<!--', ends: '-->', name: 'a comment' },
  { opens: '<![CDATA[', ends: ']]>', name: 'a CDATA section' },
  { opens: '<?', ends: '?>', name: 'an instruction' },
  { opens: '<!', ends: '>', name: 'a declaration' },
  { opens: '<', ends: '>', name: 'a tag' },
] as const

/**
 * What makes a document unsafe to read at all: entities of its own, elements without end inside one another. Goes through
 * the text once.
 */
function dangerIn(text: string): Danger | null {
  let [depth, elements, doctypes] = [0, 0, 0]
  let next = 0
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', next)) {
    const dangerous = (message: string): Danger => ({ line: lineOf(text, at), message })
    const section = SECTIONS.find(({ opens }) => text.startsWith(opens, at)) ?? SECTIONS[4]
    const end = text.indexOf(section.ends, at + section.opens.length)
    if (end < 0) return dangerous(`it breaks off here, in the middle of ${section.name}`)
    next = end + section.ends.length
    if (section.opens === '<!') {
      const declared = text.slice(at, end)
      const entity = declared.search(/<!ENTITY/i)
      if (entity >= 0)
        return {
          line: lineOf(text, at + entity),
          message: 'it declares entities of its own, which are not read: take them out',
        }
      if (declared.includes('['))
        return dangerous('it brings rules of its own in its DOCTYPE: take the part in [ ] out')
      if (++doctypes > 1) return dangerous('it has more than one DOCTYPE')
    }
    if (section.opens !== '<') continue
    if (end - at > MOST_TAG) return dangerous(`a tag here has more than ${MOST_TAG} characters`)
    if (text[at + 1] === '/') depth--
    else {
      elements++
      if (text[end - 1] !== '/') depth++
    }
    if (depth > MOST_DEPTH) return dangerous(`its elements lie more than ${MOST_DEPTH} deep in one another`)
    if (elements > MOST_ELEMENTS) return dangerous(`it has more than ${MOST_ELEMENTS} elements`)
  }
  return null
}

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: true,
  ignoreDeclaration: true,
  ignorePiTags: true,
  processEntities: true,
})

type Node = Record<string, unknown> & { ':@'?: Record<string, string> }

function elementsIn(nodes: readonly Node[]): Element[] {
  return nodes.flatMap((node): Element[] => {
    const name = Object.keys(node).find((key) => key !== ':@')
    if (name === undefined || name === '#text') return []
    const inside = Array.isArray(node[name]) ? (node[name] as Node[]) : []
    const text = inside.map((each) => each['#text'] ?? '').join('')
    return [{ name, attributes: node[':@'] ?? {}, children: elementsIn(inside), text }]
  })
}

/**
 * Read an XML document (XML 1.0) into plain elements. Refused with its line: what is not well formed, larger than
 * 8 MB, nested deeper than 40, or brings entities of its own.
 */
export function readXml(source: string): XmlRead {
  const text = source.replace(/^\ufeff/, '')
  const refused = (line: number, why: string): XmlRead => ({
    ok: false,
    line,
    message: `Line ${line}: ${why}.`,
  })
  if (text.length > MOST_CHARACTERS) return refused(1, 'it is larger than 8 MB')
  const danger = dangerIn(text)
  if (danger) return refused(danger.line, danger.message)
  const valid = XMLValidator.validate(text)
  if (valid !== true) return refused(valid.err.line, valid.err.msg.replace(/\.$/, ''))
  // The validator lets some documents through that break off in the middle of a tag.
  try {
    const [root] = elementsIn(parser.parse(text) as Node[])
    return root ? { ok: true, root } : refused(1, 'there is nothing in it')
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error)
    const at = Number(/position (\d+)/.exec(why)?.[1] ?? text.length)
    return refused(lineOf(text, at), 'it breaks off here, in the middle of a tag')
  }
}
