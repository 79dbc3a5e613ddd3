import type { Layer, Loop } from '../document'
import type { BrushStroke } from '../effects'
import { placementMatrix } from '../layers'
import type { StillPicture } from '../media'
import { transformPoint } from '../path'
import { newLayer } from './edit'
import { inMask } from './in-mask'

/** A loop in which a clip runs over a still of itself where that is painted. */
export interface Cinemagraph {
  readonly loop: Loop
  /** The id of the mask, which is to be painted. */
  readonly mask: string
}

/** The loop with one of its clips shown only in a mask: on which strokes are painted, px from its middle, or nothing yet. */
export function maskedRegion(loop: Loop, clip: Layer, strokes: readonly BrushStroke[] = []): Cinemagraph {
  const { x, y, rotation } = clip.values
  const group = inMask(clip, { x: Number(x), y: Number(y), rotation: Number(rotation) }, strokes)
  return {
    loop: { ...loop, layers: loop.layers.map((layer) => (layer.id === clip.id ? group : layer)) },
    mask: group.layers?.at(-1)?.id ?? '',
  }
}

/** The same, with a still behind it, as large as the clip. */
export function heldStill(
  loop: Loop,
  clip: Layer,
  still: StillPicture,
  strokes: readonly BrushStroke[] = [],
): Cinemagraph {
  const { x, y, width, height } = clip.values
  const behind = newLayer('picture', still.name, { x, y, width, height, picture: still.id } as Layer['values'])
  const layers = loop.layers.flatMap((layer) => (layer.id === clip.id ? [behind, layer] : [layer]))
  return maskedRegion({ ...loop, media: [...loop.media, still], layers }, clip, strokes)
}

/** The still that the regions of a loop lie over, and the layer that shows it: the lowest that stands. Null where there is none. */
export function stillBehind(loop: Loop): { readonly layer: Layer; readonly still: StillPicture } | null {
  for (const layer of loop.layers) {
    const still = loop.media.find(({ kind, id }) => kind === 'picture' && id === layer.values.picture)
    const stands = Object.keys(layer.motions).length === 0 && layer.values.scaleX === layer.values.scaleY
    if (layer.kind === 'picture' && still && stands && !layer.hidden) return { layer, still: still as StillPicture }
  }
  return null
}

/** Where a clip lies over a still: its middle from the middle of that, and how wide it is, in widths of the still; degrees clockwise. */
interface OverStill {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly rotation: number
}

/** A clip where the scene that it shows lies over that of a still. */
export function laidOverStill(clip: Layer, still: Layer, laid: OverStill): Layer {
  const was = clip.values
  const own = still.values
  const wide = Number(own.width)
  const { x, y } = transformPoint(placementMatrix(own), { x: laid.x * wide, y: laid.y * wide })
  const width = laid.width * wide * Number(own.scaleX)
  const height = (width * Number(was.height)) / Number(was.width)
  return { ...clip, values: { ...was, x, y, width, height, rotation: Number(own.rotation) + laid.rotation } }
}
