import fc from 'fast-check'
import { FORMAT, type Layer, type Loop, NO_BLUR, VERSION } from '../document'
import {
  defaultValues,
  LAYER_KINDS,
  type LayerKind,
  type NumberProperty,
  type Property,
  type PropertyValue,
  propertyType,
} from '../layers'
import type { Clip, StillPicture } from '../media'
import { AFTER_EACH_CYCLE, type Key, type Motion, type MotionEvent, type Tremble } from '../motion'
import { anyEase } from './arbitrary'

/** Random documents in which something is seen: layers of every kind, in the frame, painted, with motions as people make them. */
const SIZE = 96
const double = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true, noDefaultInfinity: true }).map((x) => Number(x.toFixed(3)) + 0)
const paint = fc.constantFrom('#f2b54a', '#79c9b4', '#e86f5a', '#f7e9d0', '#123a4c')

/** A value of a number property at which its layer is still seen. */
function seenNumber(name: string, property: NumberProperty): fc.Arbitrary<number> {
  const range: Record<string, readonly [number, number]> = {
    x: [0.2 * SIZE, 0.8 * SIZE],
    y: [0.2 * SIZE, 0.8 * SIZE],
    scaleX: [0.5, 1.5],
    scaleY: [0.5, 1.5],
    opacity: [0.3, 1],
    width: [8, 50],
    height: [8, 50],
    rotation: [-180, 180],
    pivotX: [-20, 20],
    pivotY: [-20, 20],
    shift: [-2, 2],
    pitch: [8, 40],
    span: [20, 120],
    radius: [8, 40],
    size: [10, 40],
    spanStart: [0, 0.3],
    spanEnd: [0.6, 1],
    time: [0, 1],
  }
  const [low, high] = range[name] ?? [
    Math.max(property.min ?? -20, property.default - 10),
    Math.min(property.max ?? 40, property.default + 10),
  ]
  return property.whole ? fc.integer({ min: Math.ceil(low), max: Math.floor(high) }) : double(low, Math.max(low, high))
}

const MOVED = [
  'x',
  'y',
  'rotation',
  'opacity',
  'scaleX',
  'width',
  'fill',
  'shift',
  'time',
  'travel',
  'spanEnd',
  'pitch',
]

const keysOf = (values: fc.Arbitrary<number | string>, most: number): fc.Arbitrary<Key[]> =>
  fc
    .record({
      places: fc.uniqueArray(fc.integer({ min: 0, max: most }), { minLength: 1, maxLength: 6 }),
      values: fc.array(values, { minLength: 7, maxLength: 7 }),
      eases: fc.array(fc.oneof(fc.constant('linear'), fc.constant('ease-in-out'), anyEase), {
        minLength: 7,
        maxLength: 7,
      }),
    })
    .map(({ places, values, eases }) =>
      [...places]
        .sort((a, b) => a - b)
        .map((at, i) => ({ at: at / 24, value: values[i] as number, ease: eases[i] as string })),
    )

const seenMotion = (name: string, kind: LayerKind): fc.Arbitrary<Motion> => {
  const property = kind.properties[name]
  const isNumber = property?.type === 'number'
  const values = isNumber ? seenNumber(name, property) : paint
  const period = fc.oneof(
    { weight: 5, arbitrary: fc.integer({ min: 1, max: 4 }).map((cycles) => ({ cycles })) },
    { weight: 1, arbitrary: double(3, 60).map((frames) => ({ frames })) },
  )
  const turns = isNumber && property.newTravel !== undefined
  return fc
    .record({
      after: fc.constantFrom(
        ...(turns ? ['accumulate' as const] : []),
        ...AFTER_EACH_CYCLE.slice(0, 1),
        'alternate' as const,
        'repeat' as const,
      ),
      keys: keysOf(values, 23),
      period,
      phase: fc.oneof(fc.constant(0), double(0, 1)),
      cycles: fc.integer({ min: 1, max: 2 }),
      ease: fc.constantFrom('linear', 'linear', 'ease-in-out', 'cubic-bezier(0.9, 0, 0.1, 1)'),
      travels: fc.constantFrom(1, 1, 1, 0.5, -1),
    })
    .map(({ after, keys, period, phase, cycles, ease, travels }): Motion => {
      if (after !== 'accumulate' || !isNumber) return { after, keys, period, phase }
      const travel = travels * (property.newTravel ?? 0)
      return {
        after,
        keys: [
          { at: 0, value: 0, ease },
          { at: 1, value: travel, ease: 'linear' },
        ],
        period: { cycles },
        phase,
      }
    })
}

const tremble: fc.Arbitrary<Tremble> = fc.record({
  amount: double(1, 14),
  detail: fc.integer({ min: 1, max: 12 }),
  cycles: fc.integer({ min: 1, max: 3 }),
  seed: fc.nat(99),
  phase: double(0, 1),
})

const blink: fc.Arbitrary<MotionEvent> = fc.record({
  value: fc.constantFrom(0, 0.2),
  frames: fc.integer({ min: 1, max: 6 }),
  at: fc.array(double(0, 1), { minLength: 1, maxLength: 2 }),
  cycles: fc.integer({ min: 1, max: 2 }),
})

/** Strokes of a brush, some at least. */
const strokesOf = (property: Property): PropertyValue[] =>
  propertyType(property)
    .examples(property)
    .filter((value) => Array.isArray(value) && value.length > 0) as PropertyValue[]

const seenLayer = (kind: LayerKind, depth: number, media: Media): fc.Arbitrary<Omit<Layer, 'id'>> => {
  const { properties } = kind
  const numbers = ['x', 'y', 'width', 'height', 'rotation', 'opacity', 'radius', 'pitch', 'span'].filter(
    (name) => properties[name]?.type === 'number',
  )
  const values = fc.record<Record<string, PropertyValue>>({
    ...Object.fromEntries(numbers.map((name) => [name, seenNumber(name, properties[name] as NumberProperty)])),
    ...(properties.fill ? { fill: paint } : {}),
    ...(properties.stroke && !properties.fill ? { stroke: paint } : {}),
    ...(properties.count ? { count: fc.integer({ min: 2, max: 8 }) } : {}),
    ...(properties.arrangement ? { arrangement: fc.constantFrom('row', 'ring', 'grid', 'path') } : {}),
    ...(properties.spacing?.type === 'choice' ? { spacing: fc.constantFrom('count', 'pitch') } : {}),
    ...(properties.stagger ? { stagger: fc.constantFrom(0, 0, 0.1) } : {}),
    ...(properties.mask ? { mask: fc.constantFrom('none', 'none', 'shape', 'inverse') } : {}),
    ...(properties.gradient?.type === 'choice' ? { gradient: fc.constantFrom(...properties.gradient.options) } : {}),
    // Without any it would cover all of the frame.
    ...(properties.strokes ? { strokes: fc.constantFrom(...strokesOf(properties.strokes)) } : {}),
    ...(kind.kind === 'loop' ? { loop: fc.constant('inner') } : {}),
    ...(kind.kind === 'clip' ? { clip: fc.constant(media.clip.id) } : {}),
    ...(kind.kind === 'picture' ? { picture: fc.constant(media.picture.id) } : {}),
  })
  const moving = MOVED.filter((name) => properties[name]?.moves)
  const motions = fc
    .subarray(moving, { maxLength: 3 })
    .chain((names) => fc.record(Object.fromEntries(names.map((name) => [name, seenMotion(name, kind)]))))
  const layers: fc.Arbitrary<Omit<Layer, 'id'>[]> = kind.holdsLayers
    ? fc.array(depth > 0 ? anySeenLayer(depth - 1, media) : seenLayer(LAYER_KINDS[0] as LayerKind, 0, media), {
        minLength: 1,
        maxLength: 3,
      })
    : fc.constant([])
  const rarely = <T>(arbitrary: fc.Arbitrary<T>) =>
    fc.oneof({ weight: 4, arbitrary: fc.constant(undefined) }, { weight: 1, arbitrary })
  const blinking = ['opacity', 'strength'].find((name) => properties[name])
  return fc
    .record({
      values,
      motions,
      layers,
      trembles: rarely(fc.record({ x: tremble })),
      // A part of a model has nothing that blinks.
      events: blinking ? rarely(fc.record({ [blinking]: blink })) : fc.constant(undefined),
    })
    .map(({ values, motions, layers, trembles, events }) => ({
      kind: kind.kind,
      name: kind.label,
      hidden: false,
      locked: false,
      values: { ...defaultValues(properties), ...values },
      motions: motions as Record<string, Motion>,
      ...(trembles ? { trembles } : {}),
      ...(events ? { events } : {}),
      // Children are centred on their parent.
      ...(kind.holdsLayers ? { layers: layers.map((layer) => centred(layer as Layer)) } : {}),
    }))
}

const centred = (layer: Layer): Layer => ({
  ...layer,
  values: { ...layer.values, x: Number(layer.values.x) - SIZE / 2, y: Number(layer.values.y) - SIZE / 2 },
})

const anySeenLayer = (depth: number, media: Media): fc.Arbitrary<Omit<Layer, 'id'>> =>
  fc.oneof(
    // Effects are many, and show nothing by themselves.
    ...LAYER_KINDS.map((kind) => ({ arbitrary: seenLayer(kind, depth, media), weight: kind.effect ? 1 : 4 })),
  )

let count = 0
const withIds = (layer: Omit<Layer, 'id'>): Layer => ({
  ...layer,
  id: `seen-${count++}`,
  ...(layer.layers ? { layers: layer.layers.map(withIds) } : {}),
})

/** A clip and a picture that can be drawn. */
export interface Media {
  readonly clip: Clip
  readonly picture: StillPicture
}

/** Documents of one to three layers, with a placed loop, a clip and a picture at hand. */
export const seenLoop = (media: Media): fc.Arbitrary<Loop> =>
  fc
    .record({
      background: fc.constantFrom(null, '#0b2230', '#f7e9d0'),
      length: fc.integer({ min: 2, max: 60 }),
      layers: fc.array(anySeenLayer(1, media), { minLength: 1, maxLength: 3 }),
      inner: fc.array(seenLayer(LAYER_KINDS[0] as LayerKind, 0, media), { minLength: 1, maxLength: 2 }),
    })
    .map(({ background, length, layers, inner }) => ({
      format: FORMAT,
      version: VERSION,
      id: 'seen',
      name: 'Seen loop',
      kind: 'loader' as const,
      width: SIZE,
      height: SIZE,
      background,
      rate: { num: 30, den: 1 },
      length,
      blur: NO_BLUR,
      palette: [],
      media: [media.picture, media.clip],
      loops: [
        {
          id: 'inner',
          name: 'Inner',
          width: SIZE,
          height: SIZE,
          background: '#123a4c',
          rate: { num: 30, den: 1 },
          length: 20,
          layers: inner.map(withIds),
        },
      ],
      layers: layers.map(withIds),
    }))
