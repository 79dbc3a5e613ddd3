import { z } from 'zod'
import { LARGEST_NUMBER } from '../bounds'
import { fraction, MAX_LENGTH, MAX_RATE } from '../clock'
import { colourName, isColour } from '../colour'
import { LAYER_KINDS, type LayerKind, LONGEST_DASH, type Property } from '../layers'
import { AFTER_EACH_CYCLE, parseEase } from '../motion'
import { LONGEST_PATH, parsePath } from '../path'
import {
  FORMAT,
  LARGEST_PICTURE,
  LARGEST_SIDE,
  LONGEST_NAME,
  LOOP_KINDS,
  type Loop,
  MAX_SIZE,
  MOST_CLIP_FRAMES,
  MOST_CLIPS,
  MOST_PICTURES,
  NO_BLUR,
  PICTURE_TYPES,
  VERDICTS,
  VERSION,
} from './document'
import { checkDocument } from './document-rules'

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
      return z.array(z.number().min(0).max(LONGEST_DASH)).max(property.most)
    case 'text':
      return z.string().max(property.most)
    case 'path':
      return z
        .string()
        .max(LONGEST_PATH)
        .refine((data) => parsePath(data) !== null, 'is not SVG path data such as M0 0L40 20')
    case 'reference':
      return z.union([z.literal(''), id])
    case 'stops':
      return z.array(z.strictObject({ at: z.number().min(0).max(1), colour })).max(property.most)
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
  backwards: z.literal(true).optional(),
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
  const each = (schema: (property: Property) => z.ZodType) =>
    z.strictObject(Object.fromEntries(moves.map(([key, property]) => [key, schema(property).optional()])))
  return z.strictObject({
    id,
    kind: z.literal(kind.kind),
    name,
    hidden: z.boolean(),
    locked: z.boolean(),
    values: z.strictObject(Object.fromEntries(entries.map(([key, property]) => [key, propertySchema(property)]))),
    motions: each(({ type }) => motionSchema(type)),
    trembles: each(() => tremble).optional(),
    events: each(({ type }) => eventSchema(type)).optional(),
    ...(kind.holdsLayers ? { layers: z.lazy((): z.ZodType => z.array(anyLayer)) } : {}),
  })
}

const schemas = LAYER_KINDS.map(layerSchema)
const anyLayer: z.ZodType = z.discriminatedUnion('kind', schemas as unknown as [(typeof schemas)[number]])

const inLowestTerms = (num: number, den: number): boolean =>
  Number.isSafeInteger(num) && Number.isSafeInteger(den) && fraction(num, den).den === den

const size = z.int().min(1).max(MAX_SIZE)
const rate = z
  .strictObject({ num: z.int().min(1), den: z.int().min(1) })
  .refine(({ num, den }) => num / den <= MAX_RATE, `is above ${MAX_RATE} frames per second`)
  // Numbers that have been refused above come here all the same.
  .refine(({ num, den }) => !(num > 0 && den > 0) || inLowestTerms(num, den), 'is not in lowest terms')
const length = z.int().min(1).max(MAX_LENGTH)

const pictureSize = z.int().min(1).max(LARGEST_SIDE)

const LONGEST_DATA = Math.ceil((LARGEST_PICTURE * 4) / 3) + 4
/** A file in base64, as it comes from outside; and one that was made here, of which only the length has to be looked at. */
const fileData = z.base64().max(LONGEST_DATA)
const ownData = z.string().max(LONGEST_DATA)

const pictureWith = (data: z.ZodType) =>
  z.strictObject({ id, name, type: z.enum(PICTURE_TYPES), width: pictureSize, height: pictureSize, data })

const clipWith = (data: z.ZodType) =>
  z
    .strictObject({
      id,
      name,
      type: z.enum(PICTURE_TYPES),
      width: pictureSize,
      height: pictureSize,
      verdict: z.enum(VERDICTS),
      delaysMs: z.array(z.number().min(0).max(3_600_000)).min(1).max(MOST_CLIP_FRAMES),
      frames: z.array(data).min(1),
    })
    .superRefine(({ delaysMs, frames }, context) => {
      if (delaysMs.length !== frames.length)
        context.addIssue({ code: 'custom', path: ['frames'], message: 'are not as many as the delays' })
    })

const variantSchema = z.strictObject({
  id,
  palette: z.record(colourNames, plainColour),
  faster: z.int().min(1).max(1000),
  longer: z.int().min(1).max(1000),
  reversed: z.boolean(),
  phase: z.number().min(0).max(1),
})

const documentSchema = (
  layer: z.ZodType,
  picture: z.ZodType = pictureWith(fileData),
  clip: z.ZodType = clipWith(fileData),
) =>
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
      pictures: z.array(picture).max(MOST_PICTURES).default([]),
      clips: z.array(clip).max(MOST_CLIPS).default([]),
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

/** Layers and media that have been found sound; they are never changed in place. */
const sound = new WeakSet<object>()

/** A part of a document that is checked once, however many states of it share it. */
const checkedOnce = (schema: z.ZodType): z.ZodType =>
  z.unknown().superRefine((part, context) => {
    const known = typeof part === 'object' && part !== null && sound.has(part)
    if (known) return
    const result = schema.safeParse(part)
    if (result.success) {
      if (typeof part === 'object' && part !== null) sound.add(part)
    } else for (const issue of result.error.issues) context.addIssue({ ...issue, input: undefined } as never)
  })

/** The schema by which a state of the open document is checked, before it becomes one that could not be opened again. */
export const changedSchema = documentSchema(
  checkedOnce(anyLayer),
  checkedOnce(pictureWith(ownData)),
  checkedOnce(clipWith(ownData)),
)

/** The JSON Schema (draft 2020-12) of a document of the current version; rules between fields are left out of it. */
export const loopJsonSchema = () => z.toJSONSchema(loopSchema, { unrepresentable: 'any', io: 'input', reused: 'ref' })
