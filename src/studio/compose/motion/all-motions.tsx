'use client'

import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef } from 'react'
import { checkMotions } from '@/core/closing'
import type { Loop } from '@/core/document'
import { isTied } from '@/core/motion'
import { setSession } from '@/store/session'
import { homeWord, isWellHome } from '../../seam/motions-at-seam'

/** Height of a row, px. */
const ROW = 25

/** Every motion of the loop, what it does after each cycle, how often, and whether it comes home; one press away. */
export function AllMotions({ loop }: { loop: Loop }) {
  const reports = checkMotions(loop)
  const box = useRef<HTMLDivElement>(null)
  const seen = useVirtualizer({
    count: reports.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  if (reports.length === 0) return <p className="dim px-3 text-xs">No property has a motion yet.</p>
  const rows = seen.getVirtualItems()
  const above = rows[0]?.start ?? 0
  const below = seen.getTotalSize() - (rows.at(-1)?.end ?? 0)
  return (
    <div ref={box} className="max-h-[calc(100%-5rem)] overflow-y-auto px-1">
      <table className="table table-xs" aria-rowcount={reports.length + 1}>
        <thead className="sr-only">
          <tr>
            <th scope="col">layer</th>
            <th scope="col">property</th>
            <th scope="col">after each cycle</th>
            <th scope="col">period</th>
            <th scope="col">comes home</th>
          </tr>
        </thead>
        <tbody>
          {above > 0 && <tr aria-hidden="true" style={{ height: above }} />}
          {rows.map(({ index }) => {
            const report = reports[index]
            if (!report) return null
            const { layer, name, property, motion } = report
            const { period } = motion
            const count = isTied(period) ? period.cycles : Number((loop.length / period.frames).toFixed(3))
            return (
              <tr
                key={`${report.inside?.id} ${layer.id} ${name}`}
                aria-rowindex={index + 2}
                className="hairline h-[25px] hover:bg-neutral"
              >
                <td>
                  <button
                    type="button"
                    className="text-start"
                    aria-label={`Show the motion: ${layer.name}, ${property.label}`}
                    onClick={() => setSession({ selection: [layer.id], property: name })}
                  >
                    {layer.name}
                  </button>
                </td>
                <td>{property.label}</td>
                <td>{motion.after}</td>
                <td className="figures">
                  {count} {count === 1 ? 'cycle' : 'cycles'}
                  {isTied(period) ? '' : ', free'}
                </td>
                <td className={`figures ${isWellHome(report) ? 'text-accent' : 'text-error'}`}>{homeWord(report)}</td>
              </tr>
            )
          })}
          {below > 0 && <tr aria-hidden="true" style={{ height: below }} />}
        </tbody>
      </table>
    </div>
  )
}
