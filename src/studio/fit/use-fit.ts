import { useMemo } from 'react'
import { create } from 'zustand'
import { fraction } from '@/core/clock'
import { applyFit, type FitRow, fitRows } from '@/core/closing'
import type { Loop } from '@/core/document'
import { exactLength, type FitPoint, fitFront } from '@/core/fit'

/**
 * Wishes for motions that differ from their current state: kept while the loop is open, so that a fit can be undone and
 * tried again.
 */
interface Wishes {
  readonly loopId: string | null
  /** Wanted frames of one cycle, by motion. */
  readonly frames: Readonly<Record<string, number>>
  /** Motions whose speed must not bend. */
  readonly locked: Readonly<Record<string, boolean>>
  /** The longest length that is looked at, frames. */
  readonly most: number
}

const useWishes = create<Wishes>()(() => ({ loopId: null, frames: {}, locked: {}, most: 600 }))

const rowKey = ({ what, layerId, name }: Pick<FitRow, 'what' | 'layerId' | 'name'>) => `${what} ${layerId} ${name}`

export interface WantedRow extends FitRow {
  readonly key: string
}

/** The motions of a loop with what is wanted of them, and the front of lengths that this leads to. */
export function useFit(loop: Loop) {
  const wishes = useWishes()
  const own = wishes.loopId === loop.id
  const rows = useMemo(
    () =>
      fitRows(loop).map((row): WantedRow => {
        const key = rowKey(row)
        return {
          ...row,
          key,
          frames: (own && wishes.frames[key]) || row.frames,
          locked: own && wishes.locked[key] === true,
        }
      }),
    [loop, wishes, own],
  )
  const { most } = wishes
  const front = useMemo(() => (rows.length > 0 ? fitFront(rows, most) : []), [rows, most])
  const exact = useMemo(() => {
    const wanted = rows.map(({ frames, fold }) => {
      const millionths = Math.round(frames * 1e6)
      return { seconds: fraction(millionths, 1e6), fold }
    })
    return rows.length > 0 ? exactLength(wanted, fraction(1), 1e6) : null
  }, [rows])
  return { rows, front, exact, most }
}

export const setWish = (loop: Loop, change: (before: Wishes) => Partial<Wishes>): void =>
  useWishes.setState((before) => {
    const known = before.loopId === loop.id ? before : { ...before, frames: {}, locked: {}, loopId: loop.id }
    return { ...known, ...change(known) }
  })

/** The loop as a point of the front makes it. */
export const fittedLoop = (loop: Loop, rows: readonly WantedRow[], point: FitPoint): Loop =>
  applyFit(
    loop,
    point.length,
    rows.map(({ what, layerId, name }, i) => ({ what, layerId, name, cycles: point.cycles[i] ?? 1 })),
  )
