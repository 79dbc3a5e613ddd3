import type { Verdict } from '../media'

/** Verdicts as they are said. */
export const VERDICT_WORDS: Record<Verdict, string> = {
  closes: 'closes',
  'repeats-a-frame': 'repeats a frame',
  'blank-frame': 'blank frame',
  jumps: 'jumps',
  hesitates: 'hesitates',
  still: 'still',
  'too-few-frames': 'too few frames to tell',
}
