'use client'

import { useCallback } from 'react'
import { changeLayer, type Layer } from '@/core/document'
import { setValue } from '@/core/edit'
import { layerKind, type NumberProperty } from '@/core/layers'
import { changeLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { fieldUnitText, showNumber } from '../../parts'
import { Sample } from '../../parts/sample'

/** px */
const SIZE = { width: 60, height: 34 }

interface LowAndHighProps {
  readonly layer: Layer
  readonly name: string
  readonly property: NumberProperty
  readonly shown: readonly [number, number]
}

/** The effect of a value, shown by two pictures, with a low and a high one; pressing a picture takes its value. */
export function LowAndHigh({ layer, name, property, shown }: LowAndHighProps) {
  return (
    <div className="mt-0.5 mb-1 flex justify-end gap-1 pr-7">
      {shown.map((value) => (
        <With key={value} layer={layer} name={name} property={property} value={value} />
      ))}
    </div>
  )
}

function With({ layer, name, property, value }: Omit<LowAndHighProps, 'shown'> & { readonly value: number }) {
  const { kind, values } = layer
  const draw = useCallback(
    (width: number, height: number) => {
      const { sample } = layerKind(kind)
      if (!sample) throw new Error(`a layer of kind ${kind} makes no samples`)
      return sample({ ...values, [name]: value }, width, height)
    },
    [kind, values, name, value],
  )
  const text = `${showNumber(value, property.unit)} ${fieldUnitText(property.unit)}`.trim()
  const take = () => {
    const now = frameNow()
    changeLoop((current) => changeLayer(current, layer.id, (each) => setValue(each, name, value, now, current.length)))
  }
  return (
    <button
      type="button"
      className="hairline cursor-pointer rounded-field border p-px hover:border-accent"
      aria-label={`${property.label} ${text}`}
      title={`${property.label} ${text}`}
      onClick={take}
    >
      <Sample {...SIZE} draw={draw} />
    </button>
  )
}
