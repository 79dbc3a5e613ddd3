'use client'

import { useMemo } from 'react'
import { motionReport } from '@/core/closing'
import { changeLayer, findLayer, type Loop } from '@/core/document'
import { setMotion } from '@/core/edit'
import { formatGap } from '@/core/seam'
import { changeLoop } from '@/store/document'
import type { WantedRow } from './use-fit'

interface BreakNoticeProps {
  readonly loop: Loop
  readonly row: WantedRow
  /** A count that is not whole. */
  readonly cycles: number
  readonly onWhole: (cycles: number) => void
  readonly onDone: () => void
}

/** A count that does not come home: said what will be seen, and taken only on purpose. */
export function BreakNotice({ loop, row, cycles, onWhole, onDone }: BreakNoticeProps) {
  const broken = useMemo(
    () =>
      changeLayer(loop, row.layerId, (layer) => {
        const motion = layer.motions[row.name]
        return motion ? setMotion(layer, row.name, { ...motion, period: { frames: loop.length / cycles } }) : layer
      }),
    [loop, row, cycles],
  )
  const layer = findLayer(broken, row.layerId)
  const report = motionReport(broken, row.layerId, row.name)
  if (!layer || (!report && row.what === 'motion') || !(cycles > 0)) return null
  const least = 1 / row.fold
  const below = Math.max(least, Math.floor(cycles * row.fold) / row.fold)
  const above = Math.max(least, Math.ceil(cycles * row.fold) / row.fold)
  const count = (c: number) => `${Number(c.toFixed(3))} ${c === 1 ? 'cycle' : 'cycles'}`
  return (
    <div
      role="alert"
      className="hairline m-2 flex flex-wrap items-center gap-2 rounded-field border border-error px-3 py-2 text-xs"
    >
      <p className="min-w-60 flex-1">
        {count(cycles)} of {row.layer}, {row.label} end in mid-cycle.{' '}
        {row.what !== 'motion' || !report
          ? 'What trembles or happens repeats a whole number of times.'
          : report.home
            ? 'At the seam it happens to be back, but goes on differently.'
            : `At the seam it jumps by ${formatGap(report)}, once per loop.`}
      </p>
      <button type="button" className="btn btn-accent btn-xs" onClick={() => onWhole(below)}>
        Take {count(below)}
      </button>
      {above !== below && (
        <button type="button" className="btn btn-accent btn-xs" onClick={() => onWhole(above)}>
          Take {count(above)}
        </button>
      )}
      {row.what === 'motion' && (
        <button
          type="button"
          className="btn btn-error btn-outline btn-xs"
          onClick={() => {
            changeLoop(() => broken)
            onDone()
          }}
        >
          Break it on purpose
        </button>
      )}
      <button type="button" className="btn btn-ghost btn-xs" onClick={onDone}>
        Leave it
      </button>
    </div>
  )
}
