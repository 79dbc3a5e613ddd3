'use client'

import { useRef, useState } from 'react'
import type { MotionReport } from '@/core/closing'
import { formatGap } from '@/core/seam'
import { setSession } from '@/store/session'
import type { View } from '../commands'
import { useDismiss } from '../parts'

/** One word for a motion at the seam. */
export function homeWord(report: MotionReport): string {
  if (report.repeatsFrame) return 'repeats a frame'
  if (report.ends) return report.ends.sides.length > 1 ? 'its ends are in sight' : 'its end is in sight'
  if (report.leap !== null) return `leaps back by ${formatGap(report)}`
  if (!report.home) return `off by ${formatGap(report)}`
  if (report.hesitates) return 'home, hesitates'
  if (report.exchanged) return 'home, by exchange'
  return 'comes home'
}

/** Whether there is nothing to say against a motion at the seam. */
export const isWellHome = ({ home, repeatsFrame, hesitates }: MotionReport): boolean =>
  home && !repeatsFrame && !hesitates

interface MotionsAtSeamProps {
  readonly motions: readonly MotionReport[]
  readonly home: number
  readonly go: (view: View) => void
}

/** How many motions come home; opened, each of them, one press away. */
export function MotionsAtSeam({ motions, home, go }: MotionsAtSeamProps) {
  const [open, setOpen] = useState(false)
  const box = useRef<HTMLDivElement>(null)
  useDismiss(box, open, () => setOpen(false))
  const all = home === motions.length
  return (
    <div ref={box} className="relative shrink-0">
      <button
        type="button"
        className={`btn btn-ghost btn-xs ${all ? 'text-accent' : 'text-error'}`}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {home} of {motions.length} home
      </button>
      {open && (
        <ul className="hairline absolute right-0 bottom-9 z-30 max-h-72 w-80 overflow-y-auto rounded-box border bg-base-100 p-1 shadow-lg">
          {motions.length === 0 && <li className="dim p-2">No property has a motion yet.</li>}
          {motions.map((report) => (
            <li key={`${report.layer.id} ${report.name}`}>
              <button
                type="button"
                className="flex w-full items-center justify-between gap-2 rounded-field px-2 py-1 text-start hover:bg-neutral"
                onClick={() => {
                  setOpen(false)
                  setSession({ selection: [report.layer.id], property: report.name })
                  go('compose')
                }}
              >
                <span className="truncate">
                  {report.layer.name} · {report.property.label}
                </span>
                <span className={`figures shrink-0 ${isWellHome(report) ? 'text-accent' : 'text-error'}`}>
                  {homeWord(report)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
