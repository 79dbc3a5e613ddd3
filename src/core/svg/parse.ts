import { XMLParser } from 'fast-xml-parser'

/** An element of an XML document. */
export interface Element {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: readonly Element[]
  /** All text in it, in order. */
  readonly text: string
}

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: false,
  // Entities of a document's own could stand for anything, and for a million times as much.
  processEntities: false,
})

type Raw = { readonly [key: string]: unknown }

const DEEPEST = 200

function elementOf(raw: Raw, depth: number): Element | null {
  const name = Object.keys(raw).find((key) => key !== ':@')
  if (!name || name === '#text' || name.startsWith('?') || name.startsWith('!') || depth > DEEPEST) return null
  const inner = Array.isArray(raw[name]) ? (raw[name] as Raw[]) : []
  const children = inner.flatMap((each) => elementOf(each, depth + 1) ?? [])
  const text = inner
    .map((each) => (typeof each['#text'] === 'string' ? each['#text'] : (elementOf(each, depth + 1)?.text ?? '')))
    .join('')
  const attributes = Object.fromEntries(
    Object.entries((raw[':@'] ?? {}) as Raw).map(([key, value]) => [key, String(value)]),
  )
  return { name: name.replace(/^svg:/, ''), attributes, children, text }
}

/** The root element of an XML text; null where there is none, or the text is broken. */
export function parseXml(text: string): Element | null {
  try {
    const nodes = parser.parse(text) as Raw[]
    return nodes.flatMap((node) => elementOf(node, 0) ?? [])[0] ?? null
  } catch {
    return null
  }
}
