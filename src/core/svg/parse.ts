import { XMLParser } from 'fast-xml-parser'

/** An element of an XML document. */
export interface Element {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: readonly Element[]
  /** Of an element that holds words: all text in it, in order; empty for others. */
  readonly text: string
}

const CDATA = '#cdata'
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  cdataPropName: CDATA,
  // Entities of a document's own could stand for anything, and for a million times as much.
  processEntities: false,
})

type Raw = { readonly [key: string]: unknown }

const MAX_DEPTH = 200
/** Elements whose text is looked at, with what stands inside them. */
const WORDED = ['text', 'tspan', 'textPath', 'a', 'style', 'title']

const NAMED: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

/** The text that character references stand for: the five that XML knows by name, and numbers (XML 1.0, § 4.1 and 4.6). */
const decoded = (text: string): string =>
  text.includes('&')
    ? text.replaceAll(/&(?:#(\d{1,7})|#x([0-9a-fA-F]{1,6})|([a-z]{2,4}));/g, (whole, decimal, hex, name) => {
        if (name) return NAMED[name] ?? whole
        const code = decimal ? Number(decimal) : Number.parseInt(hex, 16)
        return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole
      })
    : text

/** The name of a raw node. */
const nameOf = (raw: Raw): string | undefined => Object.keys(raw).find((key) => key !== ':@')

function elementOf(raw: Raw, depth: number): Element | null {
  const written = nameOf(raw)
  if (!written || /^[#?!]/.test(written) || depth > MAX_DEPTH) return null
  const name = written.replace(/^svg:/, '')
  const worded = WORDED.includes(name)
  const children: Element[] = []
  let text = ''
  for (const each of Array.isArray(raw[written]) ? (raw[written] as Raw[]) : []) {
    if (typeof each['#text'] === 'string') {
      if (worded) text += decoded(each['#text'])
      continue
    }
    if (worded && Array.isArray(each[CDATA])) text += String((each[CDATA] as Raw[])[0]?.['#text'] ?? '')
    const child = elementOf(each, depth + 1)
    if (!child) continue
    children.push(child)
    if (worded) text += child.text
  }
  const attributes = Object.fromEntries(
    Object.entries((raw[':@'] ?? {}) as Raw).map(([key, value]) => [key, decoded(String(value))]),
  )
  return { name, attributes, children, text }
}

/** The root element of an XML text; null where there is none, or the text is broken. */
export function parseXml(text: string): Element | null {
  try {
    const nodes = parser.parse(text) as Raw[]
    for (const node of nodes) {
      const element = elementOf(node, 0)
      if (element) return element
    }
    return null
  } catch {
    return null
  }
}
