'use client'

import { Lock, LockOpen } from 'lucide-react'
import { useMemo, useState } from 'react'
import { checkMotions, secondsOfFrames, withCount } from '@/core/closing'
import { changeLayer, findLayer, type Loop } from '@/core/document'
import type { FitPoint } from '@/core/fit'
import { admissibleCycles, speedError } from '@/core/fit'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { IconButton, NumberField } from '../parts'
import { BreakNotice } from './break-notice'
import { perCent } from './per-cent'
import { StrobeNote } from './strobe'
import { setWish, type WantedRow } from './use-fit'

interface FitTableProps {
  readonly loop: Loop
  readonly rows: readonly WantedRow[]
  /** The length that is pointed at. */
  readonly point: FitPoint | null
}

const short = (x: number, places = 3) => String(Number(x.toFixed(places)))

/** Every motion, tremble and event: its cycles, the period that is wanted, its lock, what a length makes of it, and what the eye sees. */
export function FitTable({ loop, rows, point }: FitTableProps) {
  const clock = useMemo(() => ({ rate: loop.rate, length: loop.length }), [loop.rate, loop.length])
  const [breaking, setBreaking] = useState<{ row: WantedRow; cycles: number } | null>(null)
  const reports = useMemo(() => checkMotions(loop), [loop])
  if (rows.length === 0)
    return <p className="dim p-3 text-xs">Nothing has a period yet: no motion, no tremble, nothing that happens.</p>

  const setCycles = (row: WantedRow, cycles: number) => {
    const whole = Math.round(cycles * row.fold) / row.fold
    if (Math.abs(cycles - whole) > 1e-6 || cycles < 1 / row.fold - 1e-9) return setBreaking({ row, cycles })
    setBreaking(null)
    changeLoop((current) => changeLayer(current, row.layerId, (layer) => withCount(layer, row, whole)))
  }
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <table className="table table-xs">
        <thead>
          <tr className="dim text-2xs">
            <th scope="col">motion</th>
            <th scope="col">cycles now</th>
            <th scope="col">wanted period</th>
            <th scope="col" title="So many like parts one cycle has: after each of them it looks the same">
              fold
            </th>
            <th scope="col">{point ? `at ${point.length} f` : 'fits as'}</th>
            <th scope="col">from frame to frame</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => {
            const cycles = point ? (point.cycles[i] as number) : admissibleCycles(row, loop.length)
            const length = point?.length ?? loop.length
            const error = speedError(row, length, cycles)
            // Half the period is twice the speed.
            const speed = (row.frames * cycles) / length
            return (
              <tr key={row.key} className="hairline">
                <th scope="row" className="font-normal">
                  <button
                    type="button"
                    className="text-start"
                    onClick={() => setSession({ selection: [row.layerId], property: row.name })}
                  >
                    {row.layer} · {row.label}
                  </button>
                </th>
                <td>
                  <NumberField
                    label={`Cycles of ${row.layer}, ${row.label}`}
                    hideLabel
                    className="w-20"
                    value={row.cycles}
                    unit=""
                    step={1 / row.fold}
                    context={clock}
                    onChange={(value) => setCycles(row, value)}
                  />
                </td>
                <td>
                  <div className="flex items-center gap-1">
                    <NumberField
                      label={`Wanted period of ${row.layer}, ${row.label}`}
                      hideLabel
                      className="w-22"
                      value={row.frames}
                      unit="frames"
                      step={1}
                      min={0.1}
                      max={1e6}
                      context={clock}
                      onChange={(frames) =>
                        setWish(loop, ({ frames: known }) => ({ frames: { ...known, [row.key]: frames } }))
                      }
                    />
                    <span className="dim figures w-14 text-2xs">
                      {short(secondsOfFrames(row.frames, loop.rate), 2)} s
                    </span>
                    <IconButton
                      icon={row.locked ? Lock : LockOpen}
                      label={`${row.locked ? 'Let' : 'Do not let'} the speed of ${row.layer}, ${row.label} bend`}
                      pressed={row.locked === true}
                      onClick={() => setWish(loop, ({ locked }) => ({ locked: { ...locked, [row.key]: !row.locked } }))}
                    />
                  </div>
                </td>
                <td className="figures">
                  {row.fold > 1 ? `${row.fold}-fold` : row.fold < 1 ? `home after ${Math.round(1 / row.fold)}` : '—'}
                </td>
                <td className="figures whitespace-nowrap" data-testid="fitted">
                  {short(cycles)} × {short(length / cycles, 2)} f{' '}
                  <span className={error === 0 ? 'text-accent' : 'dim'}>
                    {error === 0
                      ? 'as wanted'
                      : speed > 1
                        ? `${perCent(speed - 1)} faster`
                        : `${perCent(1 - speed)} slower`}
                  </span>
                </td>
                <td>
                  <StrobeNote
                    loop={loop}
                    report={reports.find(
                      ({ layer, name, inside }) =>
                        row.what === 'motion' && !inside && layer.id === row.layerId && name === row.name,
                    )}
                  />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {breaking && findLayer(loop, breaking.row.layerId) && (
        <BreakNotice
          loop={loop}
          row={breaking.row}
          cycles={breaking.cycles}
          onWhole={(cycles) => setCycles(breaking.row, cycles)}
          onDone={() => setBreaking(null)}
        />
      )}
    </div>
  )
}
