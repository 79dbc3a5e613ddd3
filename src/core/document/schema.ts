import * as z from 'zod/mini'
import { fraction, MAX_LENGTH, MAX_RATE } from '../clock'
import { colourName } from '../colour'
import { colour, plainColour } from '../colour/schema'
import { LAYER_KINDS, type LayerKind, type Mixing, mixingOf, type Property, propertyType } from '../layers'
import { MEDIUM_KINDS, type Medium, type MediumKind } from '../media'
import { AFTER_EACH_CYCLE, parseEase } from '../motion'
import { coordinate, id, list, number, share, text, textThat, whole } from '../schemas'
import { FORMAT, LOOP_KINDS, type Loop, MAX_NAME, MAX_NOTE, MAX_SIZE, NO_BLUR, VERSION } from './document'
import { checkDocument } from './document-rules'

const colourNames = textThat((text) => colourName(`var(--${text})`) !== null, 'is not a name such as deep-sea')
const ease = text(200).check(z.refine((text) => parseEase(text) !== null, 'is not a CSS easing function, nor “hold”'))
const name = text(MAX_NAME)
/** A schema made once for each key, so that the published one says it once. */
function once<K extends string | object>(make: (key: K) => z.ZodMiniType): (key: K) => z.ZodMiniType {
  const made = new Map<K, z.ZodMiniType>()
  return (key) => {
    const schema = made.get(key) ?? make(key)
    made.set(key, schema)
    return schema
  }
}

const propertySchema = once((property: Property) =>
  z._default(propertyType(property).schema(property), property.default as never),
)

const tremble = z.strictObject({
  amount: coordinate,
  detail: whole(1, 1000),
  cycles: whole(1, MAX_LENGTH),
  seed: whole(0, 9999),
  phase: share,
  backwards: z.optional(z.literal(true)),
})

const eventSchema = once((mixing: Mixing) =>
  z.strictObject({
    value: mixing.schema,
    frames: number(0.01, MAX_LENGTH),
    at: list(share, 64, 1),
    cycles: whole(1, MAX_LENGTH),
  }),
)

const period = z.union([
  z.strictObject({ cycles: whole(1, MAX_LENGTH) }),
  z.strictObject({ frames: number(0.01, 1e6) }),
])

const motionSchema = once((mixing: Mixing) =>
  z
    .strictObject({
      keys: list(z.strictObject({ at: share, value: mixing.schema, ease }), 10_000, 1),
      after: z.enum(AFTER_EACH_CYCLE),
      period,
      phase: share,
      restMeant: z.optional(z.literal(true)),
      cutMeant: z.optional(z.literal(true)),
    })
    .check(
      z.superRefine(({ keys, after }, context) => {
        const refuse = (path: (string | number)[], message: string) =>
          context.addIssue({ code: 'custom', path, message })
        for (const [i, key] of keys.entries())
          if (i > 0 && key.at <= (keys[i - 1]?.at ?? 0)) refuse(['keys', i, 'at'], 'keys must lie one after the other')
        if (after === 'repeat' && (keys.at(-1)?.at ?? 0) >= 1)
          refuse(
            ['keys', keys.length - 1, 'at'],
            'in “repeat” the closing value is the first key’s: a key lies before 1',
          )
        if (after === 'accumulate' && !mixing.accumulates) refuse(['after'], 'such values cannot accumulate')
      }),
    ),
)

const layerSchema = (kind: LayerKind) => {
  const entries = Object.entries(kind.properties)
  const moves = entries.filter(([, property]) => property.moves)
  const each = (schema: (property: Property) => z.ZodMiniType) =>
    z.strictObject(Object.fromEntries(moves.map(([key, property]) => [key, z.optional(schema(property))])))
  return z.strictObject({
    id,
    kind: z.literal(kind.kind),
    name,
    hidden: z.boolean(),
    locked: z.boolean(),
    values: z.strictObject(Object.fromEntries(entries.map(([key, property]) => [key, propertySchema(property)]))),
    motions: each((property) => motionSchema(mixingOf(property))),
    trembles: z.optional(each(() => tremble)),
    events: z.optional(each((property) => eventSchema(mixingOf(property)))),
    ...(kind.holdsLayers ? { layers: heldIn(kind) } : {}),
  })
}

/** The layers that one of a kind holds; files from before it held any do not name them. */
const heldIn = ({ heldNone }: LayerKind): z.ZodMiniType => {
  const layers = z.lazy((): z.ZodMiniType => z.array(anyLayer))
  return heldNone ? z._default(layers, []) : layers
}

const schemas = LAYER_KINDS.map(layerSchema)
const anyLayer: z.ZodMiniType = z.discriminatedUnion('kind', schemas as unknown as [(typeof schemas)[number]])

const inLowestTerms = (num: number, den: number): boolean =>
  Number.isSafeInteger(num) && Number.isSafeInteger(den) && fraction(num, den).den === den

const size = whole(1, MAX_SIZE)
const rate = z.strictObject({ num: whole(1), den: whole(1) }).check(
  z.refine(({ num, den }) => num / den <= MAX_RATE, `is above ${MAX_RATE} frames per second`),
  // Numbers that have been refused above come here all the same.
  z.refine(({ num, den }) => !(num > 0 && den > 0) || inLowestTerms(num, den), 'is not in lowest terms'),
)
const length = whole(1, MAX_LENGTH)

/** Each of a document's media; what is wrong between its fields is said of one of them. */
const mediumSchema = (kind: MediumKind): z.ZodMiniType =>
  z.strictObject({ kind: z.literal(kind.kind), id, name, ...kind.fields }).check(
    z.superRefine((medium, context) => {
      const fault = kind.fault?.(medium as unknown as Medium)
      if (fault) context.addIssue({ code: 'custom', path: [fault.field], message: fault.message })
    }),
  )

const mediumSchemas = MEDIUM_KINDS.map(mediumSchema)
const anyMedium: z.ZodMiniType = z.discriminatedUnion('kind', mediumSchemas as unknown as [z.ZodMiniObject])

const variantSchema = z.strictObject({
  id,
  palette: z.record(colourNames, plainColour),
  faster: whole(1, 1000),
  longer: whole(1, 1000),
  reversed: z.boolean(),
  phase: share,
})

const MAX_MEDIA = MEDIUM_KINDS.reduce((sum, { most }) => sum + most, 0)

const documentSchema = (layer: z.ZodMiniType, medium: z.ZodMiniType = anyMedium) =>
  z
    .strictObject({
      format: z.literal(FORMAT),
      version: z.literal(VERSION),
      id,
      name,
      kind: z.enum(LOOP_KINDS),
      note: z.optional(z.string().check(z.maxLength(MAX_NOTE))),
      width: size,
      height: size,
      background: z.nullable(colour),
      rate,
      length,
      layers: z.array(layer),
      blur: z._default(z.strictObject({ shutter: number(0, 720), samples: whole(2, 64) }), NO_BLUR),
      palette: z._default(list(z.strictObject({ name: colourNames, colour: plainColour }), 64), []),
      loops: z._default(
        list(
          z.strictObject({
            id,
            name,
            width: size,
            height: size,
            background: z.nullable(colour),
            rate,
            length,
            layers: z.array(layer),
          }),
          200,
        ),
        [],
      ),
      media: z._default(list(medium, MAX_MEDIA), []),
      variantOf: z.optional(variantSchema),
    })
    .check(
      z.superRefine((loop, context) =>
        checkDocument(loop as unknown as Loop, (path, message) => context.addIssue({ code: 'custom', path, message })),
      ),
    )

/** The schema of a document of the current version; `docs/loop.schema.json` is made from it. */
export const loopSchema = documentSchema(anyLayer)

/**
 * A schema for several states of one document: a layer that they share, as one and the same object, is checked once and
 * shared again by what comes out.
 */
export function statesSchema() {
  const known = new WeakMap<object, unknown>()
  const layer = z.pipe(
    z.unknown(),
    z.transform((raw, context) => {
      const found = typeof raw === 'object' && raw !== null ? known.get(raw) : undefined
      if (found) return found
      const result = anyLayer.safeParse(raw, REPORTED)
      if (!result.success) {
        context.issues.push({ code: 'custom', message: 'is not a layer', input: raw })
        return z.NEVER
      }
      known.set(raw as object, result.data)
      return result.data
    }),
  )
  return documentSchema(layer)
}

/** With what was found where something was refused: that tells a field that is missing. */
export const REPORTED = { reportInput: true } as const

/** Layers and media that have been found sound; they are never changed in place. */
const sound = new WeakSet<object>()

/** A part of a document that is checked once, however many states of it share it. */
const checkedOnce = (schema: z.ZodMiniType): z.ZodMiniType =>
  z.unknown().check(
    z.superRefine((part, context) => {
      const known = typeof part === 'object' && part !== null && sound.has(part)
      if (known) return
      const result = schema.safeParse(part, REPORTED)
      if (result.success) {
        if (typeof part === 'object' && part !== null) sound.add(part)
      } else for (const issue of result.error.issues) context.addIssue(issue as never)
    }),
  )

/** The schema by which a state of the open document is checked, before it becomes one that could not be opened again. */
export const changedSchema = documentSchema(checkedOnce(anyLayer), checkedOnce(anyMedium))

/** The JSON Schema (draft 2020-12) of a document of the current version; rules between fields are left out of it. */
export const loopJsonSchema = () => z.toJSONSchema(loopSchema, { unrepresentable: 'any', io: 'input', reused: 'ref' })
