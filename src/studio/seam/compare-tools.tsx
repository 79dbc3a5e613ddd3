'use client'

import type { ReactNode } from 'react'
import type { Clock } from '@/core/clock'
import { DIFFERENCES } from '@/core/image'
import { ChoiceField, Choices, GroundPicker, NumberField } from '../parts'
import { type HowToCompare, MODES, type Mode } from './compare'

interface CompareToolsProps {
  readonly how: HowToCompare
  readonly onChange: (how: HowToCompare) => void
  readonly clock: Clock
  /** Whether the frames play instead of being compared. */
  readonly playing?: boolean
  /** Whether there is a ground to be seen through the frames. */
  readonly transparent?: boolean
  readonly children?: ReactNode
}

/** The ways to compare, and the numbers that they take. */
export function CompareTools({
  how,
  onChange,
  clock,
  playing = false,
  transparent = false,
  children,
}: CompareToolsProps) {
  const { mode, gain, flips, kind } = how
  return (
    <>
      <Choices
        label="Way to compare"
        options={MODES}
        chosen={playing ? -1 : MODES.indexOf(mode)}
        onChoose={(i) => onChange({ ...how, mode: MODES[i] as Mode })}
      />
      {children}
      {transparent && <GroundPicker />}
      {!playing && mode === 'difference' && (
        <ChoiceField
          label="Painted as"
          hideLabel
          value={kind}
          options={DIFFERENCES}
          className="w-24"
          onChange={(next) => onChange({ ...how, kind: next })}
        />
      )}
      {!playing && mode === 'difference' && (
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
      {!playing && mode === 'flip' && (
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
