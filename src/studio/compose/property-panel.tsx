'use client'

import { CircleDot, Crosshair } from 'lucide-react'
import { memo, useId, useMemo, useState } from 'react'
import type { Clock } from '@/core/clock'
import { layerKind, type NumbersProperty, type Property, type PropertyValue } from '@/core/layers'
import { changeLayer, findLayer, type Loop, newMotion, setMotion, setValue, valuesAt } from '@/core/loop'
import type { MovingValue } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSession, useStillFrame } from '@/store/session'
import { runCommand, shortcutOf } from '../commands'
import { ChoiceField, ColourField, classNames, FieldProblem, IconButton, NumberField, PanelHeading } from '../parts'
import { gesture } from './motion-of'

const SECTIONS: readonly [Property['section'], string][] = [
  ['shape', 'Shape'],
  ['place', 'Place'],
  ['fill', 'Fill'],
  ['stroke', 'Stroke'],
  ['span', 'Span of the stroke'],
]

/** The properties of the selected layer, from the table that its kind declares. */
export function PropertyPanel({ loop }: { loop: Loop }) {
  const selection = useSession((session) => session.selection)
  const frame = useStillFrame()
  const layer = selection.length === 1 ? findLayer(loop, selection[0] as string) : undefined
  const { rate, length } = loop
  const clock = useMemo(() => ({ rate, length }), [rate, length])
  if (!layer)
    return (
      <section className="h-full bg-base-100" aria-label="Properties">
        <PanelHeading title="Properties" />
        <p className="dim p-3 text-xs">
          {selection.length > 1
            ? `${selection.length} layers are selected. Group them to place them as one.`
            : 'Select a layer to see its properties.'}
        </p>
      </section>
    )
  const kind = layerKind(layer.kind)
  const values = valuesAt(layer, frame, length)
  return (
    <section className="flex h-full min-h-0 flex-col bg-base-100" aria-label="Properties">
      <PanelHeading title={layer.name}>
        <IconButton
          icon={Crosshair}
          label="Centre the pivot"
          shortcut={shortcutOf('centre-pivot')}
          onClick={() => runCommand('centre-pivot')}
        />
      </PanelHeading>
      <div className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        {SECTIONS.map(([section, title]) => {
          const entries = Object.entries(kind.properties).filter(([, property]) => property.section === section)
          if (entries.length === 0) return null
          return (
            <fieldset key={section} className="pt-2">
              <legend className="dim float-left mb-1 w-full text-2xs">{title}</legend>
              <div className="clear-both space-y-1">
                {entries.map(([name, property]) => (
                  <PropertyRow
                    key={`${layer.id} ${name}`}
                    clock={clock}
                    layerId={layer.id}
                    name={name}
                    property={property}
                    value={values[name] ?? null}
                    moves={layer.motions[name] !== undefined}
                  />
                ))}
              </div>
            </fieldset>
          )
        })}
      </div>
    </section>
  )
}

interface RowProps {
  readonly clock: Clock
  readonly layerId: string
  readonly name: string
  readonly property: Property
  /** As it is at the playhead. */
  readonly value: PropertyValue
  readonly moves: boolean
}

/** One property; drawn anew only when its own value changes. */
const PropertyRow = memo(function PropertyRow({ clock, layerId, name, property, value, moves }: RowProps) {
  const chosen = useSession((session) => session.property === name)
  const change = (next: PropertyValue) => {
    const now = frameNow()
    changeLoop((current) => changeLayer(current, layerId, (each) => setValue(each, name, next, now, current.length)))
  }
  const startMotion = () => {
    setSession({ property: name })
    if (moves || value === null) return
    changeLoop((current) =>
      changeLayer(current, layerId, (each) => setMotion(each, name, newMotion(property, value as MovingValue))),
    )
  }
  return (
    <div className={classNames('flex items-center gap-1 rounded-field', chosen && 'bg-neutral')}>
      <div className="min-w-0 flex-1">
        <PropertyField property={property} value={value} clock={clock} onChange={change} />
      </div>
      {property.moves ? (
        <button
          type="button"
          className={classNames('btn btn-ghost btn-xs btn-square', moves ? 'text-primary' : 'dim')}
          aria-label={moves ? `Show the motion of ${property.label}` : `Move ${property.label}`}
          title={moves ? `Show the motion of ${property.label}` : `Give ${property.label} a motion`}
          aria-pressed={chosen}
          disabled={value === null && !moves}
          onClick={startMotion}
        >
          {moves ? (
            <CircleDot size={14} aria-hidden="true" />
          ) : (
            <span className="size-2 rounded-full border border-current" />
          )}
        </button>
      ) : (
        <span className="btn btn-xs btn-square invisible" />
      )}
    </div>
  )
})

interface FieldProps {
  readonly property: Property
  readonly value: PropertyValue
  readonly clock: Clock
  readonly onChange: (value: PropertyValue) => void
}

/** The field for a type of property. */
function PropertyField({ property, value, clock, onChange }: FieldProps) {
  switch (property.type) {
    case 'number':
      return (
        <NumberField
          label={property.label}
          value={Number(value)}
          unit={property.unit}
          step={property.step}
          min={property.min}
          max={property.max}
          context={clock}
          onChange={onChange}
          onGesture={gesture}
        />
      )
    case 'colour':
      return (
        <ColourField
          label={property.label}
          value={value as string | null}
          noneLabel="none"
          onChange={onChange}
          onGesture={gesture}
        />
      )
    case 'choice':
      return <ChoiceField label={property.label} value={String(value)} options={property.options} onChange={onChange} />
    case 'numbers':
      return <NumbersField property={property} value={value as readonly number[]} onChange={onChange} />
  }
}

function NumbersField({
  property,
  value,
  onChange,
}: {
  property: NumbersProperty
  value: readonly number[]
  onChange: (value: readonly number[]) => void
}) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const numbers = (text: string) =>
    text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number)
  const wrong =
    draft !== null && (numbers(draft).some((n) => !(n >= 0 && n <= 1e6)) || numbers(draft).length > property.most)
  const commit = () => {
    if (draft !== null && !wrong) onChange(numbers(draft))
    setDraft(null)
  }
  return (
    <div className="relative">
      <div className="flex items-center gap-1.5">
        <label htmlFor={id} className="dim w-19 shrink-0 truncate">
          {property.label}
        </label>
        <input
          id={id}
          className={classNames('input input-xs figures w-full min-w-0 bg-transparent px-1.5', wrong && 'input-error')}
          placeholder="none; or 12 8"
          data-draft={draft !== null}
          value={draft ?? value.join(' ')}
          aria-invalid={wrong}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === 'Enter' && commit()}
        />
      </div>
      {wrong && <FieldProblem>up to {property.most} lengths in px, such as 12 8</FieldProblem>}
    </div>
  )
}
