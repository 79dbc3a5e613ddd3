'use client'

import type { ReactNode } from 'react'
import type { Clock } from '@/core/clock'
import { classNames, NumberField } from '../parts'
import { MODES, type Mode } from './compare'

/** A way to compare frames, with what it needs. */
export interface HowToCompare {
  readonly mode: Mode
  /** Times that a difference is shown. */
  readonly gain: number
  /** Flips per second. */
  readonly flips: number
}
export const FIRST_WAY: HowToCompare = { mode: 'side by side', gain: 8, flips: 2 }

interface ChoicesProps {
  readonly label: string
  readonly options: readonly string[]
  readonly chosen: number
  readonly onChoose: (index: number) => void
}

/** One of a few, all of them to be seen. */
export function Choices({ label, options, chosen, onChoose }: ChoicesProps) {
  return (
    <div className="join" role="group" aria-label={label}>
      {options.map((each, i) => (
        <button
          key={each}
          type="button"
          aria-pressed={chosen === i}
          className={classNames(
            'btn join-item btn-xs font-normal',
            chosen === i ? 'bg-neutral text-primary' : 'btn-ghost',
          )}
          onClick={() => onChoose(i)}
        >
          {each}
        </button>
      ))}
    </div>
  )
}

interface CompareToolsProps {
  readonly how: HowToCompare
  readonly onChange: (how: HowToCompare) => void
  readonly clock: Clock
  readonly children?: ReactNode
}

/** The ways to compare, and the numbers that they take. */
export function CompareTools({ how, onChange, clock, children }: CompareToolsProps) {
  const { mode, gain, flips } = how
  return (
    <>
      <Choices
        label="Way to compare"
        options={MODES}
        chosen={MODES.indexOf(mode)}
        onChoose={(i) => onChange({ ...how, mode: MODES[i] as Mode })}
      />
      {children}
      {mode === 'difference' && (
        <NumberField
          label="gain"
          value={gain}
          unit="×"
          step={1}
          min={1}
          max={64}
          context={clock}
          className="w-36"
          onChange={(value) => onChange({ ...how, gain: value })}
        />
      )}
      {mode === 'flip' && (
        <NumberField
          label="per second"
          value={flips}
          unit=""
          step={0.5}
          min={0.25}
          max={20}
          context={clock}
          className="w-36"
          onChange={(value) => onChange({ ...how, flips: value })}
        />
      )}
    </>
  )
}
