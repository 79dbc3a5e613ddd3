import { EFFECTS } from '../effects'
import { centredBox, dragBox, type LayerKind, sizeProperty, timeProperty, wrapped } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'
import { PRESETS } from './presets'

const whole = (label: string, section: string, value: number, min: number, max: number) =>
  ({ type: 'number', label, section, unit: '', default: value, min, max, step: 1, whole: true }) as const
const tiles = (label: string) =>
  ({
    type: 'number',
    label,
    section: 'way',
    unit: 'tiles',
    default: 0,
    min: -64,
    max: 64,
    step: 1,
    whole: true,
  }) as const
const share = (label: string, section: string, value: number) =>
  ({ type: 'number', label, section, unit: 'share', default: value, min: 0, max: 1, step: 0.05, moves: true }) as const
const px = (label: string, section: string, value: number) =>
  ({ type: 'number', label, section, unit: 'px', default: value, min: 0, step: 1, moves: true }) as const

const twinkles = ({ twinkle }: Values) => twinkle !== 0
const sways = ({ sway }: Values) => sway !== 0
const deep = ({ depths }: Values) => Number(depths) > 1

/** Words for the speed of particles that drift by whole tiles. */
function speedWords(values: Values, seconds: number | null): string | null {
  const way = Math.hypot(Number(values.driftX) * Number(values.width), Number(values.driftY) * Number(values.height))
  if (way === 0) return null
  const pace = seconds ? `, ${Number((way / seconds).toPrecision(3))} px/s` : ''
  return `The nearest go ${Math.round(way)} px in a cycle${pace}; the others whole tiles, too.`
}

/** Many small things that drift, sway, twinkle, spin, are born and fade; whatever their numbers are, they come home. */
export const particles: LayerKind = {
  kind: 'particles',
  icon: 'particles',
  label: 'Particles',
  shortcut: 'd',
  properties: {
    shape: {
      type: 'choice',
      label: 'shape',
      section: 'particles',
      options: ['disc', 'ring', 'streak', 'flake', 'layers'],
      default: 'disc',
    },
    count: whole('how many', 'particles', 200, 1, 20_000),
    size: px('size', 'particles', 8),
    sizeSpread: share('sizes differ', 'particles', 0.5),
    softness: share('softness', 'particles', 0.6),
    length: {
      type: 'number',
      label: 'length',
      section: 'particles',
      unit: '×',
      default: 8,
      min: 1,
      max: 200,
      step: 1,
      moves: true,
      when: ({ shape }) => shape === 'streak',
    },
    colour: { type: 'colour', label: 'from colour', section: 'particles', default: '#f7e9d0', moves: true },
    colourTo: { type: 'colour', label: 'to colour', section: 'particles', default: '#79c9b4', moves: true },
    seed: whole('seed', 'particles', 1, 0, 9999),
    driftX: tiles('drift across'),
    driftY: tiles('drift down'),
    depths: whole('depths', 'way', 3, 1, 12),
    parallax: { ...share('parallax', 'way', 0.6), when: deep },
    sway: px('sway', 'way', 0),
    swayTurns: { ...whole('sways', 'way', 1, 1, 64), when: sways },
    twinkle: share('twinkle', 'life', 0),
    twinkleTurns: { ...whole('twinkles', 'life', 2, 1, 64), when: twinkles },
    spin: { ...whole('spins', 'life', 0, 0, 64) },
    births: whole('births', 'life', 0, 0, 64),
    time: { ...timeProperty, section: 'life' },
    width: sizeProperty('width', 480),
    height: sizeProperty('height', 360),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: true,
  begins: ['time'],
  presets: PRESETS,
  drawings: ({ count }) => Number(count),
  drawsHeld: ({ shape, count }) => (shape === 'layers' ? Number(count) : 0),
  placesInside: () => [],
  draw: (values, inside) => {
    const n = (name: string) => Number(values[name])
    return {
      type: 'particles',
      box: centredBox(n('width'), n('height')),
      time: wrapped(values.time),
      shape: String(values.shape),
      softness: n('softness'),
      length: n('length'),
      from: String(values.colour ?? 'transparent'),
      to: String(values.colourTo ?? values.colour ?? 'transparent'),
      sprite: values.shape === 'layers' ? inside.layers() : [],
      spec: {
        count: n('count'),
        size: n('size'),
        sizeSpread: n('sizeSpread'),
        depths: n('depths'),
        parallax: n('parallax'),
        driftX: n('driftX'),
        driftY: n('driftY'),
        sway: n('sway'),
        swayTurns: n('swayTurns'),
        twinkle: n('twinkle'),
        twinkleTurns: n('twinkleTurns'),
        spin: n('spin'),
        births: n('births'),
        seed: n('seed'),
      },
    }
  },
  note: { section: 'way', text: speedWords, cycleOf: 'time' },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: (from, to) => dragBox(from, to),
}
