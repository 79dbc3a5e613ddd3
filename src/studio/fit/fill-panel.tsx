'use client'

import { useMemo, useState } from 'react'
import { formatSeconds, fraction, loopSeconds, toNumber } from '@/core/clock'
import { fillWith } from '@/core/closing'
import type { Loop } from '@/core/document'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { NumberField } from '../parts'
import { perCent } from './per-cent'

/** Repeats a loop to fill a duration: whole times below and above it, or lengths that divide it, and what they cost. */
export function FillPanel({ loop }: { loop: Loop }) {
  const own = toNumber(loopSeconds(loop.length, loop.rate))
  const [seconds, setSeconds] = useState<number | null>(null)
  const ways = useMemo(
    () => (seconds === null ? [] : fillWith(loop, fraction(Math.max(1, Math.round(seconds * 1000)), 1000))),
    [loop, seconds],
  )
  return (
    <section aria-label="Fill a duration">
      <h2 className="mb-1 text-xs font-semibold">Fill a duration</h2>
      <NumberField
        label="to fill"
        value={seconds ?? own}
        unit="seconds"
        step={0.5}
        min={0.001}
        max={3600}
        context={loop}
        onChange={setSeconds}
      />
      {seconds !== null && (
        <ul className="mt-2 space-y-1" aria-label="Ways to fill">
          {ways.length === 0 && <li className="dim text-xs">No whole number of repeats comes near.</li>}
          {ways.map(({ repeats, seconds: lasts, length, speed, loop: filled }) => (
            <li key={`${repeats} ${length}`}>
              <button
                type="button"
                className="btn btn-ghost btn-xs figures hairline h-auto w-full flex-wrap justify-between gap-x-2 border py-1 font-normal"
                disabled={!filled}
                onPointerEnter={() => setSession({ preview: filled })}
                onPointerLeave={() => setSession({ preview: null })}
                onFocus={() => setSession({ preview: filled })}
                onBlur={() => setSession({ preview: null })}
                onClick={() => {
                  if (!filled) return
                  changeLoop(() => filled)
                  setSeconds(null)
                }}
              >
                <span>
                  {repeats} × {length} f = {formatSeconds(lasts, 2)}
                </span>
                <span className={speed === 1 ? 'text-accent' : 'dim'}>
                  {!filled
                    ? 'too long for one loop'
                    : speed === 1
                      ? 'same speed'
                      : `${perCent(Math.abs(speed - 1))} ${speed > 1 ? 'faster' : 'slower'}`}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
