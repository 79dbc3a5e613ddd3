import type { Vector } from '../../solid'
import type { LayerKind } from '../kind'

const AXES = ['y, upright', 'x', 'z'] as const
const SEEN = ['seen', 'hidden', 'alone'] as const
const AXIS: Readonly<Record<string, Vector>> = { x: [1, 0, 0], 'y, upright': [0, 1, 0], z: [0, 0, 1] }

const length = (label: string, section = 'part') =>
  ({ type: 'number', label, section, unit: 'share', default: 0, step: 0.01, moves: true }) as const
const scale = (label: string) =>
  ({ type: 'number', label, section: 'part', unit: '×', default: 1, step: 0.05, moves: true }) as const

/** A part of the model that it stands in, which moves by itself. Lengths are shares of the largest side of the model. */
export const part: LayerKind = {
  kind: 'part',
  icon: 'part',
  label: 'Part',
  shortcut: null,
  properties: {
    part: { type: 'text', label: 'part', section: 'part', default: '', most: 200 },
    seen: { type: 'choice', label: 'is', section: 'part', options: SEEN, default: 'seen' },
    rotation: {
      type: 'number',
      label: 'turn',
      section: 'part',
      unit: '°',
      default: 0,
      step: 5,
      moves: true,
      equivalence: ({ fold }) => 360 / Number(fold),
      newTravel: 360,
    },
    axis: { type: 'choice', label: 'axis', section: 'part', options: AXES, default: 'y, upright' },
    fold: {
      type: 'number',
      label: 'fold',
      section: 'part',
      unit: '',
      default: 1,
      min: 1,
      max: 360,
      step: 1,
      whole: true,
    },
    x: length('right'),
    y: length('up'),
    z: length('forward'),
    scaleX: scale('scale x'),
    scaleY: scale('scale y'),
    scaleZ: scale('scale z'),
    pivotX: length('pivot right'),
    pivotY: length('pivot up'),
    pivotZ: length('pivot forward'),
  },
  holdsLayers: false,
  draw: (values) => {
    const vector = (...names: readonly string[]) => names.map((name) => Number(values[name])) as unknown as Vector
    return {
      type: 'part',
      part: String(values.part),
      seen: values.seen as (typeof SEEN)[number],
      shift: vector('x', 'y', 'z'),
      pivot: vector('pivotX', 'pivotY', 'pivotZ'),
      axis: AXIS[String(values.axis)] ?? [0, 1, 0],
      degrees: Number(values.rotation),
      fold: Number(values.fold),
      scale: vector('scaleX', 'scaleY', 'scaleZ'),
    }
  },
  outline: null,
  bounds: () => null,
  fromDrag: () => ({}),
}
