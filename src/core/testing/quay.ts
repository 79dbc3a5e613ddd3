import type { Loop } from '../document'
import { newLoop } from '../edit'

/** A small empty loop to test with: 50 frames at 25 per second. */
export const quay: Loop = newLoop(
  { name: 'Quay', kind: 'loader', width: 10, height: 10, background: null, rate: { num: 25, den: 1 }, length: 50 },
  'quay',
)
