'use client'

import { useState } from 'react'
import { BETWEEN, BETWEEN_WORDS, type Between, type ClipPlan } from '@/core/footage'
import { ChoiceField, NumberField } from '../parts'
import { CLOCK, Take } from './by-hand'

const BETWEEN_OF = new Map<string, Between>(BETWEEN.map((each) => [BETWEEN_WORDS[each], each]))
const WORDS = [...BETWEEN_OF.keys()]
const SPEEDS = { least: 12.5, most: 800 }

/** Slower by frames between those that there are, faster by their blur, or the other way round. */
export function PacePanel({ plan }: { readonly plan: ClipPlan }) {
  const [percent, setPercent] = useState(50)
  const [words, setWords] = useState<string>(BETWEEN_WORDS.flow)
  const count = plan.frames.length
  const after = Math.max(2, Math.round((100 * count) / percent))
  return (
    <details>
      <summary className="cursor-pointer text-xs font-semibold">Pace</summary>
      <div className="mt-1 space-y-1">
        <NumberField
          label="speed, in %"
          value={percent}
          unit=""
          step={5}
          min={SPEEDS.least}
          max={SPEEDS.most}
          context={CLOCK}
          onChange={setPercent}
        />
        {percent < 100 && <ChoiceField label="frames between" options={WORDS} value={words} onChange={setWords} />}
        <div className="flex flex-wrap gap-1">
          <Take
            mend={{ kind: 'pace', speed: percent / 100, between: BETWEEN_OF.get(words) ?? 'flow' }}
            disabled={after === count}
          >
            {percent < 100 ? 'Slower' : 'Faster, with blur'}: {after} frames
          </Take>
          <Take mend={{ kind: 'reverse' }}>Reverse it</Take>
        </div>
      </div>
    </details>
  )
}
