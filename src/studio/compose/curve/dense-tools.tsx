'use client'

import { useState } from 'react'
import { changeLayer, type Layer } from '@/core/document'
import { setMotion } from '@/core/edit'
import { equivalenceOf, UNITS } from '@/core/layers'
import { closeGap, keyedTogether, type Motion, reduceGap, thinTogether } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { NumberField } from '../../parts'
import type { MotionOf } from '../motion/motion-of'
import { DENSE } from './curve-keys'

/** Errors within which a recording is thinned, by unit. */
/** Tools for many keys: thinning within an error, and spreading a gap over the cycle. */
export function DenseTools(of: MotionOf & { readonly layer: Layer }) {
  const { motion, property, name, layer, clock } = of
  const isNumber = 'step' in property && typeof motion.keys[0]?.value === 'number'
  const [error, setError] = useState(isNumber ? UNITS[property.unit].slack : 0)
  if (!isNumber || motion.keys.length < 3) return null
  const numeric = motion as Motion<number>
  const other = name === 'x' ? 'y' : name === 'y' ? 'x' : null
  const companion = other ? (layer.motions[other] as Motion<number> | undefined) : undefined
  const pair = companion && keyedTogether([numeric, companion]) ? [numeric, companion] : [numeric]
  const both = pair.length > 1
  const apply = (changed: readonly Motion[]) =>
    changeLoop((loop) =>
      changeLayer(loop, layer.id, (each) => {
        const [own, beside] = changed
        const first = own ? setMotion(each, name, own) : each
        return beside && other ? setMotion(first, other, beside) : first
      }),
    )
  const m = equivalenceOf(property, layer.values)
  const closed = closeGap(pair, (gap) => reduceGap(gap, m))
  const isOpen = closed.some((each, i) => {
    const before = pair[i] as Motion<number>
    return each.keys.some(({ value }, k) => Math.abs(value - (before.keys[k]?.value ?? value)) > 1e-6)
  })
  const closable = motion.after === 'once' || motion.after === 'repeat'
  return (
    <fieldset className="space-y-1">
      <legend className="dim text-2xs">
        {motion.keys.length} keys{both ? ', x and y together' : ''}
      </legend>
      {motion.keys.length > DENSE && (
        <div className="flex items-center gap-1">
          <NumberField
            label="within"
            className="flex-1"
            value={error}
            unit={property.unit}
            step={property.step / 2}
            min={0}
            context={clock}
            onChange={setError}
          />
          <button
            type="button"
            className="btn btn-neutral btn-xs font-normal"
            onClick={() => apply(thinTogether(pair, error))}
          >
            Thin it
          </button>
        </div>
      )}
      {closable && isOpen && (motion.keys.length > DENSE || motion.after === 'once') && (
        <button type="button" className="btn btn-neutral btn-xs font-normal" onClick={() => apply(closed)}>
          Close it: spread the gap over the cycle
        </button>
      )}
    </fieldset>
  )
}
