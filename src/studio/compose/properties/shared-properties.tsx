'use client'

import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceAround,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceAround,
  ChevronDown,
  Scaling,
} from 'lucide-react'
import { changeLayer, type Layer, type Loop } from '@/core/document'
import { setValue } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { type ChoiceProperty, layerKind, type NumberProperty, type Property, type PropertyValue } from '@/core/layers'
import { changeLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { useStillFrame } from '@/store/session'
import { runCommand } from '../../commands'
import { ChoiceField, ColourField, IconButton, NumberField, PanelHeading } from '../../parts'
import { gesture } from '../motion/motion-of'
import { AddEffect } from './add-effect'
import { MovesPanel } from './moves-panel'

const ALIGNS = [
  ['align-left', 'Align left edges', AlignStartVertical],
  ['align-centre', 'Align middles from side to side', AlignCenterVertical],
  ['align-right', 'Align right edges', AlignEndVertical],
  ['align-top', 'Align top edges', AlignStartHorizontal],
  ['align-middle', 'Align middles from top to bottom', AlignCenterHorizontal],
  ['align-bottom', 'Align bottom edges', AlignEndHorizontal],
  ['distribute-x', 'Even gaps from left to right', AlignHorizontalSpaceAround],
  ['distribute-y', 'Even gaps from top to bottom', AlignVerticalSpaceAround],
  ['same-size', 'As large as the last selected layer', Scaling],
] as const

/** Folded away to begin with: seldom touched. */
const FOLDED = ['effects', 'mask']
const SHARED_TYPES = ['number', 'colour', 'choice']

/** Properties that all of some layers have, in the order of the first. */
function sharedBy(layers: readonly Layer[]): [string, Property][] {
  const [first, ...others] = layers.map(({ kind }) => layerKind(kind).properties)
  return Object.entries(first ?? {}).filter(
    ([name, property]) =>
      SHARED_TYPES.includes(property.type) &&
      others.every((table) => table[name]?.type === property.type && table[name]?.label === property.label),
  )
}

/**
 * Editing of several selected layers: aligned, moved, and with all properties that they share; differing values are
 * marked.
 */
export function SharedProperties({ loop, layers }: { readonly loop: Loop; readonly layers: readonly Layer[] }) {
  const frame = useStillFrame()
  const ids = layers.map(({ id }) => id)
  const values = layers.map((layer) => valuesAt(layer, frame, loop.length))
  const change = (name: string, to: (value: PropertyValue) => PropertyValue) => {
    const now = frameNow()
    changeLoop((current) =>
      ids.reduce(
        (made, id) =>
          changeLayer(made, id, (layer) =>
            setValue(layer, name, to(valuesAt(layer, now, made.length)[name] ?? null), now, made.length),
          ),
        current,
      ),
    )
  }
  const shared = sharedBy(layers)
  const sections = [...new Set(shared.map(([, { section }]) => section))]
  return (
    <section className="flex h-full min-h-0 flex-col bg-base-100" aria-label="Properties">
      <PanelHeading title={`${layers.length} layers`} />
      <div className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        <div role="group" aria-label="Align" className="flex flex-wrap gap-0.5 pt-2">
          {ALIGNS.map(([id, label, icon]) => (
            <IconButton key={id} icon={icon} label={label} onClick={() => runCommand(id)} />
          ))}
        </div>
        <MovesPanel key={ids.join()} loop={loop} layers={layers} />
        {sections.map((section) => (
          <details key={section} className="group pt-2" open={!FOLDED.includes(section)}>
            <summary className="dim mb-1 flex cursor-pointer list-none items-center gap-1 text-2xs">
              {section[0]?.toUpperCase()}
              {section.slice(1)}
              <ChevronDown size={12} aria-hidden="true" className="group-open:rotate-180" />
            </summary>
            <div className="space-y-1">
              {shared
                .filter(([, property]) => property.section === section)
                .map(([name, property]) => (
                  <div key={name} data-property={name}>
                    <SharedField
                      property={property}
                      values={values.map((each) => each[name] ?? null)}
                      loop={loop}
                      onChange={(to) => change(name, to)}
                    />
                  </div>
                ))}
            </div>
          </details>
        ))}
        <AddEffect on="On the selected layers" />
      </div>
    </section>
  )
}

interface SharedFieldProps {
  readonly property: Property
  readonly values: readonly PropertyValue[]
  readonly loop: Loop
  readonly onChange: (to: (value: PropertyValue) => PropertyValue) => void
}

/** One property of several layers; a sum such as `+10` or `*2` is done to each. */
function SharedField({ property, values, loop, onChange }: SharedFieldProps) {
  const [first] = values
  const mixed = values.some((value) => value !== first)
  if (property.type === 'number') {
    const { label, unit, step, min, max, whole = false } = property as NumberProperty
    return (
      <NumberField
        {...{ label, unit, step, min, max, whole, mixed }}
        value={Number(first)}
        context={loop}
        onChange={(value) => onChange(() => value)}
        onEach={(to) => onChange((value) => to(Number(value)))}
      />
    )
  }
  if (property.type === 'colour')
    return (
      <ColourField
        label={mixed ? `${property.label}, mixed` : property.label}
        value={mixed ? null : (first as string | null)}
        noneLabel={mixed ? 'mixed' : 'none'}
        onChange={(value) => onChange(() => value)}
        onGesture={gesture}
      />
    )
  const { label, options } = property as ChoiceProperty
  return (
    <ChoiceField
      label={label}
      options={mixed ? ['mixed', ...options] : options}
      value={mixed ? 'mixed' : String(first)}
      onChange={(value) => value !== 'mixed' && onChange(() => value)}
    />
  )
}
