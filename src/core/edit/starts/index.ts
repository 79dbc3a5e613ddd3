import { toNumber } from '../../clock'
import type { Loop } from '../../document'
import type { Model, StillPicture } from '../../media'
import { type Brief, newLayer, newLoop } from '../edit'
import { inMask } from '../in-mask'
import { modelLayer } from '../models'
import { overAll, TEXTURES, tiles } from './fields'
import { FIGURES } from './figures'
import type { Start } from './start'

export { begunWith } from './own'
export type { Start } from './start'

/** Nothing in it, and shapes at hand. */
const EMPTY: Start = { name: 'empty', label: 'An empty frame', layers: () => [] }

/** Starts for new loops of each kind; kinds that are missing begin empty. The first one is the default. */
export const STARTS: Partial<Record<Loop['kind'], readonly Start[]>> = {
  loader: [EMPTY, ...FIGURES],
  texture: [...TEXTURES, tiles, ...FIGURES.filter(({ name }) => name === 'bands')],
  cinemagraph: ['spray', 'rain', 'flakes', 'embers', 'bubbles', 'dust', 'glowing plankton'].map(overAll),
}

/** A loop that answers a brief, begun with what was chosen: over a still, where there is one, which gives it its size; with a model that turns. */
export function begunLoop(brief: Brief, start?: string, medium?: StillPicture | Model): Loop {
  if (medium?.kind === 'model') return { ...newLoop(brief), layers: [modelLayer(medium, brief)], media: [medium] }
  const still = medium
  const starts = STARTS[brief.kind] ?? []
  const chosen = starts.find(({ name }) => name === start) ?? starts[0]
  const { width, height } = still ?? brief
  const place = { x: width / 2, y: height / 2, width, height }
  const layers = chosen?.layers({ width, height, seconds: brief.length / toNumber(brief.rate) }) ?? []
  return {
    ...newLoop({ ...brief, width, height }),
    palette: chosen?.palette ?? [],
    layers: still
      ? [newLayer('picture', still.name, { ...place, picture: still.id }), ...layers.map((each) => inMask(each, place))]
      : layers,
    media: still ? [still] : [],
  }
}
