import type { Layer, Loop } from '../document'
import type { BrushStroke } from '../effects'
import type { StillPicture } from '../media'
import { newLayer } from './edit'
import { inMask } from './starts'

/** A loop in which a clip runs over a still of itself where that is painted. */
export interface Cinemagraph {
  readonly loop: Loop
  /** The id of the mask, which is to be painted. */
  readonly mask: string
}

/** The loop with one of its clips shown only in a mask: on which strokes are painted, px from its middle, or nothing yet. */
export function maskedRegion(loop: Loop, clip: Layer, strokes: readonly BrushStroke[] = []): Cinemagraph {
  const { x, y } = clip.values
  const group = inMask(clip, { x: Number(x), y: Number(y) }, strokes)
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
