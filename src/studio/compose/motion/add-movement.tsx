'use client'

import { useState } from 'react'
import { changeLayer, type Layer, type Loop } from '@/core/document'
import { newEvent, newMotion, newTremble, setEvent, setMotion, setTremble } from '@/core/edit'
import { layerKind } from '@/core/layers'
import type { MovingValue } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { ChoiceField } from '../../parts'

/** Gives a property of a layer a motion, a tremble or an event. */
export function AddMovement({ loop, layer }: { loop: Loop; layer: Layer }) {
  const { properties, effect } = layerKind(layer.kind)
  const names = Object.entries(properties)
    .filter(([name, { moves, when }]) => moves && layer.values[name] !== null && (when?.(layer.values) ?? true))
    .map(([name]) => name)
  const [name, setName] = useState(names.includes('rotation') && !effect ? 'rotation' : (names[0] ?? ''))
  const property = properties[name]
  const value = layer.values[name]
  if (!property || value === undefined || value === null) return null
  const change = (next: (each: Layer) => Layer) => {
    changeLoop((current) => changeLayer(current, layer.id, next))
    setSession({ property: name })
  }
  const moving = value as MovingValue
  return (
    <fieldset className="space-y-1">
      <legend className="dim mb-1 text-2xs">Give it</legend>
      <ChoiceField
        label="property"
        value={name}
        options={names}
        names={Object.fromEntries(names.map((each) => [each, properties[each]?.label ?? each]))}
        onChange={setName}
      />
      <div className="flex gap-1">
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          disabled={layer.motions[name] !== undefined}
          onClick={() => change((each) => setMotion(each, name, newMotion(property, moving)))}
        >
          a motion
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          disabled={layer.trembles?.[name] !== undefined}
          onClick={() => change((each) => setTremble(each, name, newTremble(property)))}
        >
          a tremble
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          disabled={layer.events?.[name] !== undefined}
          onClick={() => change((each) => setEvent(each, name, newEvent(property, moving, loop.length)))}
        >
          an event
        </button>
      </div>
    </fieldset>
  )
}

/** The same behind a button, for a layer that moves already. */
export function MoreMovement({ loop, layer }: { loop: Loop; layer: Layer }) {
  const [open, setOpen] = useState(false)
  if (open) return <AddMovement loop={loop} layer={layer} />
  return (
    <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={() => setOpen(true)}>
      A motion, tremble or event more …
    </button>
  )
}
