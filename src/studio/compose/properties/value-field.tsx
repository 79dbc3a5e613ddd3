'use client'

import type { FC } from 'react'
import type { Clock } from '@/core/clock'
import { amountsOf, type Property, propertyType } from '@/core/layers'
import type { MovingValue } from '@/core/motion'
import { ColourField, NumberField } from '../../parts'
import { gesture } from '../motion/motion-of'

interface ValueFieldProps<V extends MovingValue = MovingValue> {
  readonly property: Property
  readonly label: string
  readonly hideLabel?: boolean
  readonly value: V
  readonly clock: Clock
  readonly onChange: (value: V) => void
}

const NumberValue: FC<ValueFieldProps<number>> = ({ property, label, hideLabel = false, value, clock, onChange }) => (
  <NumberField
    label={label}
    hideLabel={hideLabel}
    className={hideLabel ? 'w-20 shrink-0' : 'min-w-0'}
    value={value}
    {...amountsOf(property)}
    context={clock}
    onChange={onChange}
  />
)

const ColourValue: FC<ValueFieldProps<string>> = ({ label, hideLabel = false, value, onChange }) => (
  <div className="min-w-0 flex-1">
    <ColourField
      label={label}
      hideLabel={hideLabel}
      value={value}
      onChange={(next) => next && onChange(next)}
      onGesture={gesture}
    />
  </div>
)

/** Several numbers that are one value, such as a point: a field for each. */
const NumbersValue: FC<ValueFieldProps<readonly number[]>> = ({
  property,
  label,
  hideLabel,
  value,
  clock,
  onChange,
}) => {
  const { channels = [] } = propertyType(property)
  return (
    <div className="flex min-w-0 flex-1 items-center gap-1">
      {!hideLabel && <span className="dim w-19 shrink-0 truncate">{label}</span>}
      {value.map((each, i) => (
        <NumberField
          key={channels[i] ?? i}
          label={`${label}, ${channels[i] ?? i + 1}`}
          hideLabel
          className="min-w-0 flex-1"
          value={each}
          {...amountsOf(property)}
          context={clock}
          onChange={(next) => onChange(value.map((other, k) => (k === i ? next : other)))}
        />
      ))}
    </div>
  )
}

/** The field for one value that can be keyed, whatever its type: at a key, of an event, of the last of several copies. */
export function ValueField(props: ValueFieldProps) {
  const { value, onChange, ...field } = props
  if (typeof value === 'number') return <NumberValue {...field} value={value} onChange={onChange} />
  if (typeof value === 'string') return <ColourValue {...field} value={value} onChange={onChange} />
  return <NumbersValue {...field} value={value} onChange={onChange} />
}
