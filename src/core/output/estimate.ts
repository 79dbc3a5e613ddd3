/** A stretch of a loop that was written twice: its first frames alone (one by default), and all its frames. */
export interface WrittenStretch {
  readonly one: number
  readonly many: number
  readonly frames: number
  readonly oneFrames?: number
}

/** How large a file will be, bytes, and how far that may be off. */
export interface Estimate {
  readonly bytes: number
  readonly uncertainty: number
}

/**
 * Estimated size of a file of `count` frames from stretches of it: the cost of the first frame, and of each further
 * one. The uncertainty is two standard errors of the cost of a further frame over all frames, as the stretches differ
 * in it, and at least a share of the size.
 * @param least that share: a twentieth; half of it for encoders that spend what they have saved, as those of video do
 */
export function estimateSize(samples: readonly WrittenStretch[], count: number, least = 0.05): Estimate {
  const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length)
  const first = mean(samples.map(({ one }) => one))
  const further = samples
    .filter(({ frames, oneFrames = 1 }) => frames > oneFrames)
    .map(({ one, many, frames, oneFrames = 1 }) => (many - one) / (frames - oneFrames))
  const each = mean(further)
  const spread = Math.sqrt(mean(further.map((value) => (value - each) ** 2)))
  const begun = samples[0]?.oneFrames ?? 1
  const bytes = Math.max(1, first + each * Math.max(0, count - begun))
  const error = further.length > 1 ? (2 * spread * (count - 1)) / Math.sqrt(further.length - 1) : bytes / 2
  return { bytes, uncertainty: Math.min(bytes, Math.max(least * bytes, error)) }
}

/** Starts of stretches of `frames` frames, spread over a file of `count` frames. */
export function sampleStarts(count: number, stretches: number, frames: number): number[] {
  const last = Math.max(0, count - frames)
  return [...new Set(Array.from({ length: stretches }, (_, i) => Math.round((i * last) / Math.max(1, stretches - 1))))]
}
