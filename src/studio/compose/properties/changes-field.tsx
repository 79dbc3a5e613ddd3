'use client'

import { Plus, X } from 'lucide-react'
import type { Clock } from '@/core/clock'
import { findLayer } from '@/core/document'
import { type Change, layerKind, mixingOf, type Property } from '@/core/layers'
import { useOpenLoop } from '@/store/document'
import { IconButton } from '../../parts'
import { ValueField } from './value-field'

/** How far a new change goes, by unit. */
/** The properties of what is copied that can change from the first copy to the last, by name. */
function useChangeable(layerId: string): ReadonlyMap<string, Property> {
  const loop = useOpenLoop()
  const copied = (loop && findLayer(loop, layerId)?.layers) ?? []
  const found = new Map<string, Property>()
  for (const { kind } of copied)
    for (const [name, property] of Object.entries(layerKind(kind).properties))
      if (property.moves && !found.has(name)) found.set(name, property)
  return found
}

interface ChangesFieldProps {
  readonly layerId: string
  readonly value: readonly Change[]
  readonly clock: Clock
  readonly onChange: (value: readonly Change[]) => void
}

/** Changes from the first copy to the last: any property of the copied layers, by an amount or to a colour. */
export function ChangesField({ layerId, value, clock, onChange }: ChangesFieldProps) {
  const changeable = useChangeable(layerId)
  const set = (property: string, to: Change['to']) =>
    onChange(value.map((each) => (each.property === property ? { property, to } : each)))
  const add = (name: string) => {
    const property = changeable.get(name)
    if (property) onChange([...value, { property: name, to: mixingOf(property).spread(property) }])
  }
  const left = [...changeable].filter(([name]) => !value.some(({ property }) => property === name))
  return (
    <div className="space-y-1">
      {value.map(({ property: name, to }) => {
        const property = changeable.get(name)
        const label = `${property?.label ?? name} ${typeof to === 'number' ? 'by' : 'to'}`
        return (
          <div key={name} className="flex items-center gap-1">
            <div className="min-w-0 flex-1">
              {property && (
                <ValueField
                  property={property}
                  label={label}
                  value={to}
                  clock={clock}
                  onChange={(next) => set(name, next)}
                />
              )}
            </div>
            <IconButton
              icon={X}
              label={`No change of ${property?.label ?? name}`}
              onClick={() => onChange(value.filter((each) => each.property !== name))}
            />
          </div>
        )
      })}
      <label className="flex items-center gap-1.5">
        <span className="dim w-26 shrink-0 truncate">change to the last</span>
        <span className="relative w-full min-w-0">
          <Plus size={12} className="dim pointer-events-none absolute top-1.5 left-1.5" aria-hidden="true" />
          <select
            className="select select-xs w-full min-w-0 bg-transparent ps-5"
            value=""
            onChange={(event) => add(event.target.value)}
          >
            <option value="" className="bg-base-100">
              …
            </option>
            {left.map(([name, { label }]) => (
              <option key={name} value={name} className="bg-base-100 text-base-content">
                {label}
              </option>
            ))}
          </select>
        </span>
      </label>
    </div>
  )
}
