'use client'

import { useCallback } from 'react'
import type { Layer, Loop } from '@/core/document'
import { placeWords } from '@/core/seam'
import { setSession } from '@/store/session'
import type { SeenMask } from '@/workers/inside/seam.worker'
import { type SeenBy, useSeen } from '../parts'

/** Masks whose edges are seen in the picture, or one of them alone. */
function useMaskEdges(loop: Loop, only?: string): readonly SeenMask[] | null {
  const ask = useCallback((service: SeenBy) => service.maskEdges(loop, only), [loop, only])
  return useSeen(ask, 'The edges of masks could not be looked at.')?.found ?? null
}

const wordsOf = ({ name, share, step, at }: SeenMask) =>
  `The edge of “${name}” is seen ${placeWords(at)}: ${Math.round(100 * share)} % of it steps by ${step.toFixed(3)}, where the picture without it does not.`

/** Whether the edge of a mask that is being painted cuts through light or motion, and where. */
export function OwnEdge({ loop, layer }: { loop: Loop; layer: Layer }) {
  const found = useMaskEdges(loop, layer.id)
  if (!found || !Array.isArray(layer.values.strokes) || layer.values.strokes.length === 0) return null
  const [seen] = found
  return (
    <p role="status" className={seen ? 'pt-2 text-error text-xs' : 'dim pt-2 text-xs'}>
      {seen ? `${wordsOf(seen)} Paint it softer there, or past it.` : 'Its edge is not seen in the picture.'}
    </p>
  )
}

/** Masks whose edges are seen in the picture, and where. Nothing where there are none. */
export function MaskEdges({ loop, onSelect }: { loop: Loop; onSelect: () => void }) {
  const found = useMaskEdges(loop) ?? []
  if (found.length === 0) return null
  return (
    <section aria-label="Edges of masks">
      <h2 className="mt-5 mb-1 text-xs font-semibold">Edges of masks</h2>
      <ul className="space-y-2">
        {found.map((mask) => (
          <li key={mask.id}>
            <p className="text-error">{wordsOf(mask)}</p>
            <button
              type="button"
              className="btn btn-neutral btn-xs mt-1 font-normal"
              onClick={() => {
                setSession({ selection: [mask.id], property: null })
                onSelect()
              }}
            >
              Select it: paint it softer, or blur it
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
