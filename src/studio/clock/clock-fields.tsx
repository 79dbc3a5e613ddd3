'use client'

import { Lock, LockOpen } from 'lucide-react'
import { useId, useState } from 'react'
import {
  type Clock,
  type ClockChange,
  type ClockField,
  COMMON_RATES,
  changeClock,
  formatRate,
  formatSeconds,
  frameWorth,
  loopSeconds,
  MAX_LENGTH,
  parseFraction,
  parseRate,
} from '@/core/clock'
import { FieldProblem, readNumber } from '../parts'

interface ClockFieldsProps {
  readonly clock: Clock
  /** The one of rate, length and seconds that stays when another one is changed. */
  readonly fixed: ClockField
  readonly onChange: (clock: Clock) => void
  readonly onFix: (fixed: ClockField) => void
}

/** The length at which one frame is worth what a text says: a part of a turn, or of the loop in per cent. */
function lengthOfWorth(text: string, clock: Clock): number {
  const length = text.includes('%') ? 1 / readNumber(text, 'share', clock) : 360 / readNumber(text, '°', clock)
  if (!(length > 0.5 && length <= MAX_LENGTH)) throw new RangeError('one frame is worth a part of a turn')
  return length
}

/** A number with at most `places` decimals, without trailing zeros. */
const short = (x: number, places: number) => String(Number(x.toFixed(places)))

/** Rate, length and seconds, which follow each other; one of them stays. */
export function ClockFields({ clock, fixed, onChange, onFix }: ClockFieldsProps) {
  const seconds = loopSeconds(clock.length, clock.rate)
  const worth = frameWorth(clock.length)
  const change = (to: ClockChange) => onChange(changeClock(clock, to, fixed))
  const rates = useId()
  const exactSeconds = formatSeconds(seconds).startsWith('≈')
    ? `${seconds.num}/${seconds.den}`
    : short(seconds.num / seconds.den, 3)
  return (
    <fieldset>
      <legend className="dim mb-1.5">clock — the locked one stays when another is changed</legend>
      <div className="grid w-fit grid-cols-2 items-start gap-x-4 gap-y-2">
        <Field
          label="rate"
          unit="/s"
          shown={formatRate(clock.rate)}
          list={rates}
          read={(text) => change({ rate: parseRate(text) })}
          locked={fixed === 'rate'}
          onLock={() => onFix('rate')}
        />
        <datalist id={rates}>
          {COMMON_RATES.map((rate) => (
            <option key={formatRate(rate)} value={formatRate(rate)} />
          ))}
        </datalist>
        <Field
          label="length"
          unit="f"
          shown={String(clock.length)}
          read={(text) => change({ length: readNumber(text, 'frames', clock) })}
          locked={fixed === 'length'}
          onLock={() => onFix('length')}
        />
        <Field
          label="time"
          unit="s"
          shown={exactSeconds}
          read={(text) => change({ seconds: parseFraction(text.replace(/\s*s\s*$/, '')) })}
          locked={fixed === 'seconds'}
          onLock={() => onFix('seconds')}
        />
        <Field
          label="one frame"
          unit="°"
          shown={short(worth.degrees, 3)}
          read={(text) => change({ length: lengthOfWorth(text, clock) })}
        />
      </div>
      <p className="dim figures mt-2" aria-live="polite">
        {clock.length} f at {formatRate(clock.rate)}/s = {formatSeconds(seconds)} · one frame is worth{' '}
        {short(worth.degrees, 3)}° of a full turn, {short(100 * worth.share, 3)} % of the loop
      </p>
    </fieldset>
  )
}

interface FieldProps {
  readonly label: string
  readonly unit: string
  readonly shown: string
  /** Takes the text; throws a RangeError with words for the field. */
  readonly read: (text: string) => void
  /** Left out where the field follows from another one and cannot stay by itself. */
  readonly locked?: boolean
  readonly onLock?: () => void
  readonly list?: string
}

function Field({ label, unit, shown, read, locked, onLock, list }: FieldProps) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const type = (text: string) => {
    setDraft(text)
    try {
      read(text)
      setProblem(null)
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  const Icon = locked ? Lock : LockOpen
  return (
    <div className="relative">
      <div className="flex items-center gap-1.5">
        <label htmlFor={id} className="dim w-17 whitespace-nowrap">
          {label}
        </label>
        <span className="input input-sm flex w-32 items-center gap-1 bg-transparent">
          <input
            id={id}
            list={list}
            className="figures w-full min-w-0"
            autoComplete="off"
            spellCheck={false}
            data-draft={draft !== null}
            value={draft ?? shown}
            aria-invalid={problem !== null}
            aria-describedby={problem ? `${id}-problem` : undefined}
            onChange={(event) => type(event.target.value)}
            onBlur={() => {
              setDraft(null)
              setProblem(null)
            }}
          />
          <span className="dim figures" aria-hidden="true">
            {unit}
          </span>
        </span>
        {onLock && (
          <button
            type="button"
            className={`btn btn-ghost btn-xs btn-square ${locked ? 'text-primary' : 'dim'}`}
            aria-pressed={locked}
            aria-label={`Keep the ${label}`}
            title={`Keep the ${label}`}
            onClick={onLock}
          >
            <Icon size={14} aria-hidden="true" />
          </button>
        )}
      </div>
      {problem && <FieldProblem id={`${id}-problem`}>{problem}</FieldProblem>}
    </div>
  )
}
