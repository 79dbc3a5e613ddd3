'use client'

import { useId, useState } from 'react'
import {
  type Clock,
  COMMON_RATES,
  equal,
  formatRate,
  formatSeconds,
  loopSeconds,
  MAX_LENGTH,
  parseRate,
} from '@/core/clock'
import { CLOCK_MEANINGS, type ClockMeaning, changeLoopClock } from '@/core/closing'
import type { Loop } from '@/core/document'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { FieldProblem, readNumber } from '../parts'
import { perCent } from './per-cent'

const MEANINGS: Record<ClockMeaning, string> = {
  cycles: 'Keep the cycles: everything stretches',
  seconds: 'Keep the seconds: more or fewer frames',
  frames: 'Keep the frames of each cycle',
}

/** Another rate or length, in the three things that it can mean; each is shown before it is taken. */
export function ClockChangePanel({ loop }: { loop: Loop }) {
  const [rateText, setRateText] = useState<string | null>(null)
  const [lengthText, setLengthText] = useState<string | null>(null)
  const rates = useId()
  const rateId = useId()
  const lengthId = useId()
  let wanted: Clock | null = null
  let problem: string | null = null
  try {
    const rate = rateText === null ? loop.rate : parseRate(rateText)
    const length =
      lengthText === null ? loop.length : Math.round(readNumber(lengthText, 'frames', { rate, length: loop.length }))
    if (length < 1 || length > MAX_LENGTH) throw new RangeError(`a loop has 1 to ${MAX_LENGTH} frames`)
    wanted = { rate, length }
  } catch (error) {
    problem = (error as Error).message
  }
  const differs = wanted && (!equal(wanted.rate, loop.rate) || wanted.length !== loop.length)
  const forget = () => {
    setRateText(null)
    setLengthText(null)
    setSession({ preview: null })
  }
  return (
    <section aria-label="Another rate or length">
      <h2 className="mb-1 text-xs font-semibold">Another rate or length</h2>
      <div className="relative grid grid-cols-2 gap-2">
        <label htmlFor={rateId} className="flex items-center gap-1.5">
          <span className="dim">rate</span>
          <input
            id={rateId}
            list={rates}
            className="input input-xs figures w-full min-w-0 bg-transparent px-1.5"
            value={rateText ?? formatRate(loop.rate)}
            data-draft={rateText !== null}
            onChange={(event) => setRateText(event.target.value)}
          />
        </label>
        <datalist id={rates}>
          {COMMON_RATES.map((rate) => (
            <option key={formatRate(rate)} value={formatRate(rate)} />
          ))}
        </datalist>
        <label htmlFor={lengthId} className="flex items-center gap-1.5">
          <span className="dim">length</span>
          <input
            id={lengthId}
            className="input input-xs figures w-full min-w-0 bg-transparent px-1.5"
            value={lengthText ?? String(loop.length)}
            data-draft={lengthText !== null}
            onChange={(event) => setLengthText(event.target.value)}
          />
        </label>
        {problem && <FieldProblem>{problem}</FieldProblem>}
      </div>
      {!differs ? (
        <p className="dim mt-1 text-2xs">
          Type another one; 2s, 360/7.5 or 29.97 will do. Nothing changes until you take one of three meanings.
        </p>
      ) : (
        <ul className="mt-2 space-y-1">
          {wanted &&
            CLOCK_MEANINGS.map((meaning) => (
              <Meaning key={meaning} loop={loop} wanted={wanted} meaning={meaning} onTaken={forget} />
            ))}
          <li>
            <button type="button" className="btn btn-ghost btn-xs" onClick={forget}>
              Leave it as it is
            </button>
          </li>
        </ul>
      )}
    </section>
  )
}

interface MeaningProps {
  readonly loop: Loop
  readonly wanted: Clock
  readonly meaning: ClockMeaning
  readonly onTaken: () => void
}

function Meaning({ loop, wanted, meaning, onTaken }: MeaningProps) {
  let result: ReturnType<typeof changeLoopClock> | null = null
  try {
    result = changeLoopClock(loop, wanted, meaning)
  } catch {
    return (
      <li className="dim text-xs">{MEANINGS[meaning]}: that rate cannot be written as a fraction of whole numbers.</li>
    )
  }
  const { loop: changed, bent } = result
  const worst = Math.max(0, ...bent.map(({ error }) => error))
  return (
    <li>
      <button
        type="button"
        className="btn btn-ghost hairline h-auto w-full flex-col items-start gap-0 border px-2 py-1 text-start font-normal"
        onPointerEnter={() => setSession({ preview: changed })}
        onPointerLeave={() => setSession({ preview: null })}
        onFocus={() => setSession({ preview: changed })}
        onBlur={() => setSession({ preview: null })}
        onClick={() => {
          changeLoop(() => changed)
          onTaken()
        }}
      >
        <span className="text-xs font-semibold">{MEANINGS[meaning]}</span>
        <span className="figures dim text-2xs">
          {changed.length} f at {formatRate(changed.rate)}/s ·{' '}
          {formatSeconds(loopSeconds(changed.length, changed.rate))}
        </span>
        <span className={`text-2xs ${worst > 0 ? 'text-error' : 'text-accent'}`}>
          {worst > 0
            ? `${bent.length} ${bent.length === 1 ? 'speed bends' : 'speeds bend'} by up to ${perCent(worst)}, so that all come home`
            : 'every motion as it was'}
        </span>
      </button>
    </li>
  )
}
