/** What the seam of a series of pictures is, by the words of the vocabulary; `still` where nothing moves. */
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
