import type { MotionReport } from '@/core/closing'
import type { Loop } from '@/core/document'
import { safeSettings, strobing } from '@/core/fit'
import { isTied } from '@/core/motion'

const LOOKS = {
  smooth: 'smooth',
  flickering: 'flickers: its steps are too wide to be followed',
  still: 'seems to stand still',
  backwards: 'seems to run backwards',
  slow: 'seems to creep',
} as const

interface StrobeProps {
  readonly loop: Loop
  readonly report: MotionReport | undefined
  /** Placeholder if there is nothing to report. */
  readonly otherwise?: 'a word' | 'nothing'
}

/** Apparent motion of the steps from frame to frame, and the nearest settings without strobing. */
export function StrobeNote({ loop, report, otherwise = 'a word' }: StrobeProps) {
  const silent = otherwise === 'nothing'
  if (!report?.equivalence || report.motion.after !== 'accumulate')
    return silent ? null : <span className="dim">—</span>
  const strobe = strobing(Math.max(...report.speeds), report.equivalence)
  if (strobe.looks === 'smooth') return silent ? null : <span className="text-accent">smooth</span>
  const cycles = isTied(report.motion.period) ? report.motion.period.cycles : loop.length / report.motion.period.frames
  const safe = safeSettings(strobe, cycles, loop.length)
  const ways = [
    safe.cycles ? `up to ${safe.cycles} cycles` : '',
    `${safe.length} f or more`,
    loop.blur.shutter === 0 ? 'or blur in the frame' : '',
  ].filter(Boolean)
  return (
    <span
      className="text-error"
      title={`A step is ${Math.round(100 * strobe.share)} % of what looks the same again. Smooth: ${ways.join(', ')}.`}
    >
      {LOOKS[strobe.looks]}
      <span className="dim block text-2xs">smooth: {ways.join(', ')}</span>
    </span>
  )
}
