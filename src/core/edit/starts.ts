import type { Layer, Loop } from '../document'
import type { BrushStroke } from '../effects'
import { layerKind, type Values } from '../layers'
import type { Model, StillPicture } from '../media'
import { evenly } from '../motion'
import { type Brief, newLayer, newLoop } from './edit'
import { modelLayer } from './models'

/** Something that a new loop of a kind can begin with. */
export interface Start {
  readonly name: string
  readonly label: string
  /** Its layers in a frame of a size, back to front; they move, and come home. */
  readonly layers: (size: { readonly width: number; readonly height: number }) => readonly Layer[]
}

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

const TEXTURE_STARTS: readonly Start[] = [
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
const tiles: Start = {
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
const overAll = (preset: string): Start => ({
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

/** What new loops of a kind can begin with; kinds that are not here begin empty. The first is taken unless another is chosen. */
export const STARTS: Partial<Record<Loop['kind'], readonly Start[]>> = {
  texture: [...TEXTURE_STARTS, tiles],
  cinemagraph: ['spray', 'rain', 'flakes', 'embers', 'bubbles', 'dust', 'glowing plankton'].map(overAll),
}

/** A layer with a painted mask at hand; where nothing is painted on that yet, all of it is seen. */
export function inMask(
  layer: Layer,
  { x, y, rotation = 0 }: { readonly x: number; readonly y: number; readonly rotation?: number },
  strokes: readonly BrushStroke[] = [],
): Layer {
  const mask = newLayer('brush', 'Where it is seen', { x, y, rotation, strokes })
  return { ...newLayer('group', `${layer.name} in a mask`, { mask: 'shape' }), layers: [layer, mask] }
}

/** A loop that answers a brief, begun with what was chosen: over a still, where there is one, which gives it its size; with a model that turns. */
export function begunLoop(brief: Brief, start?: string, medium?: StillPicture | Model): Loop {
  if (medium?.kind === 'model') return { ...newLoop(brief), layers: [modelLayer(medium, brief)], media: [medium] }
  const still = medium
  const starts = STARTS[brief.kind] ?? []
  const chosen = starts.find(({ name }) => name === start) ?? starts[0]
  const { width, height } = still ?? brief
  const place = { x: width / 2, y: height / 2, width, height }
  const layers = chosen?.layers({ width, height }) ?? []
  return {
    ...newLoop({ ...brief, width, height }),
    layers: still
      ? [newLayer('picture', still.name, { ...place, picture: still.id }), ...layers.map((each) => inMask(each, place))]
      : layers,
    media: still ? [still] : [],
  }
}
