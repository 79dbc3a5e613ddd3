'use client'

import { Plus, X } from 'lucide-react'
import type { Clock } from '@/core/clock'
import type { Stop, StopsProperty } from '@/core/layers'
import { ColourField, IconButton, NumberField } from '../../parts'
import { gesture } from '../motion/motion-of'

interface StopsFieldProps {
  readonly property: StopsProperty
  readonly value: readonly Stop[]
  readonly clock: Clock
  readonly onChange: (value: readonly Stop[]) => void
}

/** Where a new colour fits best: the middle of the widest gap. */
function widestGap(stops: readonly Stop[]): number {
  const places = [0, ...stops.map(({ at }) => at).sort((a, b) => a - b), 1]
  const gaps = places
    .slice(1)
    .map((end, i) => ({ middle: (end + (places[i] ?? 0)) / 2, width: end - (places[i] ?? 0) }))
  return gaps.reduce((widest, gap) => (gap.width > widest.width + 1e-9 ? gap : widest)).middle
}

/** Colours between the first and the last of a gradient, each at its share of the way. */
export function StopsField({ property, value, clock, onChange }: StopsFieldProps) {
  const set = (index: number, change: Partial<Stop>) =>
    onChange(value.map((stop, i) => (i === index ? { ...stop, ...change } : stop)))
  const add = () => onChange([...value, { at: widestGap(value), colour: '#79c9b4' }])
  return (
    <div className="space-y-1">
      {value.map((stop, i) => (
        <div key={i} className="flex items-center gap-1">
          <div className="min-w-0 flex-1">
            <ColourField
              label={`colour ${i + 2}`}
              hideLabel
              value={stop.colour}
              onChange={(colour) => colour && set(i, { colour })}
              onGesture={gesture}
            />
          </div>
          <div className="w-16 shrink-0">
            <NumberField
              label={`place of colour ${i + 2}`}
              hideLabel
              value={stop.at}
              unit="share"
              step={0.05}
              min={0}
              max={1}
              context={clock}
              onChange={(at) => set(i, { at })}
            />
          </div>
          <IconButton
            icon={X}
            label={`Without colour ${i + 2}`}
            onClick={() => onChange(value.filter((_, other) => other !== i))}
          />
        </div>
      ))}
      {value.length < property.most && (
        <button type="button" className="btn btn-ghost btn-xs ms-20 gap-1 px-1.5 font-normal" onClick={add}>
          <Plus size={12} aria-hidden="true" /> Colour between
        </button>
      )}
    </div>
  )
}
