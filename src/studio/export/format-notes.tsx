'use client'

import { useCallback } from 'react'
import { changeLayer, type Loop } from '@/core/document'
import { addEffect } from '@/core/edit'
import { newId } from '@/core/id'
import { BANDING_SAID, type Banding } from '@/core/image'
import { type FileSettings, type Inexpressible, PLAIN_SETTINGS } from '@/core/output'
import { changeLoop } from '@/store/document'
import { FORMAT_NAMES } from './formats'
import { type Question, useInWorker } from './use-in-worker'

/** Parts that a vector file cannot show, layer by layer, listed before it is written. */
export function LeftOut({ loop, format }: { loop: Loop; format: 'svg' | 'lottie' }) {
  const ask: Question<Inexpressible[]> = useCallback((service) => service.leftOut(loop, format), [loop, format])
  const found = useInWorker(ask)
  if (!found) return <p className="dim text-xs">Looking at what can be said as vectors …</p>
  if (found.length === 0)
    return <p className="text-accent text-xs">Every layer is written as vectors, as it is drawn here.</p>
  return (
    <div className="text-xs" data-testid="left-out">
      <p className="text-primary">{FORMAT_NAMES[format]} cannot show all of it:</p>
      <ul className="list-disc ps-4">
        {found.map(({ layer, what }) => (
          <li key={`${layer} ${what}`}>
            {layer}: {what}
          </li>
        ))}
      </ul>
    </div>
  )
}

/** A grain that nobody sees as one, and that parts a step of 8 bits. */
const STILL_GRAIN = { amount: 0.006, size: 1 }

interface BandsProps {
  readonly settings: FileSettings
  readonly loop: Loop
  readonly onChange: (part: Partial<FileSettings>) => void
}

/** Whether smooth ways between colours show as bands in the file, and what takes them away without moving itself. */
export function Bands({ settings, loop, onChange }: BandsProps) {
  const { format, scale, colours, dithering } = settings
  const ask: Question<Banding> = useCallback(
    (service) => service.banding(loop, { ...PLAIN_SETTINGS, format, scale, colours, dithering }),
    [loop, format, scale, colours, dithering],
  )
  const found = useInWorker(ask)
  if (!found || found.share < BANDING_SAID) return null
  const gif = format === 'gif'
  const addGrain = () =>
    changeLoop((current) => {
      const made = addEffect(current, [], 'grain', 0, newId(), { name: 'Still grain', values: STILL_GRAIN })
      return made ? changeLayer(made.loop, made.id, (layer) => ({ ...layer, motions: {} })) : current
    })
  return (
    <div className="text-xs" data-testid="bands">
      <p className="text-primary">
        About {Math.round(100 * found.share)} % of the picture is smooth and will show bands{' '}
        {gif ? `in ${colours} colours` : 'in 8 bits a channel'}.
      </p>
      <button
        type="button"
        className="btn btn-neutral btn-xs mt-1 font-normal"
        onClick={() => (gif && dithering === 'none' ? onChange({ dithering: 'ordered' }) : addGrain())}
      >
        {gif && dithering === 'none' ? 'Dither that stands still' : 'A fine grain that stands still, in the loop'}
      </button>
    </div>
  )
}
