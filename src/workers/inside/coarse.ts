/** Target duration of a frame that is being changed, ms. */
const IN_HAND_MS = 30
/** No coarser than this. */
const MIN_SCALE = 0.25

/**
 * How much smaller a frame is drawn while it is being changed, so that the picture follows the hand: 1, a half or a quarter of its
 * width, by how long one takes at its own size, ms. What a frame costs goes with its area.
 */
export function coarseScale(ms: number): number {
  if (!(ms > IN_HAND_MS)) return 1
  return ms > 4 * IN_HAND_MS ? MIN_SCALE : 0.5
}

/** How long a frame takes at its own size, ms, told from one that was drawn at a share of its width. */
export const ownCost = (ms: number, scale: number): number => ms / (scale * scale)
