import type { Ground } from '../../seam'
import type { Grain } from '../look/grain'
import type { PatchMap } from '../regions/patches'
import type { CameraModel } from '../steady/camera'

/** A source frame that a mended one is made of. */
export interface MixPart {
  readonly frame: number
  /** Weights of all parts add up to 1. */
  readonly weight: number
  /** Factors of linear red, green and blue. */
  readonly gain: readonly [number, number, number]
}

/** A picture that is mixed of frames of the source. */
export interface Mixed {
  readonly parts: readonly MixPart[]
  /** Divide the deviation from the mean by √(w² + (1 − w)²), so that a mix of unrelated texture keeps its contrast. */
  readonly keepVariance: boolean
  /** Both parts are moved along the flow between them to where they meet, before they are mixed. */
  readonly morph?: boolean
  /** As much of it is laid anew as mixing has smoothed. */
  readonly grain?: Grain
}

/** A frame of a mended clip: one picture, or several, each shown where a map says. */
export type PlanFrame = Mixed | Patched
export interface Patched {
  readonly map: PatchMap
  /** By the numbers of the map. */
  readonly pieces: readonly Mixed[]
}

/** All pictures that a frame is put together of. */
export const piecesOf = (frame: PlanFrame): readonly Mixed[] => ('map' in frame ? frame.pieces : [frame])

/** The frames of the source that a frame is made of. */
export const sourcesOf = (frame: PlanFrame): number[] => [
  ...new Set(piecesOf(frame).flatMap(({ parts }) => parts.map(({ frame: of }) => of))),
]

/** The frame of the source that a frame is, as it came; null where it is more, or other, than one. */
export function sourceAsItIs(frame: PlanFrame): number | null {
  if ('map' in frame) return null
  const [part, other] = frame.parts
  return part && !other && part.gain.every((gain) => gain === 1) ? part.frame : null
}

/** A mend of the pictures of the source, before anything is mixed of them. */
export type SourceMend =
  | { readonly kind: 'same-edge'; readonly ground: Ground }
  | { readonly kind: 'matte'; readonly colour: Ground }
  | { readonly kind: 'steady'; readonly model: CameraModel }
  | { readonly kind: 'even-light' }

/** A mend of the source, and the frames from and to which it holds: those that were in the clip when it was taken. */
export interface SourceEdit {
  readonly mend: SourceMend
  readonly from: number
  readonly to: number
}

/** How a mended clip is made from its source; nothing is lost, every mend can be taken back. */
export interface ClipPlan {
  readonly frames: readonly PlanFrame[]
  readonly delaysMs: readonly number[]
  readonly playsForever: boolean
  /** Edits of the source pictures, in order, before any mixing. */
  readonly edits: readonly SourceEdit[]
  /** Frames that were cropped off before the first one and after the last, in their order: ends may overlap into them. */
  readonly before: readonly PlanFrame[]
  readonly after: readonly PlanFrame[]
}

export type Gain = readonly [number, number, number]
const AS_IT_IS: Gain = [1, 1, 1]

/** A clip as it came. */
export interface ClipShape {
  readonly delaysMs: readonly number[]
  readonly playsForever: boolean
  /** Mean linear red, green and blue of each frame: what an even exposure is made from. */
  readonly means: readonly Gain[]
  /** Left out where it has none. */
  readonly grain?: Grain | undefined
}

export const plainPlan = ({ delaysMs, playsForever, grain }: ClipShape): ClipPlan => ({
  frames: delaysMs.map((_, frame) => ({
    parts: [{ frame, weight: 1, gain: AS_IT_IS }],
    keepVariance: false,
    ...(grain && { grain }),
  })),
  delaysMs,
  playsForever,
  edits: [],
  before: [],
  after: [],
})
