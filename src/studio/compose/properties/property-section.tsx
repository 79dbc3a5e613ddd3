'use client'

import { ChevronDown } from 'lucide-react'
import { memo, useState } from 'react'
import type { Clock } from '@/core/clock'
import { changeLayer, type Layer } from '@/core/document'
import { newLayer, newMotion, setMotion, setValue } from '@/core/edit'
import { layerKind, type Property, type PropertyValue, type Values } from '@/core/layers'
import { isTied, type MovingValue } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import { kept } from '../../kept'
import { classNames } from '../../parts'
import { LowAndHigh } from './low-and-high'
import { PropertyField } from './property-field'
import { ValueDrawing } from './value-drawing'

type Entry = readonly [string, Property]

/** Sections of what is seldom touched, folded away until something in them is. */
const FOLDED = ['effects', 'light', 'ground']

interface SectionProps {
  readonly layer: Layer
  readonly section: string
  readonly title: string
  readonly entries: readonly Entry[]
  /** As they are at the playhead. */
  readonly values: Values
  readonly clock: Clock
  /** Whether a property is looked for: then nothing that is found is folded away. */
  readonly sought: boolean
}

/** Properties under one heading: those that matter first, the rest a press away until somebody has touched them. */
export function PropertySection({ layer, section, title, entries, values, clock, sought }: SectionProps) {
  const kind = layerKind(layer.kind)
  // Who has opened it finds it open, with other layers too.
  const fold = `seldom ${section}`
  const [unfolded, setUnfolded] = useState(() => kept.getItem(fold) === 'open')
  const toggle = () => {
    kept.setItem(fold, unfolded ? 'folded' : 'open')
    setUnfolded(!unfolded)
  }
  const moving = [layer.motions, layer.trembles ?? {}, layer.events ?? {}].flatMap((each) => Object.keys(each))
  const isTouched = ([name, property]: Entry) =>
    moving.includes(name) || JSON.stringify(layer.values[name]) !== JSON.stringify(property.default)
  const rowsOf = (some: readonly Entry[]) =>
    some.map(([name, property]) => (
      <div key={`${layer.id} ${name}`}>
        <PropertyRow
          clock={clock}
          layerId={layer.id}
          name={name}
          property={property}
          value={values[name] ?? null}
          moves={moving.includes(name)}
          still={moving.includes(name) ? layer : STILL}
        />
        {kind.sample && property.type === 'number' && property.shown && (
          <LowAndHigh layer={layer} name={name} property={property} shown={property.shown} />
        )}
      </div>
    ))
  if (
    !sought &&
    (FOLDED.includes(section) || (section === 'place' && (kind.effect || kind.presets?.some(({ of }) => of))))
  )
    return (
      <details
        className="group pt-2"
        open={FOLDED.includes(section) ? entries.some(isTouched) : entries.some(([name]) => moving.includes(name))}
      >
        <summary className="dim mb-1 flex cursor-pointer list-none items-center gap-1 text-2xs">
          {title}
          <ChevronDown size={12} aria-hidden="true" className="group-open:rotate-180" />
        </summary>
        <div className="space-y-1">{rowsOf(entries)}</div>
      </details>
    )
  const seldom = sought ? [] : entries.filter((entry) => entry[1].seldom && !isTouched(entry))
  return (
    <fieldset className="pt-2">
      <legend className="dim float-left mb-1 w-full text-2xs">{title}</legend>
      <div className="clear-both space-y-1">
        {rowsOf(unfolded ? entries : entries.filter((entry) => !seldom.includes(entry)))}
        {seldom.length > 0 && (
          <button
            type="button"
            className="dim flex w-full items-center gap-1 text-left text-2xs"
            aria-expanded={unfolded}
            onClick={toggle}
          >
            <span className="truncate">{seldom.map(([, { label }]) => label).join(', ')}</span>
            <ChevronDown size={12} aria-hidden="true" className={classNames('shrink-0', unfolded && 'rotate-180')} />
          </button>
        )}
      </div>
      {kind.note?.section === section && (
        <p className="dim figures mt-1 text-2xs">
          {kind.note.text(values, cycleSeconds(layer, kind.note.cycleOf, clock))}
        </p>
      )}
    </fieldset>
  )
}

/** How long a cycle of a tied motion lasts, s; null where there is none. */
function cycleSeconds(layer: Layer, property: string | undefined, { rate, length }: Clock): number | null {
  const period = property === undefined ? undefined : layer.motions[property]?.period
  return period && isTied(period) ? (length * rate.den) / rate.num / period.cycles : null
}

/** A placeholder layer in which a property rests. */
const STILL = newLayer('ellipse', 'still', {}, 'still')

interface RowProps {
  readonly clock: Clock
  readonly layerId: string
  readonly name: string
  readonly property: Property
  /** As it is at the playhead. */
  readonly value: PropertyValue
  readonly moves: boolean
  /** The layer, where the property moves; else one that stands, so that it is not drawn anew. */
  readonly still: Layer
}

/** One property; drawn anew only when its own value changes. */
const PropertyRow = memo(function PropertyRow({ clock, layerId, name, property, value, moves, still }: RowProps) {
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
    <div data-property={name} className={classNames('flex items-center gap-1 rounded-field', chosen && 'bg-neutral')}>
      <div className="min-w-0 flex-1">
        <PropertyField
          name={name}
          property={property}
          layerId={layerId}
          value={value}
          clock={clock}
          onChange={change}
        />
      </div>
      {property.moves ? (
        <button
          type="button"
          className={classNames('btn btn-ghost btn-xs w-8 px-0', moves ? 'text-primary' : 'dim')}
          aria-label={moves ? `Show the motion of ${property.label}` : `Move ${property.label}`}
          title={moves ? `Show the motion of ${property.label}` : `Give ${property.label} a motion`}
          aria-pressed={chosen}
          disabled={value === null && !moves}
          onClick={startMotion}
        >
          <ValueDrawing layer={still} name={name} length={clock.length} />
        </button>
      ) : (
        <span className="btn btn-xs invisible w-8" />
      )}
    </div>
  )
})
