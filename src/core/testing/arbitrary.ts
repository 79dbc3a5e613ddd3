import fc from 'fast-check'
import { COMMON_RATES } from '../clock'
import { defaultValues, LAYER_KINDS, type LayerKind, type NumberProperty, type Property } from '../layers'
import { FORMAT, type Layer, type Loop, VERSION } from '../loop'
import { AFTER_EACH_CYCLE, type Motion, type MovingValue } from '../motion'

/** Random documents for property tests. */
const double = (min: number, max: number) => fc.double({ min, max, noNaN: true, noDefaultInfinity: true })

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

const valueFor = (property: Property): fc.Arbitrary<MovingValue> =>
  property.type === 'number' ? numberIn(property) : colour

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
        ...AFTER_EACH_CYCLE.filter((after) => property.type === 'number' || after !== 'accumulate'),
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

const layerOf = (kind: LayerKind, depth: number): fc.Arbitrary<Omit<Layer, 'id'>> => {
  const entries = Object.entries(kind.properties)
  const values = fc.record(
    Object.fromEntries(
      entries.map(([name, property]) => [
        name,
        property.type === 'number'
          ? fc.oneof(fc.constant(property.default), numberIn(property))
          : property.type === 'colour'
            ? fc.oneof(fc.constant(null), colour)
            : property.type === 'choice'
              ? fc.constantFrom(...property.options)
              : fc.array(fc.integer({ min: 0, max: 40 }), { maxLength: 3 }),
      ]),
    ),
  )
  const moving = entries.filter(([, property]) => property.moves)
  const motions = fc
    .subarray(moving, { maxLength: 3 })
    .chain((chosen) => fc.record(Object.fromEntries(chosen.map(([name, property]) => [name, anyMotion(property)]))))
  const layers = kind.holdsLayers && depth > 0 ? fc.array(anyLayer(depth - 1), { maxLength: 3 }) : fc.constant([])
  return fc.record({ values, motions, layers }).map(({ values, motions, layers }) => ({
    kind: kind.kind,
    name: kind.label,
    hidden: false,
    locked: false,
    values: { ...defaultValues(kind.properties), ...values },
    motions,
    ...(kind.holdsLayers ? { layers: layers as Layer[] } : {}),
  }))
}

const anyLayer = (depth: number): fc.Arbitrary<Omit<Layer, 'id'>> =>
  fc.oneof(...LAYER_KINDS.map((kind) => layerOf(kind, depth)))

let count = 0
const withIds = (layer: Omit<Layer, 'id'>): Layer => ({
  ...layer,
  id: `layer-${count++}`,
  ...(layer.layers ? { layers: layer.layers.map(withIds) } : {}),
})

/** A document with up to four layers, groups two deep. */
export const anyLoop: fc.Arbitrary<Loop> = fc
  .record({
    width: fc.integer({ min: 1, max: 800 }),
    height: fc.integer({ min: 1, max: 800 }),
    background: fc.oneof(fc.constant(null), colour),
    rate: fc.constantFrom(...COMMON_RATES),
    length: fc.integer({ min: 1, max: 120 }),
    layers: fc.array(anyLayer(2), { maxLength: 4 }),
  })
  .map((loop) => ({
    format: FORMAT,
    version: VERSION,
    id: 'random',
    name: 'Random loop',
    kind: 'loader' as const,
    ...loop,
    layers: loop.layers.map(withIds),
  }))
