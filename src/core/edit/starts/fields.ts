import { layerKind, type Values } from '../../layers'
import { evenly } from '../../motion'
import { newLayer } from '../edit'
import type { Start } from './start'

/** A texture over the whole frame: it evolves once a loop, and drifts by whole tiles. */
function wholeFrame(name: string, label: string, values: Values, drift: Readonly<Record<string, number>> = {}): Start {
  return {
    name,
    label,
    layers: ({ width, height }) => {
      const size = Number(values.size) * (Math.min(width, height) / 480)
      const place = { x: width / 2, y: height / 2, width, height, size }
      const moves = Object.entries(drift).map(([property, tiles]) => [property, evenly(tiles)] as const)
      return [
        {
          ...newLayer('texture', label, { ...values, ...place }),
          motions: { time: evenly(1), ...Object.fromEntries(moves) },
        },
      ]
    },
  }
}

/** Textures that a loop can begin with. */
export const TEXTURES: readonly Start[] = [
  wholeFrame('clouds', 'Clouds', {
    look: 'clouds',
    size: 130,
    octaves: 4,
    roughness: 0.5,
    warp: 0.6,
    spread: 1.5,
    colour: '#0b2230',
    colourTo: '#8fd3c4',
    stops: [{ at: 0.55, colour: '#15485a' }],
  }),
  wholeFrame(
    'bands',
    'Bands',
    {
      look: 'bands',
      size: 80,
      octaves: 3,
      roughness: 0.45,
      warp: 0.5,
      spread: 1,
      colour: '#f7e9d0',
      colourTo: '#e9c98f',
      stops: [{ at: 0.5, colour: '#f2dcb4' }],
    },
    { driftX: 1 },
  ),
  wholeFrame('water', 'Water', {
    look: 'ripples',
    size: 120,
    roughness: 0.6,
    warp: 0.3,
    spread: 1.3,
    colour: '#07202b',
    colourTo: '#9fe0d2',
    stops: [{ at: 0.7, colour: '#1a5a66' }],
  }),
]

/** Tiles that a swell passes through, over the whole frame, seen from above so that they tile. */
export const tiles: Start = {
  name: 'tiles',
  label: 'Tiles with a swell',
  layers: ({ width, height }) => [
    newLayer('lattice', 'Tiles', {
      x: width / 2,
      y: height / 2,
      width,
      height,
      cellSize: Math.min(width, height) / 9,
      gap: Math.min(width, height) / 160,
      view: 'from above',
      shrink: 0.5,
      size: Math.min(width, height) * 0.6,
      steps: 1,
      colour: '#0b3346',
      colourTo: '#9fe0d2',
      stops: [{ at: 0.6, colour: '#2a7f86' }],
    }),
  ],
}

/** Particles over the whole frame, by the name of a preset; what lies behind them is brought in. */
export const overAll = (preset: string): Start => ({
  name: preset,
  label: `${preset[0]?.toUpperCase()}${preset.slice(1)}`,
  layers: ({ width, height }) => {
    const { presets = [] } = layerKind('particles')
    const { values = {} } = presets.find(({ label }) => label === preset) ?? {}
    const scale = Math.min(width, height) / 270
    const sized = { size: Number(values.size) * scale, sway: Number(values.sway) * scale }
    const place = { x: width / 2, y: height / 2, width, height }
    return [newLayer('particles', preset[0]?.toUpperCase() + preset.slice(1), { ...values, ...sized, ...place })]
  },
})
