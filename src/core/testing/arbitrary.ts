import fc from 'fast-check'
import { COMMON_RATES } from '../clock'
import { FORMAT, type Layer, type Loop, NO_BLUR, VERSION } from '../document'
import {
  defaultValues,
  LAYER_KINDS,
  type LayerKind,
  layerKind,
  mixingOf,
  type NumberProperty,
  type Property,
  type PropertyValue,
  propertyType,
} from '../layers'
import { AFTER_EACH_CYCLE, type Motion, type MotionEvent, type MovingValue, type Tremble } from '../motion'
import { wakeOf } from './media'

/** Random documents for property tests. */
const double = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true, noDefaultInfinity: true }).map((x) => x + 0)

export const anyEase = fc.oneof(
  fc.constantFrom('linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'hold', 'step-start', 'step-end'),
  fc
    .tuple(double(0, 1), double(-1, 2), double(0, 1), double(-1, 2))
    .map((points) => `cubic-bezier(${points.map((x) => x.toFixed(3)).join(', ')})`),
  fc
    .tuple(fc.integer({ min: 2, max: 9 }), fc.constantFrom('jump-start', 'jump-end', 'jump-none', 'jump-both'))
    .map(([count, position]) => `steps(${count}, ${position})`),
)

const colour = fc.constantFrom('#f2b54a', '#0b2230', 'rgb(120 200 190 / 0.5)', 'oklch(0.7 0.15 30)', 'transparent')

const numberIn = (property: NumberProperty) => {
  const low = property.min ?? (property.unit === 'share' ? 0 : -200)
  const high = property.max ?? (property.unit === 'share' || property.unit === '×' ? 2 : 200)
  return property.whole
    ? fc.integer({ min: low, max: Math.min(high, low + 12) })
    : double(low, high).map((x) => Number(x.toFixed(3)) + 0)
}

/** Values at keys, by the type of property; of others the examples that their type gives. */
const valueFor = (property: Property): fc.Arbitrary<MovingValue> => {
  if (property.type === 'number') return numberIn(property)
  if (property.type === 'colour') return colour
  const { examples, mixing } = propertyType(property)
  return fc.constantFrom(...examples(property).filter((value) => mixing?.is(value))) as fc.Arbitrary<MovingValue>
}

const anyPeriod = (tiedOnly: boolean) => {
  const tied = fc.integer({ min: 1, max: 6 }).map((cycles) => ({ cycles }))
  return tiedOnly
    ? tied
    : fc.oneof(
        tied,
        double(2, 90).map((frames) => ({ frames })),
      )
}

/** A motion of a property; with `tiedOnly` its period is tied to the loop. */
export const anyMotion = (property: Property, tiedOnly = false): fc.Arbitrary<Motion> =>
  fc
    .record({
      places: fc.uniqueArray(fc.integer({ min: 0, max: 24 }), { minLength: 1, maxLength: 5 }),
      after: fc.constantFrom(
        ...AFTER_EACH_CYCLE.filter((after) => mixingOf(property).accumulates || after !== 'accumulate'),
      ),
      period: anyPeriod(tiedOnly),
      phase: fc.oneof(fc.constant(0), double(0, 1)),
      values: fc.array(valueFor(property), { minLength: 5, maxLength: 5 }),
      eases: fc.array(anyEase, { minLength: 5, maxLength: 5 }),
    })
    .map(({ places, after, period, phase, values, eases }) => {
      const sorted = [...places].sort((a, b) => a - b).filter((at) => after !== 'repeat' || at < 24)
      const kept = sorted.length > 0 ? sorted : [0]
      const keys = kept.map((at, i) => ({ at: at / 24, value: values[i] as MovingValue, ease: eases[i] as string }))
      return { keys, after, period, phase }
    })

const anyPath = fc.oneof(
  fc.constantFrom('', 'M0 0L120 40', 'M-80 -40L80 -40L80 40L-80 40Z', 'M0 -60A60 60 0 1 1 0 60A60 60 0 1 1 0 -60Z'),
  fc
    .array(double(-150, 150), { minLength: 8, maxLength: 20 })
    .map((xs) => xs.map((x) => Number(x.toFixed(2))))
    .map(([x = 0, y = 0, ...rest]) => {
      const curves: string[] = []
      for (let i = 0; i + 5 < rest.length; i += 6) curves.push(`C${rest.slice(i, i + 6).join(' ')}`)
      return `M${x} ${y}${curves.join('')}${rest.length % 2 === 0 ? 'Z' : ''}`
    }),
)

/** Where more can be tried than the examples that a type gives. */
const WILDER: Readonly<Record<string, (property: never) => fc.Arbitrary<PropertyValue>>> = {
  number: numberIn,
  colour: () => fc.oneof(fc.constant(null), colour),
  numbers: () => fc.array(fc.integer({ min: 0, max: 40 }), { maxLength: 3 }),
  path: () => anyPath,
  stops: () =>
    fc
      .array(fc.record({ at: double(0, 1), colour }), { maxLength: 3 })
      .map((stops) => stops.sort((a, b) => a.at - b.at)),
  changes: () =>
    fc.array(
      fc.oneof(
        fc.record({ property: fc.constantFrom('opacity', 'x', 'scaleX', 'rotation'), to: double(-2, 2) }),
        fc.record({ property: fc.constant('fill'), to: colour }),
      ),
      { maxLength: 2 },
    ),
}

const anyValue = (property: Property): fc.Arbitrary<PropertyValue> => {
  const examples = fc.constantFrom(...propertyType(property).examples(property as never))
  const wilder = WILDER[property.type]?.(property as never)
  return wilder ? fc.oneof({ weight: 1, arbitrary: examples }, { weight: 2, arbitrary: wilder }) : examples
}

/** Filters are slow to draw: most layers have none. */
const oftenDefault = (property: Property): fc.Arbitrary<PropertyValue> =>
  fc.oneof({ weight: 12, arbitrary: fc.constant(property.default) }, { weight: 1, arbitrary: anyValue(property) })

export const anyTremble: fc.Arbitrary<Tremble> = fc
  .record({
    amount: double(-30, 30),
    detail: fc.integer({ min: 1, max: 12 }),
    cycles: fc.integer({ min: 1, max: 5 }),
    seed: fc.nat(9999),
    phase: double(0, 1),
    turned: fc.boolean(),
  })
  .map(({ turned, ...each }) => (turned ? { ...each, backwards: true } : each))

const anyEvent = (property: Property): fc.Arbitrary<MotionEvent> =>
  fc.record({
    value: valueFor(property),
    frames: double(0.5, 20),
    at: fc.array(double(0, 1), { minLength: 1, maxLength: 3 }),
    cycles: fc.integer({ min: 1, max: 5 }),
  })

const layerOf = (kind: LayerKind, depth: number): fc.Arbitrary<Omit<Layer, 'id'>> => {
  const entries = Object.entries(kind.properties)
  const values = fc.record(
    Object.fromEntries(
      entries.map(([name, property]) => [
        name,
        property.section === 'effects' ? oftenDefault(property) : anyValue(property),
      ]),
    ),
  )
  const moving = entries.filter(([, property]) => property.moves)
  const motions = fc
    .subarray(moving, { maxLength: 3 })
    .chain((chosen) => fc.record(Object.fromEntries(chosen.map(([name, property]) => [name, anyMotion(property)]))))
  const some = <T>(those: typeof moving, make: (property: Property) => fc.Arbitrary<T>) =>
    fc.oneof(
      { weight: 3, arbitrary: fc.constant(undefined) },
      {
        weight: 1,
        arbitrary: fc
          .subarray(those, { minLength: 1, maxLength: 2 })
          .chain((chosen) => fc.record(Object.fromEntries(chosen.map(([name, property]) => [name, make(property)])))),
      },
    )
  const trembles = some(moving, () => anyTremble)
  const events = some(moving, anyEvent)
  const layers = kind.holdsLayers && depth > 0 ? fc.array(anyLayer(depth - 1), { maxLength: 3 }) : fc.constant([])
  return fc
    .record({ values, motions, layers, trembles, events })
    .map(({ values, motions, layers, trembles, events }) => ({
      kind: kind.kind,
      name: kind.label,
      hidden: false,
      locked: false,
      values: { ...defaultValues(kind.properties), ...values },
      motions,
      ...(trembles ? { trembles } : {}),
      ...(events ? { events } : {}),
      ...(kind.holdsLayers ? { layers: layers as Layer[] } : {}),
    }))
}

const anyLayer = (depth: number): fc.Arbitrary<Omit<Layer, 'id'>> =>
  fc.oneof(
    // Effects are many and alike.
    ...LAYER_KINDS.map((kind) => ({ arbitrary: layerOf(kind, depth), weight: kind.effect ? 1 : 4 })),
  )

let count = 0
const withIds = (layer: Omit<Layer, 'id'>): Layer => ({
  ...layer,
  id: `layer-${count++}`,
  ...(layer.layers ? { layers: layer.layers.map(withIds) } : {}),
})

/** Layers whose references name what the document holds: its one loop, where it has one, and its one clip. */
function placing(layer: Layer, held: Partial<Record<string, string>>): Layer {
  const references = Object.entries(layerKind(layer.kind).properties).flatMap(([name, property]) =>
    property.type === 'reference' ? [[name, held[property.to] ?? ''] as const] : [],
  )
  return {
    ...layer,
    values: { ...layer.values, ...Object.fromEntries(references) },
    ...(layer.layers ? { layers: layer.layers.map((child) => placing(child, held)) } : {}),
  }
}

/** A clip with a pause in it. */
const WAKE = wakeOf([40, 40, 120, 40], { width: 60, height: 40 })

/** A document with up to four layers, groups two deep. */
export const anyLoop: fc.Arbitrary<Loop> = fc
  .record({
    width: fc.integer({ min: 1, max: 800 }),
    height: fc.integer({ min: 1, max: 800 }),
    background: fc.oneof(fc.constant(null), colour),
    rate: fc.constantFrom(...COMMON_RATES),
    length: fc.integer({ min: 1, max: 120 }),
    layers: fc.array(anyLayer(2), { maxLength: 4 }),
    inner: fc.array(
      fc.record({ length: fc.integer({ min: 1, max: 60 }), layers: fc.array(anyLayer(0), { maxLength: 2 }) }),
      {
        maxLength: 1,
      },
    ),
  })
  .map(({ inner, ...loop }) => ({
    format: FORMAT,
    version: VERSION,
    id: 'random',
    name: 'Random loop',
    kind: 'loader' as const,
    blur: NO_BLUR,
    palette: [],
    loops: inner.map(({ length, layers }, i) => ({
      id: `inner-${i}`,
      name: 'Inner',
      width: 100,
      height: 80,
      background: '#123a4c',
      rate: loop.rate,
      length,
      layers: layers.map(withIds),
    })),
    media: [WAKE],
    ...loop,
    layers: loop.layers
      .map(withIds)
      .map((layer) => placing(layer, { clip: WAKE.id, ...(inner.length > 0 && { loop: 'inner-0' }) })),
  }))
