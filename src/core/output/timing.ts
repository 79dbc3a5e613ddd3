import { type FileTiming, fileTiming, fraction, multiply } from '../clock'
import type { Loop } from '../document'
import type { FileSettings } from './settings'

/** The frames that a file of a loop holds, and how long each is shown: thinned out and repeated as its settings say. */
export function timingIn({ length, rate }: Pick<Loop, 'length' | 'rate'>, settings: FileSettings): FileTiming {
  const { format, repeats } = settings
  const every = length % settings.every === 0 ? settings.every : 1
  const one = fileTiming(format, length / every, multiply(rate, fraction(1, every)))
  const times = <T>(list: readonly T[]) => (repeats === 1 ? list : Array.from({ length: repeats }, () => list).flat())
  return { ...one, frames: times(one.frames.map((frame) => frame * every)), delays: times(one.delays) }
}
