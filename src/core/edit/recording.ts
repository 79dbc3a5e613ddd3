import { boundNumber } from '../bounds'
import { modulo } from '../modulo'
import type { Key, Motion } from '../motion'

/** A value of a property at a moment of the loop, in frames. */
export interface RecordedSample {
  readonly frame: number
  readonly value: number
}

/**
 * A motion of one cycle from samples that were taken while a loop of N frames played, in order: one key on every frame
 * that was passed, linear in between, so that what was not recorded runs straight from the end to the begin. Null where
 * fewer than two frames were passed.
 */
export function recordedMotion(samples: readonly RecordedSample[], length: number): Motion<number> | null {
  const first = samples[0]
  const last = samples.at(-1)
  if (!first || !last) return null
  const start = Math.ceil(first.frame)
  const count = Math.min(length, Math.floor(last.frame) - start + 1)
  if (count < 2) return null
  let next = 1
  const keys: Key<number>[] = []
  for (let i = 0; i < count; i++) {
    const frame = start + i
    while (next < samples.length - 1 && (samples[next] as RecordedSample).frame < frame) next++
    const a = samples[next - 1] as RecordedSample
    const b = samples[next] as RecordedSample
    const t = b.frame > a.frame ? Math.min(1, Math.max(0, (frame - a.frame) / (b.frame - a.frame))) : 1
    keys.push({
      at: modulo(frame, length) / length,
      value: boundNumber(a.value + (b.value - a.value) * t),
      ease: 'linear',
    })
  }
  keys.sort((a, b) => a.at - b.at)
  return { keys, after: 'repeat', period: { cycles: 1 }, phase: 0 }
}
