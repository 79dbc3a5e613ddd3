'use client'

import { Crosshair, Search } from 'lucide-react'
import dynamic from 'next/dynamic'
import { type ComponentType, useMemo } from 'react'
import { changeLayer, findLayer, type Layer, type Loop } from '@/core/document'
import { valuesAt } from '@/core/evaluate'
import { layerKind, type Preset, type PropertyTable } from '@/core/layers'
import { changeLoop } from '@/store/document'
import { setSession, useSession, useStillFrame } from '@/store/session'
import { runCommand, shortcutOf } from '../../commands'
import { IconButton, PanelHeading } from '../../parts'
import { AddEffect } from './add-effect'
import { LoopPanel } from './loop-panel'
import { ModelNotes } from './model-notes'
import { MovesPanel } from './moves-panel'
import { PropertySection } from './property-section'
import { RunningNotes } from './running-notes'

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

/** Notes of kinds of layers beyond their single properties. */
const NOTES: Readonly<Record<string, ComponentType<{ loop: Loop; layer: Layer }>>> = {
  model: ModelNotes,
  // Comes with what judges it, when a mask is selected first.
  brush: dynamic(async () => (await import('../../seam/mask-edges')).OwnEdge, { ssr: false }),
}

/** The properties of the selected layer, from the table that its kind declares. */
export function PropertyPanel({ loop }: { loop: Loop }) {
  const selection = useSession((session) => session.selection)
  const frame = useStillFrame()
  const sought = useSession((session) => session.sought)
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
  const words = sought.trim().toLowerCase()
  const shown = sectionsOf(kind.properties).flatMap(([section, title]) => {
    const entries = Object.entries(kind.properties).filter(
      ([name, property]) =>
        property.section === section &&
        (property.when?.(layer.values) ?? true) &&
        `${property.label} ${title} ${name}`.toLowerCase().includes(words),
    )
    return entries.length > 0 ? [[section, title, entries] as const] : []
  })
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
            onChange={(event) => setSession({ sought: event.target.value })}
          />
        </label>
        {shown.map(([section, title, entries]) => (
          <PropertySection
            key={`${layer.id} ${section}`}
            layer={layer}
            section={section}
            title={title}
            entries={entries}
            values={values}
            clock={clock}
            sought={words !== ''}
          />
        ))}
        {shown.length === 0 && <p className="dim mt-2 text-xs">No property of “{layer.name}” is called so.</p>}
        <AddEffect on={kind.effect ? `After “${layer.name}”` : `On “${layer.name}”`} />
      </div>
    </section>
  )
}

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
