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

/** The loop with a still behind one of its clips, as large as that, and the clip in a mask: on which strokes are painted, px from its middle, or nothing yet. */
export function heldStill(
  loop: Loop,
  clip: Layer,
  still: StillPicture,
  strokes: readonly BrushStroke[] = [],
): Cinemagraph {
  const { x, y, width, height } = clip.values
  const group = inMask(clip, { x: Number(x), y: Number(y) }, strokes)
  const behind = newLayer('picture', still.name, { x, y, width, height, picture: still.id } as Layer['values'])
  return {
    loop: {
      ...loop,
      media: [...loop.media, still],
      layers: loop.layers.flatMap((layer) => (layer.id === clip.id ? [behind, group] : [layer])),
    },
    mask: group.layers?.at(-1)?.id ?? '',
  }
}
