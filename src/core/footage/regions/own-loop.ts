import type { PatchMap } from './patches'

/**
 * A region of the picture that closes by itself: its first frame and period, in frames. A period of one stands still.
 */
export interface OwnLoop {
  readonly start: number
  readonly period: number
  /**
   * Frames over which its end fades into those before its start; if negative, its start fades out of those after its
   * end.
   */
  readonly overlap: number
}

/** Each region of the picture has its own start and period; all of them come home after `length` frames. */
export interface Regions {
  readonly kind: 'parts'
  readonly length: number
  readonly map: PatchMap
  /** By the numbers of the map. */
  readonly loops: readonly OwnLoop[]
}
