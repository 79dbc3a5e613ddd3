import type { Mixed, MixPart, PlanFrame } from './plan'

/** How two frames are mixed: see {@link Mixed}. */
export interface MixOptions {
  readonly keepVariance: boolean
  readonly morph?: boolean | undefined
}

/** A mix of two frames, the second of a weight; null where they are put together of other regions. */
export function mixOf(first: PlanFrame, second: PlanFrame, weight: number, how: MixOptions): PlanFrame | null {
  if (!('map' in first) && !('map' in second)) return mixPictures(first, second, weight, how)
  if (!('map' in first) || !('map' in second) || first.map !== second.map) return null
  const { map, pieces } = first
  return { map, pieces: pieces.map((piece, k) => mixPictures(piece, second.pieces[k], weight, how)) }
}

/** Two pictures mixed, the second of a weight from 0 to 1. */
export function mixPictures(first: Mixed, second: Mixed, weight: number, { keepVariance, morph }: MixOptions): Mixed {
  if (weight <= 0) return first
  if (weight >= 1) return second
  const scaled = (parts: readonly MixPart[], by: number) => parts.map((part) => ({ ...part, weight: part.weight * by }))
  const parts = [...scaled(first.parts, 1 - weight), ...scaled(second.parts, weight)]
  // A mixed frame has no single flow.
  const moves = morph && parts.length === 2
  return {
    parts: moves ? parts : merged(parts),
    keepVariance,
    ...(moves && { morph }),
    ...(first.grain !== undefined && { grain: first.grain }),
  }
}

/** Parts of one frame of the source, in one light, are one part. */
function merged(parts: readonly MixPart[]): MixPart[] {
  const out: MixPart[] = []
  for (const part of parts) {
    const same = out.findIndex(
      ({ frame, gain }) => frame === part.frame && gain.every((each, c) => each === part.gain[c]),
    )
    if (same < 0) out.push(part)
    else out[same] = { ...part, weight: part.weight + out[same].weight }
  }
  return out
}
