import { z } from 'zod'
import { LARGEST_NUMBER } from '../bounds'
import { type Fraction, fraction, MAX_LENGTH, MAX_RATE } from '../clock'
import { isColour } from '../colour'
import { LAYER_KINDS, type LayerKind, type Property, type Values } from '../layers'
import { AFTER_EACH_CYCLE, type Motion, parseEase } from '../motion'

export const FORMAT = 'cyclon-loop'
/** The version that is written. Older ones are migrated, newer ones refused. */
export const VERSION = 1
export const LOOP_KINDS = ['loader', 'texture', 'cinemagraph', 'turntable'] as const
export const MAX_SIZE = 8192
/** So many groups may stand one in the other. */
export const MAX_DEPTH = 24
export const LONGEST_NAME = 200
export const MAX_LAYERS = 4000

/** A layer: a kind, the values of its properties, and the motions of those that move. Children draw back to front. */
export interface Layer {
  readonly id: string
  readonly kind: string
  readonly name: string
  readonly hidden: boolean
  readonly locked: boolean
  readonly values: Values
  readonly motions: Readonly<Record<string, Motion>>
  /** Only in kinds that hold layers. */
  readonly layers?: readonly Layer[]
}

/** The document: a function on a ring of `length` frames. Layers draw back to front. */
export interface Loop {
  readonly format: typeof FORMAT
  readonly version: typeof VERSION
  readonly id: string
  readonly name: string
  readonly kind: (typeof LOOP_KINDS)[number]
  /** px */
  readonly width: number
  readonly height: number
  /** A CSS colour; null is transparent. */
  readonly background: string | null
  /** Frames per second, in lowest terms. */
  readonly rate: Fraction
  /** Frames; frame `length` is the closing frame, which equals frame 0. */
  readonly length: number
  readonly layers: readonly Layer[]
}

const coordinate = z.number().min(-LARGEST_NUMBER).max(LARGEST_NUMBER)
const colour = z.string().refine(isColour, 'is not a CSS colour such as #f2b54a or rgb(242 181 74 / 0.5)')
const ease = z
  .string()
  .max(200)
  .refine((text) => parseEase(text) !== null, 'is not a CSS easing function, nor “hold”')
const name = z.string().max(LONGEST_NAME)
const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/, 'is not an id: 1 to 64 letters, digits, - or _')

function valueSchema(property: Property) {
  switch (property.type) {
    case 'number': {
      const number = property.whole ? z.int() : z.number()
      return number.min(property.min ?? -LARGEST_NUMBER).max(property.max ?? LARGEST_NUMBER)
    }
    case 'colour':
      return colour.nullable()
    case 'choice':
      return z.enum(property.options as [string, ...string[]])
    case 'numbers':
      return z.array(z.number().min(0).max(1e6)).max(property.most)
  }
}

const period = z.union([
  z.strictObject({ cycles: z.int().min(1).max(MAX_LENGTH) }),
  z.strictObject({ frames: z.number().min(0.01).max(1e6) }),
])

const motionSchema = (property: Property) =>
  z
    .strictObject({
      keys: z
        .array(
          z.strictObject({
            at: z.number().min(0).max(1),
            value: property.type === 'colour' ? colour : coordinate,
            ease,
          }),
        )
        .min(1)
        .max(10_000),
      after: z.enum(AFTER_EACH_CYCLE),
      period,
      phase: z.number().min(0).max(1),
    })
    .superRefine(({ keys, after }, context) => {
      const refuse = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message })
      for (const [i, key] of keys.entries())
        if (i > 0 && key.at <= (keys[i - 1]?.at ?? 0)) refuse(['keys', i, 'at'], 'keys must lie one after the other')
      if (after === 'repeat' && (keys.at(-1)?.at ?? 0) >= 1)
        refuse(['keys', keys.length - 1, 'at'], 'in “repeat” the closing value is the first key’s: a key lies before 1')
      if (after === 'accumulate' && property.type === 'colour') refuse(['after'], 'a colour cannot accumulate')
    })

const layerSchema = (kind: LayerKind) => {
  const entries = Object.entries(kind.properties)
  const moving = entries.filter(([, property]) => property.moves)
  return z.strictObject({
    id,
    kind: z.literal(kind.kind),
    name,
    hidden: z.boolean(),
    locked: z.boolean(),
    values: z.strictObject(Object.fromEntries(entries.map(([key, property]) => [key, valueSchema(property)]))),
    motions: z.strictObject(
      Object.fromEntries(moving.map(([key, property]) => [key, motionSchema(property).optional()])),
    ),
    ...(kind.holdsLayers ? { layers: z.lazy((): z.ZodType => z.array(anyLayer)) } : {}),
  })
}

const schemas = LAYER_KINDS.map(layerSchema)
const anyLayer: z.ZodType = z.discriminatedUnion('kind', schemas as unknown as [(typeof schemas)[number]])

const documentSchema = (layer: z.ZodType) =>
  z
    .strictObject({
      format: z.literal(FORMAT),
      version: z.literal(VERSION),
      id,
      name,
      kind: z.enum(LOOP_KINDS),
      width: z.int().min(1).max(MAX_SIZE),
      height: z.int().min(1).max(MAX_SIZE),
      background: colour.nullable(),
      rate: z
        .strictObject({ num: z.int().min(1), den: z.int().min(1) })
        .refine(({ num, den }) => num / den <= MAX_RATE, `is above ${MAX_RATE} frames per second`)
        .refine(({ num, den }) => fraction(num, den).den === den, 'is not in lowest terms'),
      length: z.int().min(1).max(MAX_LENGTH),
      layers: z.array(layer),
    })
    .superRefine((loop, context) => {
      const seen = new Set<string>()
      const visit = (layers: readonly Layer[], path: (string | number)[], depth: number) => {
        if (layers.length > 0 && depth > MAX_DEPTH)
          context.addIssue({ code: 'custom', path, message: `lies in more than ${MAX_DEPTH} groups` })
        for (const [i, layer] of layers.entries()) {
          if (seen.has(layer.id))
            context.addIssue({ code: 'custom', path: [...path, i, 'id'], message: 'another layer has this id' })
          seen.add(layer.id)
          visit(layer.layers ?? [], [...path, i, 'layers'], depth + 1)
        }
      }
      visit(loop.layers as Layer[], ['layers'], 0)
      if (seen.size > MAX_LAYERS)
        context.addIssue({ code: 'custom', path: ['layers'], message: `holds more than ${MAX_LAYERS} layers` })
    })

/** The schema of a document of the current version; `docs/loop.schema.json` is made from it. */
export const loopSchema = documentSchema(anyLayer)

/**
 * A schema for several states of one document: a layer that they share, as one and the same object, is checked once and
 * shared again by what comes out.
 */
export function statesSchema() {
  const known = new WeakMap<object, unknown>()
  const layer = z.unknown().transform((raw, context) => {
    const found = typeof raw === 'object' && raw !== null ? known.get(raw) : undefined
    if (found) return found
    const result = anyLayer.safeParse(raw)
    if (!result.success) {
      context.addIssue({ code: 'custom', message: 'is not a layer' })
      return z.NEVER
    }
    known.set(raw as object, result.data)
    return result.data
  })
  return documentSchema(layer)
}

/** The JSON Schema (draft 2020-12) of a document of the current version; rules between fields are left out of it. */
export const loopJsonSchema = () => z.toJSONSchema(loopSchema, { unrepresentable: 'any' })
