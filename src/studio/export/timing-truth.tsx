import { useState } from 'react'
import {
  evenness,
  type FileFormat,
  type FileTiming,
  formatRate,
  formatSeconds,
  loopSeconds,
  toNumber,
} from '@/core/clock'
import { changeLoopClock } from '@/core/closing'
import type { Loop } from '@/core/document'
import { type ExactClock, exactClocks, type FileSettings, timingIn, whatViewersDo } from '@/core/output'
import { changeLoop } from '@/store/document'
import { FORMAT_NAMES } from './formats'

/** A sentence about the rate in a file. */
function truth(format: FileFormat, timing: FileTiming, own: string): string {
  const { delays, thinned, exact, rate: written } = timing
  const name = FORMAT_NAMES[format]
  const unit = format === 'gif' ? 'hundredths' : 'thousandths'
  if (thinned)
    return `Viewers of ${name} replace delays as short as those of ${own} frames per second. ${delays.length} evenly spaced frames are written instead, ${Number(written.toFixed(3))} per second, in the same time.`
  if (format === 'svg') return 'Its motion has no frames: whatever shows it draws every moment, the frames among them.'
  if (format === 'lottie')
    return `It says ${own} frames per second, exactly; players draw the moments between them too.`
  if (format === 'png-sequence') return 'Pictures do not say how long they are shown: the rate is yours to tell.'
  if (format === 'sprite-sheet') return `The JSON beside the sheet says ${own} frames per second, exactly.`
  if (format === 'mp4' || format === 'webm' || format === 'avif')
    return `${own} frames per second are exact${format === 'webm' ? ' to a thousandth of a second' : ''}.${format === 'avif' ? '' : ' A video does not say that it repeats: that is up to its player.'}`
  if (exact)
    return format === 'apng'
      ? `${own} frames per second are exact: APNG writes a delay as a fraction.`
      : `${own} frames per second are exact in ${unit} of a second.`
  const shown = [...new Set(delays.map((delay) => Math.round(toNumber(delay) * (format === 'gif' ? 100 : 1000))))]
  return `${own} frames per second are not exact in ${unit}: delays of ${shown.sort((a, b) => a - b).join(' and ')} take turns. The time of the whole loop stays true.`
}

/** Delays as bars, up to sixty of them. */
function DelayBars({ timing }: { timing: FileTiming }) {
  const ms = timing.delays.map((delay) => 1000 * toNumber(delay))
  const even = evenness(ms) > 1 - 1e-9
  const most = Math.max(...ms)
  const shown = ms.slice(0, 60)
  return (
    <svg
      className="my-1.5 w-full"
      height={26}
      viewBox={`0 0 ${shown.length * 5} 26`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`Delays from ${Number(Math.min(...ms).toFixed(2))} to ${Number(most.toFixed(2))} thousandths of a second`}
    >
      {shown.map((delay, i) => (
        <rect
          key={i}
          x={i * 5 + 0.7}
          y={26 - (24 * delay) / most}
          width={3.6}
          height={(24 * delay) / most}
          className={even ? 'fill-accent/70' : 'fill-primary/70'}
        />
      ))}
    </svg>
  )
}

/**
 * The rate that a file will have, stated beforehand, with the behaviour of viewers and the clocks at which it would be
 * exact.
 */
export function TimingTruth({ loop, settings }: { loop: Loop; settings: FileSettings }) {
  const { format } = settings
  const [shown, setShown] = useState<ExactClock | null>(null)
  const clock = shown ?? loop
  const timing = timingIn(clock, { ...settings, every: shown ? 1 : settings.every })
  const total = timing.delays.reduce((sum, delay) => sum + toNumber(delay), 0)
  const others = exactClocks(format, loop.length, loop.rate)
  return (
    <section aria-label="Timing in the file" className="space-y-1">
      <p className="figures">
        {timing.delays.length} frames, {total.toFixed(2)} s in all
        {shown && <span className="text-primary"> — if you take it</span>}
      </p>
      <DelayBars timing={timing} />
      <p className="text-xs">{truth(format, timing, formatRate(clock.rate))}</p>
      {whatViewersDo(format, timing).map((sentence) => (
        <p key={sentence} className="dim text-xs">
          {sentence}
        </p>
      ))}
      {others.length > 0 && (
        <ul aria-label="Exact clocks" className="space-y-1 pt-1">
          {others.map((other) => (
            <li key={`${formatRate(other.rate)} ${other.length}`}>
              <button
                type="button"
                className="btn btn-ghost hairline h-auto w-full justify-start border px-2 py-1 text-start font-normal"
                onPointerEnter={() => setShown(other)}
                onPointerLeave={() => setShown(null)}
                onFocus={() => setShown(other)}
                onBlur={() => setShown(null)}
                onClick={() => {
                  setShown(null)
                  changeLoop((current) => changeLoopClock(current, other, 'cycles').loop)
                }}
              >
                <span className="text-xs">
                  {other.exact === 'delays' ? 'Exact delays' : 'Exact time'} at{' '}
                  <span className="figures">
                    {formatRate(other.rate)}/s, {other.length} f, {formatSeconds(loopSeconds(other.length, other.rate))}
                  </span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
