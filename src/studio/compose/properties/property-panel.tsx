'use client'

import { ChevronDown, Crosshair, Search } from 'lucide-react'
import dynamic from 'next/dynamic'
import { type ComponentType, memo, useMemo, useState } from 'react'
import type { Clock } from '@/core/clock'
import { changeLayer, findLayer, type Layer, type Loop } from '@/core/document'
import { newLayer, newMotion, setMotion, setValue } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import {
  layerKind,
  type Preset,
  type Property,
  type PropertyTable,
  type PropertyValue,
  type Values,
} from '@/core/layers'
import { isTied, type MovingValue } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { setSession, useSession, useStillFrame } from '@/store/session'
import { runCommand, shortcutOf } from '../../commands'
import { classNames, IconButton, PanelHeading } from '../../parts'
import { AddEffect } from './add-effect'
import { LoopPanel } from './loop-panel'
import { LowAndHigh } from './low-and-high'
import { ModelNotes } from './model-notes'
import { MovesPanel } from './moves-panel'
import { PropertyField } from './property-field'
import { RunningNotes } from './running-notes'
import { ValueDrawing } from './value-drawing'

/** Sections in the order in which they are shown, with their titles; those of one kind alone come first, by their own names. */
const SECTIONS: readonly (readonly [string, string])[] = [
  ['copies', 'Copies'],
  ['shape', 'Shape'],
  ['place', 'Place'],
  ['fill', 'Fill'],
  ['stroke', 'Stroke'],
  ['span', 'Span of the stroke'],
  ['mask', 'Mask'],
  ['effects', 'Effects'],
]

function sectionsOf(table: PropertyTable): readonly (readonly [string, string])[] {
  const others = new Set(Object.values(table).map(({ section }) => section))
  for (const [known] of SECTIONS) others.delete(known)
  return [...[...others].map((name) => [name, `${name[0]?.toUpperCase()}${name.slice(1)}`] as const), ...SECTIONS]
}

/** Sections of what is seldom touched, folded away until something in them is. */
const FOLDED = ['effects', 'light', 'ground']

/** What kinds of layers have to say that no single property does. */
const NOTES: Readonly<Record<string, ComponentType<{ loop: Loop; layer: Layer }>>> = {
  model: ModelNotes,
  // Comes with what judges it, when a mask is selected first.
  brush: dynamic(async () => (await import('../../seam/mask-edges')).OwnEdge, { ssr: false }),
}

/** A section all of whose properties are as a new layer has them says nothing yet. */
const isUntouched = (entries: readonly (readonly [string, Property])[], values: Values, moving: readonly string[]) =>
  entries.every(
    ([name, property]) => !moving.includes(name) && JSON.stringify(values[name]) === JSON.stringify(property.default),
  )

const moves = (entries: readonly (readonly [string, Property])[], moving: readonly string[]) =>
  entries.some(([name]) => moving.includes(name))

/** The properties of the selected layer, from the table that its kind declares. */
export function PropertyPanel({ loop }: { loop: Loop }) {
  const selection = useSession((session) => session.selection)
  const frame = useStillFrame()
  const [sought, setSought] = useState('')
  const layer = selection.length === 1 ? findLayer(loop, selection[0] as string) : undefined
  const { rate, length } = loop
  const clock = useMemo(() => ({ rate, length }), [rate, length])
  if (!layer)
    return selection.length > 1 ? (
      <SharedProperties loop={loop} layers={selection.flatMap((id) => findLayer(loop, id) ?? [])} />
    ) : (
      <LoopPanel loop={loop} />
    )
  const kind = layerKind(layer.kind)
  const Notes = NOTES[layer.kind]
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
        <MovesPanel key={layer.id} loop={loop} layers={[layer]} />
        {kind.presets && <Presets layer={layer} presets={kind.presets} />}
        {Notes && <Notes key={layer.id} loop={loop} layer={layer} />}
        {kind.running && <RunningNotes key={layer.id} loop={loop} layer={layer} property={kind.running} />}
        <label className="input input-xs mt-2 flex items-center gap-1.5 bg-transparent">
          <Search size={12} aria-hidden="true" className="dim" />
          <input
            type="search"
            className="w-full"
            placeholder="Find a property"
            aria-label="Find a property"
            value={sought}
            onChange={(event) => setSought(event.target.value)}
          />
        </label>
        {sectionsOf(kind.properties).map(([section, title]) => {
          const entries = Object.entries(kind.properties).filter(
            ([name, property]) =>
              property.section === section &&
              (property.when?.(layer.values) ?? true) &&
              `${property.label} ${title} ${name}`.toLowerCase().includes(sought.trim().toLowerCase()),
          )
          if (entries.length === 0) return null
          const moving = [layer.motions, layer.trembles ?? {}, layer.events ?? {}].flatMap((each) => Object.keys(each))
          const rows = entries.map(([name, property]) => (
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
          // What is seldom touched is folded away, unless it is sought.
          if (
            sought.trim() === '' &&
            (FOLDED.includes(section) || (section === 'place' && (kind.effect || kind.presets?.some(({ of }) => of))))
          )
            return (
              <details
                key={`${layer.id} ${section}`}
                className="group pt-2"
                open={FOLDED.includes(section) ? !isUntouched(entries, layer.values, moving) : moves(entries, moving)}
              >
                <summary className="dim mb-1 flex cursor-pointer list-none items-center gap-1 text-2xs">
                  {title}
                  <ChevronDown size={12} aria-hidden="true" className="group-open:rotate-180" />
                </summary>
                <div className="space-y-1">{rows}</div>
              </details>
            )
          return (
            <fieldset key={section} className="pt-2">
              <legend className="dim float-left mb-1 w-full text-2xs">{title}</legend>
              <div className="clear-both space-y-1">{rows}</div>
              {kind.note?.section === section && (
                <p className="dim figures mt-1 text-2xs">
                  {kind.note.text(values, cycleSeconds(layer, kind.note.cycleOf, clock))}
                </p>
              )}
            </fieldset>
          )
        })}
        <AddEffect on={kind.effect ? `After “${layer.name}”` : `On “${layer.name}”`} />
      </div>
    </section>
  )
}

/** How long a cycle of a tied motion lasts, s; null where there is none. */
function cycleSeconds(layer: Layer, property: string | undefined, { rate, length }: Clock): number | null {
  const period = property === undefined ? undefined : layer.motions[property]?.period
  return period && isTied(period) ? (length * rate.den) / rate.num / period.cycles : null
}

/** What stands for a layer in which a property rests. */
const STILL = newLayer('ellipse', 'still', {}, 'still')

/** Sets of values to begin with. */
function Presets({ layer, presets }: { layer: Layer; presets: readonly Preset[] }) {
  const take = ({ values }: Preset) =>
    changeLoop((current) =>
      changeLayer(current, layer.id, (each) => ({ ...each, values: { ...each.values, ...values } })),
    )
  const sorts = [...new Set(presets.map(({ of = '' }) => of))]
  return sorts.map((sort) => (
    <fieldset key={sort} className="pt-2">
      <legend className="dim float-left mb-1 w-full text-2xs">
        {sort === '' ? 'Begin with' : `Begin the ${sort} with`}
      </legend>
      <div className="clear-both flex flex-wrap gap-1">
        {presets
          .filter(({ of = '' }) => of === sort)
          .map((preset) => (
            <button key={preset.label} type="button" className="btn btn-neutral btn-xs" onClick={() => take(preset)}>
              {preset.label}
            </button>
          ))}
      </div>
    </fieldset>
  ))
}

/** Comes when several layers are selected first. */
const SharedProperties = dynamic(async () => (await import('./shared-properties')).SharedProperties, { ssr: false })

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
