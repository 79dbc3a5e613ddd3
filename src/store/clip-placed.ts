import { changeLayer, type Layer, type Loop, MAX_NAME } from '@/core/document'
import { type Cinemagraph, heldStill, laidOverStill, maskedRegion, placeClip, stillBehind } from '@/core/edit'
import type { BrushStroke } from '@/core/effects'
import type { Mend } from '@/core/footage'
import { strokesOver } from '@/core/footage/regions/region'
import { newId } from '@/core/id'
import { assetsIn, type Clip, fileOf, keepAtHand, MAX_MEDIA_BYTES, type Medium, madeAsset } from '@/core/media'
import { askClip, begun, failed, settledMends } from './clip'

/** A clip that was placed, and how it is kept, in the middle of a sentence about its frames. */
interface PlacedClip {
  readonly loop: Loop
  readonly layer: Layer
  readonly clip: Clip
  readonly how: string
}

const bytesIn = (media: readonly Medium[]) => assetsIn(media).reduce((sum, { bytes }) => sum + bytes, 0)

/** The mended clip as a layer in the middle of a loop; null, with what went wrong said, where it cannot be. */
export async function placedClip(loop: (clip: Clip) => Loop): Promise<PlacedClip | null> {
  const mends = await settledMends()
  const work = begun('Bringing the frames into the loop')
  try {
    const { clip: whole, files, how } = await askClip((service) => service.stored(mends, work.progress))
    work.end()
    keepAtHand(files)
    const host = loop(whole)
    const { source, ...bare } = whole
    // Where both do not fit, the frames are what is drawn.
    const clip: Clip = source && bytesIn([...host.media, whole]) <= MAX_MEDIA_BYTES ? whole : bare
    const kept = clip.source ? `${how}, and the file with them` : `${how}; the file itself is too large to be kept`
    return { ...placeClip(host, clip), clip, how: kept }
  } catch (error) {
    work.fail(error)
    return null
  }
}

export type Masked = 'by hand' | 'what moves'

/** Strokes on a mask that show where the clip moves, as large as it was placed; none where it is painted by hand. */
async function strokesFor(masked: Masked, mends: readonly Mend[], { values }: Layer): Promise<BrushStroke[]> {
  if (masked === 'by hand') return []
  const region = await askClip((service) => service.moving(mends))
  return strokesOver(region, Number(values.width), Number(values.height))
}

/**
 * The mended clip in a loop of its own, over one of its frames that is held still, in a mask that is to be painted, or that shows what moves; null, with what went wrong said, where it
 * cannot be.
 */
export async function cinemagraphOf(
  n: number,
  masked: Masked,
  loop: (clip: Clip) => Loop,
): Promise<(PlacedClip & Cinemagraph) | null> {
  const mends = await settledMends()
  try {
    const { width, height, png } = await askClip((service) => service.still(mends, n))
    const placed = await placedClip(loop)
    if (!placed) return null
    const strokes = await strokesFor(masked, mends, placed.layer)
    const name = `${placed.clip.name}, frame ${n}`.slice(0, MAX_NAME)
    const file = await madeAsset('image/png', png)
    const still = { kind: 'picture', id: newId(), name, width, height, file } as const
    return { ...placed, ...heldStill(placed.loop, placed.layer, still, strokes) }
  } catch (error) {
    failed(error)
    return null
  }
}

/** One more region, and whether its scene was found in the still of the loop; null where that has none. */
interface Region extends PlacedClip, Cinemagraph {
  readonly aligned: boolean | null
}

/** The loop with a clip laid where its scene lies over the still of that, where it does. */
async function alignedIn({ loop, layer }: PlacedClip, mends: readonly Mend[]) {
  const behind = stillBehind(loop)
  const file = behind && (await fileOf(behind.still.file.id))
  if (!behind || !file) return { loop, layer, aligned: null }
  const laid = await askClip((service) => service.overStill(mends, file))
  if (!laid) return { loop, layer, aligned: false }
  const moved = laidOverStill(layer, behind.layer, laid)
  return { loop: changeLayer(loop, layer.id, () => moved), layer: moved, aligned: true }
}

/**
 * The mended clip as one more region of a loop, where it moves, and where its scene lies over the still of the loop; its period is its own. Null, with what went wrong said, where it cannot
 * be.
 */
export async function regionIn(host: Loop): Promise<Region | null> {
  const mends = await settledMends()
  try {
    const placed = await placedClip(() => host)
    if (!placed) return null
    const { loop, layer, aligned } = await alignedIn(placed, mends)
    return { ...placed, aligned, ...maskedRegion(loop, layer, await strokesFor('what moves', mends, layer)) }
  } catch (error) {
    failed(error)
    return null
  }
}
