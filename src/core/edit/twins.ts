import { type Layer, type Loop, replaceLayer } from '../document'
import { valuesAt } from '../evaluate'
import { duplicateLayers } from './edit'
import { fasterLoop, reverseLoop, shiftPhase } from './vary'

/** Difference of a twin: some frames later, a multiple of the speed, backwards, or none. */
export type TwinDiffers =
  | { readonly later: number }
  | { readonly faster: number }
  | { readonly backwards: true }
  | { readonly frozenAt: number }

/** A layer, and all that it holds, as it is at a frame: nothing in it moves. */
function stillLayer(layer: Layer, frame: number, length: number): Layer {
  const { trembles: _trembles, events: _events, ...rest } = layer
  return {
    ...rest,
    values: { ...layer.values, ...valuesAt(layer, frame, length) },
    motions: {},
    ...(layer.layers ? { layers: layer.layers.map((each) => stillLayer(each, frame, length)) } : {}),
  }
}

/** A layer by itself with another time. */
function otherTime(loop: Loop, layer: Layer, how: TwinDiffers): Layer {
  if ('frozenAt' in how) return stillLayer(layer, how.frozenAt, loop.length)
  const alone: Loop = { ...loop, layers: [layer] }
  const changed =
    'later' in how
      ? shiftPhase(alone, -how.later / loop.length)
      : 'faster' in how
        ? fasterLoop(alone, how.faster)
        : reverseLoop(alone)
  return changed.layers[0] as Layer
}

/** The loop with a twin in front of each of some layers, in the same place at another time; returns the ids of the twins too. */
export function twinLayers(loop: Loop, ids: readonly string[], how: TwinDiffers): { loop: Loop; copies: string[] } {
  const { loop: doubled, copies } = duplicateLayers(loop, ids)
  const layers = copies.reduce(
    (current, id) => replaceLayer(current, id, (layer) => otherTime(loop, layer, how)),
    doubled.layers,
  )
  return { loop: { ...doubled, layers }, copies }
}
