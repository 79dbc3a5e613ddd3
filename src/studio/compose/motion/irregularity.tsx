'use client'

import { X } from 'lucide-react'
import { useState } from 'react'
import { type Clock, MAX_LENGTH, toNumber } from '@/core/clock'
import type { Timed } from '@/core/closing'
import { changeLayer, type Layer } from '@/core/document'
import { setEvent, setTremble } from '@/core/edit'
import { amountsOf, type Property } from '@/core/layers'
import type { MotionEvent, Tremble } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { IconButton, NumberField } from '../../parts'
import { ExactLengths } from '../properties/exact-lengths'
import { ValueField } from '../properties/value-field'

interface FieldsProps {
  readonly clock: Clock
  readonly layer: Layer
  readonly name: string
  readonly property: Property
}

const Heading = ({ title, onRemove }: { title: string; onRemove: () => void }) => (
  <legend className="dim flex w-full items-center text-2xs">
    {title}
    <IconButton icon={X} label={`Take away: ${title}`} className="ms-auto" onClick={onRemove} />
  </legend>
)

interface PeriodProps extends Omit<FieldsProps, 'property'> {
  readonly what: Timed
  readonly cycles: number
  readonly onCycles: (cycles: number) => void
}

/**
 * How often something repeats, as whole cycles of the loop or as the time from one to the next. A time that does not fit is taken as nearly as whole cycles
 * allow, and the lengths of the loop at which it is exact are a press away.
 */
function PeriodFields({ clock, layer, name, what, cycles, onCycles }: PeriodProps) {
  const [wanted, setWanted] = useState<number | null>(null)
  const period = clock.length / cycles
  const fits = wanted === null || Math.abs(wanted - period) < 1e-6
  return (
    <>
      <NumberField
        label="cycles"
        value={cycles}
        unit="cycles"
        step={1}
        min={1}
        max={clock.length}
        context={clock}
        onChange={(next) => {
          setWanted(null)
          onCycles(Math.round(next))
        }}
      />
      <NumberField
        label="every"
        value={period}
        unit="frames"
        step={1}
        min={1}
        max={MAX_LENGTH}
        context={clock}
        onChange={(frames) => {
          setWanted(frames)
          onCycles(Math.max(1, Math.round(clock.length / frames)))
        }}
      />
      {!fits && (
        <ExactLengths
          clock={clock}
          layer={layer}
          property={name}
          what={what}
          seconds={wanted / toNumber(clock.rate)}
          words={`exactly ${Number(wanted.toFixed(3))} f`}
        />
      )}
    </>
  )
}

/** Irregularity that repeats: how much, how fine, how often, and which. */
export function TrembleFields({ clock, layer, name, property }: FieldsProps) {
  const tremble = layer.trembles?.[name]
  if (!tremble) return null
  const set = (change: Partial<Tremble> | null) =>
    changeLoop((loop) =>
      changeLayer(loop, layer.id, (each) => setTremble(each, name, change && { ...tremble, ...change })),
    )
  return (
    <fieldset className="space-y-1">
      <Heading title={`Tremble of ${property.label}`} onRemove={() => set(null)} />
      <NumberField
        label="amount"
        value={tremble.amount}
        {...('step' in property ? amountsOf(property) : { unit: 'share', step: 0.01 })}
        context={clock}
        onChange={(amount) => set({ amount })}
      />
      <NumberField
        label="detail"
        value={tremble.detail}
        unit=""
        step={1}
        min={1}
        max={1000}
        context={clock}
        onChange={(detail) => set({ detail: Math.round(detail) })}
      />
      <PeriodFields
        {...{ clock, layer, name }}
        what="tremble"
        cycles={tremble.cycles}
        onCycles={(cycles) => set({ cycles })}
      />
      <NumberField
        label="seed"
        value={tremble.seed}
        unit=""
        step={1}
        min={0}
        max={9999}
        context={clock}
        onChange={(seed) => set({ seed: Math.round(seed) })}
      />
    </fieldset>
  )
}

/** Something that is held for a few frames at some points of its own cycle. */
export function EventFields({ clock, layer, name, property }: FieldsProps) {
  const event = layer.events?.[name]
  if (!event) return null
  const set = (change: Partial<MotionEvent> | null) =>
    changeLoop((loop) => changeLayer(loop, layer.id, (each) => setEvent(each, name, change && { ...event, ...change })))
  const period = clock.length / event.cycles
  return (
    <fieldset className="space-y-1">
      <Heading title={`Event of ${property.label}`} onRemove={() => set(null)} />
      <ValueField
        property={property}
        label="is then"
        value={event.value}
        clock={clock}
        onChange={(value) => set({ value })}
      />
      <NumberField
        label="held for"
        value={event.frames}
        unit="frames"
        step={1}
        min={0.01}
        max={clock.length}
        context={clock}
        onChange={(frames) => set({ frames })}
      />
      <PeriodFields
        {...{ clock, layer, name }}
        what="event"
        cycles={event.cycles}
        onCycles={(cycles) => set({ cycles })}
      />
      {event.at.map((place, i) => (
        <div key={i} className="flex items-center gap-1">
          <NumberField
            label={i === 0 ? 'begins at' : `and at`}
            className="flex-1"
            value={place * period}
            unit="frames"
            step={1}
            min={0}
            max={period}
            context={clock}
            onChange={(frame) => set({ at: event.at.map((each, k) => (k === i ? Math.min(1, frame / period) : each)) })}
          />
          {event.at.length > 1 && (
            <IconButton
              icon={X}
              label={`Not at frame ${Number((place * period).toFixed(2))}`}
              onClick={() => set({ at: event.at.filter((_, k) => k !== i) })}
            />
          )}
        </div>
      ))}
      <button
        type="button"
        className="btn btn-ghost btn-xs font-normal"
        disabled={event.at.length >= 64}
        onClick={() => set({ at: [...event.at, ((event.at.at(-1) ?? 0) + 2 * (event.frames / period)) % 1] })}
      >
        Once more in the cycle
      </button>
    </fieldset>
  )
}
