import { useEffect, useRef, useState } from 'react'
import type { Loop } from '@/core/document'
import { type FileSettings, frontOf, searchWeight } from '@/core/output'
import type { WeighedPicture } from '@/workers/inside/encoders/weigh'
import { exportClient } from '@/workers/page/clients'

/** Limits of the search: settings weighed, and results under the weight limit. */
const MAX_WEIGHED = 60
const ENOUGH_RESULTS = 6
/** Number of the best results under the limit that are written whole, so that their weight is no estimate. */
const WHOLE_FILES = 3

export interface WeightSearch {
  readonly loop: Loop
  readonly settings: FileSettings
  readonly limit: number
  readonly points: readonly WeighedPicture[]
  readonly busy: boolean
  readonly problem: string | null
}

/** Searches settings under a weight in a worker. */
export function useWeightSearch() {
  const [search, setSearch] = useState<WeightSearch | null>(null)
  const client = useRef<ReturnType<typeof exportClient> | null>(null)
  useEffect(() => () => client.current?.end(), [])
  const stop = () => {
    client.current?.end()
    client.current = null
    setSearch((known) => known && { ...known, busy: false })
  }
  const start = async (loop: Loop, settings: FileSettings, limit: number) => {
    client.current?.end()
    const own = exportClient()
    client.current = own
    const current = () => client.current === own
    const points: WeighedPicture[] = []
    const show = () => {
      if (current()) setSearch((known) => known && { ...known, points: [...points] })
    }
    setSearch({ loop, settings, limit, points, busy: true, problem: null })
    const bytes = limit * 1000
    const weigh = async (wanted: FileSettings, how: 'compared' | 'whole') => {
      const point = await Promise.race([own.service.weigh(loop, wanted, how), own.broken])
      if (!current()) throw new Error('stopped')
      return point
    }
    try {
      await searchWeight(settings, loop, {
        limit: bytes,
        most: MAX_WEIGHED,
        enough: ENOUGH_RESULTS,
        weigh: async (wanted) => {
          const point = await weigh(wanted, 'compared')
          points.push(point)
          return point
        },
        found: show,
      })
      for (let sure = 0; sure < WHOLE_FILES; ) {
        const next = frontOf(points).find((point) => point.bytes <= bytes && point.uncertainty > 0)
        if (!next) break
        const point = await weigh(next.settings, 'whole')
        points[points.findIndex((each) => each.settings === next.settings)] = point
        if (point.bytes <= bytes) sure++
        show()
      }
    } catch (error) {
      if (current()) setSearch((known) => known && { ...known, problem: (error as Error).message })
    }
    own.end()
    if (current()) {
      client.current = null
      setSearch((known) => known && { ...known, busy: false })
    }
  }
  return { search, start, stop }
}
