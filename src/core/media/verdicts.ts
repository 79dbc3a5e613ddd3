/** Verdicts on the seam of a series of pictures, in the words of the vocabulary; `still` if nothing moves. */
export const VERDICTS = [
  'closes',
  'repeats-a-frame',
  'blank-frame',
  'jumps',
  'hesitates',
  'still',
  'too-few-frames',
] as const
export type Verdict = (typeof VERDICTS)[number]
