import type * as z from 'zod/mini'
import { layerKind } from '../layers'
import { FORMAT, type Layer, type Loop, MAX_DEPTH, VERSION } from './document'
import { migrated } from './migrate'
import { changedSchema, loopSchema, REPORTED, statesSchema } from './schema'

/** The largest project file that is read, in characters. */
export const MAX_FILE = 32 * 1024 * 1024

/** A place in the document and what is wrong there. */
export interface FileFault {
  /** As one would write it in code: `layers[0].motions.rotation.keys[1].at`; empty for the whole file. */
  readonly path: string
  readonly message: string
}

/** A project file that cannot be opened: what is wrong where, and what can be done about it. */
export class LoopFileError extends Error {
  override readonly name = 'LoopFileError'
  readonly faults: readonly FileFault[]
  readonly advice: string
  constructor(message: string, advice: string, faults: readonly FileFault[] = []) {
    super(message)
    this.advice = advice
    this.faults = faults
  }
}

/** A layer as it is written: values that its kind has by default go without saying. */
function writtenLayer(layer: Layer): unknown {
  const { properties } = layerKind(layer.kind)
  const said = Object.entries(layer.values).filter(
    ([name, value]) => JSON.stringify(value) !== JSON.stringify(properties[name]?.default),
  )
  return {
    ...layer,
    values: Object.fromEntries(said),
    ...(layer.layers ? { layers: layer.layers.map(writtenLayer) } : {}),
  }
}

/** A list of nothing but numbers, each in a line of its own: it goes into one line. No string has a line break in it. */
const NUMBERS = /\[\n\s+-?[\d.e+-]+(?:,\n\s+-?[\d.e+-]+)*\n\s+\]/g

/**
 * The text of a `.cyclon.json` file. Values that are the default of the file's version are left out.
 * @throws LoopFileError where it would be longer than a file that can be read again
 */
export function formatLoop(loop: Loop): string {
  const loops = loop.loops.map((inner) => ({ ...inner, layers: inner.layers.map(writtenLayer) }))
  const spread = JSON.stringify({ ...loop, layers: loop.layers.map(writtenLayer), loops }, null, 2)
  const text = `${spread.replace(NUMBERS, (list) => list.replace(/\s+/g, ' '))}\n`
  if (text.length > MAX_FILE)
    throw new LoopFileError(
      `The loop would make a file of ${Math.ceil(text.length / 1024 / 1024)} MB; files of up to ${MAX_FILE / 1024 / 1024} MB can be opened again.`,
      'Take out layers or keys that it does not need, or thin the motions that were recorded.',
    )
  return text
}

/** Why a state of the open document could not be opened again, in words; null where it could. Parts that were found sound are not looked at again. */
export function unopenable(loop: Loop): string | null {
  const result = changedSchema.safeParse(loop, REPORTED)
  if (result.success) return null
  const [first] = result.error.issues.flatMap((issue) => plainFaults(issue))
  return `The field ${first?.path || 'at the top'} ${said(first?.message ?? 'cannot be read')}`
}

/**
 * Content of a `.cyclon.json` file, unchecked.
 * @throws LoopFileError if the text is empty, huge, nested too deeply or not JSON
 */
export function parsedJson(text: string): unknown {
  if (text.trim() === '') throw new LoopFileError('The file is empty.', 'Choose another copy of the file.')
  if (text.length > MAX_FILE)
    throw new LoopFileError(
      `The file is larger than ${MAX_FILE / 1024 / 1024} MB, which no loop needs.`,
      'Check that it is a .cyclon.json file and not something else renamed.',
    )
  if (nesting(text) > 6 * MAX_DEPTH)
    throw new LoopFileError('The file nests its parts too deeply.', `Groups may stand ${MAX_DEPTH} deep at most.`)
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    const cut = /^\s*[[{]/.test(text) && !/[\]}]\s*$/.test(text)
    throw new LoopFileError(
      cut ? 'The file breaks off before its end.' : 'The file is not valid JSON.',
      `It may not have been saved or copied completely; try another copy. (${(error as Error).message})`,
    )
  }
  return data
}

/**
 * The loop in the text of a `.cyclon.json` file whose files, if it has any, lie beside it. Every number is read back as it was written.
 * @throws LoopFileError when the text is empty, huge, broken, of a newer version, or a field in it is wrong.
 */
export const parseLoop = (text: string): Loop => readLoop(parsedJson(text))

/**
 * The loop in data that came from outside, such as a stored document.
 * @throws LoopFileError as parseLoop does.
 */
export const readLoop = (data: unknown): Loop => readWith(loopSchema, migrated(data, NOTHING))

/**
 * Several states of one loop, such as its history. Layers that they share as one object are read once and shared again.
 * @throws LoopFileError when any of them cannot be read.
 */
export function readStates(states: readonly unknown[]): Loop[] {
  const schema = statesSchema()
  return states.map((state) => readWith(schema, migrated(state, NOTHING)))
}

/** Files of older versions are read by readProject; here they are lost. */
const NOTHING: Parameters<typeof migrated>[1] = new Map()

function readWith(schema: typeof loopSchema, data: unknown): Loop {
  const { format, version } = (typeof data === 'object' && data !== null ? data : {}) as Record<string, unknown>
  if (format !== FORMAT)
    throw new LoopFileError('This is not a Cyclon loop.', `A loop file says "format": "${FORMAT}" at its top.`)
  if (typeof version === 'number' && version > VERSION)
    throw new LoopFileError(
      `The file was saved by a newer Cyclon (file version ${version}; this one reads up to ${VERSION}).`,
      'Open it with that version, or update this one. The file was left as it is.',
    )
  const result = schema.safeParse(data, REPORTED)
  if (result.success) return result.data as unknown as Loop
  const faults = result.error.issues.flatMap((issue) => plainFaults(issue))
  const [first] = faults
  const more = faults.length > 1 ? ` (and ${faults.length - 1} more)` : ''
  throw new LoopFileError(
    `The field ${first?.path || 'at the top'} ${said(first?.message ?? 'cannot be read')}${more}.`,
    'Put that field right in a text editor, or save the loop again.',
    faults,
  )
}

/** The message in a form that continues a sentence after the name of the field. */
const said = (message: string): string =>
  /^(is|are|has|have|hold|holds|lies|names|cannot) /.test(message) ? message : `is wrong: ${message}`

type Issue = z.core.$ZodIssue

/** The issues of the alternative that the data came nearest to, where a union refused it. */
function plainFaults(issue: Issue): FileFault[] {
  return deepIssues(issue, []).map(({ path, message }) => ({ path: pathText(path), message }))
}

function deepIssues(issue: Issue, base: readonly PropertyKey[]): { path: PropertyKey[]; message: string }[] {
  const path = [...base, ...issue.path]
  if (issue.code === 'invalid_union' && issue.errors.length > 0) {
    const nearest = [...issue.errors].sort((a, b) => faultDistance(a) - faultDistance(b))[0] as Issue[]
    return nearest.flatMap((inner) => deepIssues(inner, path))
  }
  if (issue.code === 'invalid_key') return issue.issues.flatMap((inner) => deepIssues(inner, path))
  if (issue.code === 'unrecognized_keys')
    return issue.keys.map((key) => ({ path: [...path, key], message: 'is not a field that belongs here' }))
  return [{ path, message: wordsOf(issue) }]
}

const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  object: 'an object in braces',
  record: 'an object in braces',
  array: 'a list in square brackets',
}

/** Words for the fault of a field: what was expected there. Rules of our own bring their own words. */
function wordsOf(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type': {
      const kind = KINDS[issue.expected] ?? `a ${issue.expected}`
      return issue.input === undefined ? `is missing; ${kind} is expected there` : `is not ${kind}`
    }
    case 'too_small':
      return issue.origin === 'array' || issue.origin === 'string'
        ? `is too short: at least ${issue.minimum} ${issue.origin === 'array' ? 'entries' : 'letters'}`
        : `is too little: at least ${issue.minimum}`
    case 'too_big':
      return issue.origin === 'array' || issue.origin === 'string'
        ? `is too long: up to ${issue.maximum} ${issue.origin === 'array' ? 'entries' : 'letters'}`
        : `is too much: up to ${issue.maximum}`
    case 'invalid_value':
      return `is none of ${issue.values.map((value) => `“${String(value)}”`).join(', ')}`
    case 'invalid_format':
      return issue.format === 'base64' ? 'is no file in base64' : issue.message
    case 'invalid_union':
      return 'is of no kind that there is'
    default:
      return issue.message
  }
}

/** How far off an alternative is: one that misses or adds fields is further than one whose field has a bad value. */
const faultDistance = (issues: readonly Issue[]): number =>
  issues.reduce((sum, issue) => sum + (issue.code === 'unrecognized_keys' ? 10 : 1), 0)

const pathText = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, part) => (typeof part === 'number' ? `${text}[${part}]` : `${text}${text && '.'}${String(part)}`),
    '',
  )

/** How deep brackets nest, strings left out. */
function nesting(text: string): number {
  let depth = 0
  let deepest = 0
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (quoted) {
      if (c === 92) i++
      else if (c === 34) quoted = false
    } else if (c === 34) quoted = true
    else if (c === 123 || c === 91) deepest = Math.max(deepest, ++depth)
    else if (c === 125 || c === 93) depth--
  }
  return deepest
}
