import { z } from 'zod'
import { LARGEST_NUMBER } from '../bounds'
import { type Fraction, fraction, MAX_LENGTH, MAX_RATE } from '../clock'
import { colourName, isColour } from '../colour'
import { LAYER_KINDS, type LayerKind, type Property, type Values } from '../layers'
import { AFTER_EACH_CYCLE, type Motion, type MotionEvent, parseEase, type Tremble } from '../motion'
import { LONGEST_PATH, parsePath } from '../path'

export const FORMAT = 'cyclon-loop'
/** The version that is written. Older ones are migrated, newer ones refused. */
export const VERSION = 2
export const LOOP_KINDS = ['loader', 'texture', 'cinemagraph', 'turntable'] as const
export const MAX_SIZE = 8192
/** So many groups may stand one in the other. */
export const MAX_DEPTH = 24
export const LONGEST_NAME = 200
export const MAX_LAYERS = 4000
/** As a loop begins: frames are sharp; eight samples where they are not. */
export const NO_BLUR: FrameBlur = { shutter: 0, samples: 8 }

/** A layer: a kind, the values of its properties, and the motions of those that move. Children draw back to front. */
export interface Layer {
  readonly id: string
  readonly kind: string
  readonly name: string
  readonly hidden: boolean
  readonly locked: boolean
  readonly values: Values
  readonly motions: Readonly<Record<string, Motion>>
  /** Irregularity that is added to properties, and what they are for a few frames now and then. */
  readonly trembles?: Readonly<Record<string, Tremble>>
  readonly events?: Readonly<Record<string, MotionEvent>>
  /** Only in kinds that hold layers. */
  readonly layers?: readonly Layer[]
}

/** A colour that layers use by its name. */
export interface NamedColour {
  /** Lower-case letters, digits and hyphens, as in a CSS custom property. */
  readonly name: string
  readonly colour: string
}

/** A loop that is placed in this one, or in another of those placed in it. */
export interface InnerLoop {
  readonly id: string
  readonly name: string
  readonly width: number
  readonly height: number
  readonly background: string | null
  readonly rate: Fraction
  readonly length: number
  readonly layers: readonly Layer[]
}

/** A still picture, as it came. */
export interface StillPicture {
  readonly id: string
  readonly name: string
  readonly type: (typeof PICTURE_TYPES)[number]
  readonly width: number
  readonly height: number
  /** The file, in base64. */
  readonly data: string
}
export const PICTURE_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const
/** The largest picture that a document holds, bytes of its file. */
export const LARGEST_PICTURE = 8 * 1024 * 1024

/** Sub-frame samples of every frame. */
export interface FrameBlur {
  /** How long the shutter is open, as an angle: 360° is a whole frame, 0 is none. */
  readonly shutter: number
  readonly samples: number
}

/** What a variant changes of the loop that it is linked to. */
export interface VariantChange {
  /** Named colours that are other ones here. */
  readonly palette: Readonly<Record<string, string>>
  /** Whole number of times as fast, by cycles. */
  readonly faster: number
  /** Whole number of times as long, by frames: as much slower. */
  readonly longer: number
  readonly reversed: boolean
  /** Shift of all motions along the loop, a share of it, 0 … 1. */
  readonly phase: number
}
export interface VariantOf extends VariantChange {
  /** Id of the source in the library. */
  readonly id: string
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
  readonly blur: FrameBlur
  readonly palette: readonly NamedColour[]
  /** Loops that layers of kind `loop` place; none of them is placed in itself. */
  readonly loops: readonly InnerLoop[]
  readonly pictures: readonly StillPicture[]
  /** Present in a variant that still follows its source. */
  readonly variantOf?: VariantOf
}

const coordinate = z.number().min(-LARGEST_NUMBER).max(LARGEST_NUMBER)
const plainColour = z.string().refine(isColour, 'is not a CSS colour such as #f2b54a or rgb(242 181 74 / 0.5)')
const colour = z
  .string()
  .refine((text) => isColour(text) || colourName(text) !== null, 'is not a CSS colour, nor a named one as var(--lamp)')
const colourNames = z.string().refine((text) => colourName(`var(--${text})`) !== null, 'is not a name such as deep-sea')
const ease = z
  .string()
  .max(200)
  .refine((text) => parseEase(text) !== null, 'is not a CSS easing function, nor “hold”')
const name = z.string().max(LONGEST_NAME)
const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/, 'is not an id: 1 to 64 letters, digits, - or _')

const moving = z.union([coordinate, colour])

/** A schema made once for each key, so that the published one says it once. */
function once<K extends string | object>(make: (key: K) => z.ZodType): (key: K) => z.ZodType {
  const made = new Map<K, z.ZodType>()
  return (key) => {
    const schema = made.get(key) ?? make(key)
    made.set(key, schema)
    return schema
  }
}

const propertySchema = once((property: Property) => valueSchema(property).default(property.default))

function valueSchema(property: Property): z.ZodType {
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
    case 'text':
      return z.string().max(property.most)
    case 'path':
      return z
        .string()
        .max(LONGEST_PATH)
        .refine((data) => parsePath(data) !== null, 'is not SVG path data such as M0 0L40 20')
    case 'reference':
      return z.union([z.literal(''), id])
    case 'changes':
      return z.array(z.strictObject({ property: z.string().regex(/^[A-Za-z]{1,40}$/), to: moving })).max(40)
  }
}

const tremble = z.strictObject({
  amount: coordinate,
  detail: z.int().min(1).max(1000),
  cycles: z.int().min(1).max(MAX_LENGTH),
  seed: z.int().min(0).max(9999),
  phase: z.number().min(0).max(1),
})

const eventSchema = once((type: Property['type']) =>
  z.strictObject({
    value: type === 'colour' ? colour : coordinate,
    frames: z.number().min(0.01).max(MAX_LENGTH),
    at: z.array(z.number().min(0).max(1)).min(1).max(64),
    cycles: z.int().min(1).max(MAX_LENGTH),
  }),
)

const period = z.union([
  z.strictObject({ cycles: z.int().min(1).max(MAX_LENGTH) }),
  z.strictObject({ frames: z.number().min(0.01).max(1e6) }),
])

const motionSchema = once((type: Property['type']) =>
  z
    .strictObject({
      keys: z
        .array(
          z.strictObject({
            at: z.number().min(0).max(1),
            value: type === 'colour' ? colour : coordinate,
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
      if (after === 'accumulate' && type === 'colour') refuse(['after'], 'a colour cannot accumulate')
    }),
)

const layerSchema = (kind: LayerKind) => {
  const entries = Object.entries(kind.properties)
  const moves = entries.filter(([, property]) => property.moves)
  const each = (schema: (property: Property) => z.ZodType, those = moves) =>
    z.strictObject(Object.fromEntries(those.map(([key, property]) => [key, schema(property).optional()])))
  return z.strictObject({
    id,
    kind: z.literal(kind.kind),
    name,
    hidden: z.boolean(),
    locked: z.boolean(),
    values: z.strictObject(Object.fromEntries(entries.map(([key, property]) => [key, propertySchema(property)]))),
    motions: each(({ type }) => motionSchema(type)),
    trembles: each(
      () => tremble,
      moves.filter(([, property]) => property.type === 'number'),
    ).optional(),
    events: each(({ type }) => eventSchema(type)).optional(),
    ...(kind.holdsLayers ? { layers: z.lazy((): z.ZodType => z.array(anyLayer)) } : {}),
  })
}

const schemas = LAYER_KINDS.map(layerSchema)
const anyLayer: z.ZodType = z.discriminatedUnion('kind', schemas as unknown as [(typeof schemas)[number]])

const size = z.int().min(1).max(MAX_SIZE)
const rate = z
  .strictObject({ num: z.int().min(1), den: z.int().min(1) })
  .refine(({ num, den }) => num / den <= MAX_RATE, `is above ${MAX_RATE} frames per second`)
  .refine(({ num, den }) => fraction(num, den).den === den, 'is not in lowest terms')
const length = z.int().min(1).max(MAX_LENGTH)

const pictureSchema = z.strictObject({
  id,
  name,
  type: z.enum(PICTURE_TYPES),
  width: z
    .int()
    .min(1)
    .max(4 * MAX_SIZE),
  height: z
    .int()
    .min(1)
    .max(4 * MAX_SIZE),
  data: z.base64().max(Math.ceil((LARGEST_PICTURE * 4) / 3) + 4),
})

const variantSchema = z.strictObject({
  id,
  palette: z.record(colourNames, plainColour),
  faster: z.int().min(1).max(1000),
  longer: z.int().min(1).max(1000),
  reversed: z.boolean(),
  phase: z.number().min(0).max(1),
})

type Refuse = (path: (string | number)[], message: string) => void

/** The rules that hold between the parts of a document. */
function checkDocument(loop: Loop, refuse: Refuse) {
  const named = new Set(loop.palette.map(({ name }) => name))
  if (named.size < loop.palette.length) refuse(['palette'], 'two colours have one name')
  const inner = new Map(loop.loops.map((each) => [each.id, each]))
  if (inner.size < loop.loops.length) refuse(['loops'], 'two loops have one id')
  const pictures = new Set(loop.pictures.map((each) => each.id))
  checkTree(loop.layers, ['layers'], refuse)
  for (const [i, { layers }] of loop.loops.entries()) checkTree(layers, ['loops', i, 'layers'], refuse)
  const known = { loop: inner, picture: pictures }
  const within = (layers: readonly Layer[], path: (string | number)[]) => {
    for (const [i, layer] of layers.entries()) {
      for (const to of ['loop', 'picture'] as const) {
        const reference = layer.kind === to ? String(layer.values[to]) : ''
        if (reference && !known[to].has(reference))
          refuse([...path, i, 'values', to], `names a ${to} that the document does not hold`)
      }
      within(layer.layers ?? [], [...path, i, 'layers'])
    }
  }
  within(loop.layers, ['layers'])
  for (const [i, { layers }] of loop.loops.entries()) within(layers, ['loops', i, 'layers'])
  const around = loop.loops.find(({ id }) => reaches(id, id, inner))
  if (around) refuse(['loops'], `“${around.name}” is placed in itself`)
}

/** Ids of the loops that layers place. */
export const placedIn = (layers: readonly Layer[]): string[] =>
  layers.flatMap((layer) => [
    ...(layer.kind === 'loop' && layer.values.loop ? [String(layer.values.loop)] : []),
    ...placedIn(layer.layers ?? []),
  ])

/** Whether a loop places another one, by way of others or not. */
export function reaches(from: string, to: string, loops: ReadonlyMap<string, Pick<InnerLoop, 'layers'>>): boolean {
  const seen = new Set<string>()
  const ahead = [...placedIn(loops.get(from)?.layers ?? [])]
  for (let next = ahead.pop(); next !== undefined; next = ahead.pop()) {
    if (next === to) return true
    if (seen.has(next)) continue
    seen.add(next)
    ahead.push(...placedIn(loops.get(next)?.layers ?? []))
  }
  return false
}

function checkTree(layers: readonly Layer[], at: (string | number)[], refuse: Refuse) {
  const seen = new Set<string>()
  const visit = (siblings: readonly Layer[], path: (string | number)[], depth: number) => {
    if (siblings.length > 0 && depth > MAX_DEPTH) refuse(path, `lies in more than ${MAX_DEPTH} groups`)
    for (const [i, layer] of siblings.entries()) {
      if (seen.has(layer.id)) refuse([...path, i, 'id'], 'another layer has this id')
      seen.add(layer.id)
      visit(layer.layers ?? [], [...path, i, 'layers'], depth + 1)
    }
  }
  visit(layers, at, 0)
  if (seen.size > MAX_LAYERS) refuse(at, `holds more than ${MAX_LAYERS} layers`)
}

const documentSchema = (layer: z.ZodType) =>
  z
    .strictObject({
      format: z.literal(FORMAT),
      version: z.literal(VERSION),
      id,
      name,
      kind: z.enum(LOOP_KINDS),
      width: size,
      height: size,
      background: colour.nullable(),
      rate,
      length,
      layers: z.array(layer),
      blur: z.strictObject({ shutter: z.number().min(0).max(720), samples: z.int().min(2).max(64) }).default(NO_BLUR),
      palette: z
        .array(z.strictObject({ name: colourNames, colour: plainColour }))
        .max(64)
        .default([]),
      loops: z
        .array(
          z.strictObject({
            id,
            name,
            width: size,
            height: size,
            background: colour.nullable(),
            rate,
            length,
            layers: z.array(layer),
          }),
        )
        .max(200)
        .default([]),
      pictures: z.array(pictureSchema).max(200).default([]),
      variantOf: variantSchema.optional(),
    })
    .superRefine((loop, context) =>
      checkDocument(loop as unknown as Loop, (path, message) => context.addIssue({ code: 'custom', path, message })),
    )

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
export const loopJsonSchema = () => z.toJSONSchema(loopSchema, { unrepresentable: 'any', io: 'input', reused: 'ref' })
