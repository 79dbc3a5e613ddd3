import type { MotionReport } from '@/core/closing'
import type { Layer, Loop } from '@/core/document'
import { isTied, type Motion, type Period } from '@/core/motion'
import { DIAL } from './dial-geometry'

/** Where a ring lies, units of the dial. */
interface Breadth {
  readonly inner: number
  readonly outer: number
}

/** A lane of the dial: one motion, or a layer that does not move. */
export interface Lane extends Breadth {
  readonly layer: Layer
  readonly name: string | null
  readonly report: MotionReport | null
}

/** Motions of one period that share a ring, where each for itself would be too thin to be seen. */
export interface Band extends Breadth {
  /** One of the motions, for its period; null for layers that do not move, and where several periods have been put together. */
  readonly motion: Motion | null
  /** How many motions, or layers that do not move. */
  readonly count: number
  readonly label: string
  /** Ids of their layers. */
  readonly layers: readonly string[]
  readonly home: boolean
  readonly moves: boolean
}

const GAP = 1.5
const THICKEST = 15
/** More rings than this are a solid disc. */
export const MAX_RINGS = 24
/** Bands at the most; the rarest periods share the last. */
const MAX_BANDS = 10

interface Row {
  readonly layer: Layer
  readonly name: string | null
  readonly report: MotionReport | null
}

/**
 * Rings of the dial: one for each motion and each layer that does not move, from the outside in, front to back. If
 * there are too many, those of the selected layers, and the others merged by period, the slowest first.
 */
export function dialRings(
  loop: Loop,
  reports: readonly MotionReport[],
  selection: readonly string[],
): { readonly lanes: readonly Lane[]; readonly bands: readonly Band[] } {
  const known = new Map(
    reports.filter(({ inside }) => inside === null).map((each) => [`${each.layer.id} ${each.name}`, each]),
  )
  const rows = flatten(loop.layers).flatMap((layer): Row[] => {
    const names = Object.keys(layer.motions)
    if (names.length === 0) return [{ layer, name: null, report: null }]
    return names.map((name) => ({ layer, name, report: known.get(`${layer.id} ${name}`) ?? null }))
  })
  if (rows.length <= MAX_RINGS) return { lanes: laid(rows, 0, rows.length), bands: [] }
  const chosen = new Set(selection)
  const selected = rows.filter(({ layer }) => chosen.has(layer.id))
  const alone = selected.length <= MAX_RINGS - MAX_BANDS ? selected : []
  const rest = alone.length > 0 ? rows.filter(({ layer }) => !chosen.has(layer.id)) : rows
  const bands = banded(rest, loop.length)
  const all = alone.length + bands.length
  return { lanes: laid(alone, 0, all), bands: laid(bands, alone.length, all) }
}

const flatten = (layers: readonly Layer[]): Layer[] =>
  [...layers].reverse().flatMap((layer) => [layer, ...flatten(layer.layers ?? [])])

/** Things as rings, starting at ring `from` of `of`. */
function laid<T>(things: readonly T[], from: number, of: number): (T & Breadth)[] {
  const thick = Math.min(THICKEST, (DIAL.outer - DIAL.inner) / Math.max(1, of))
  return things.map((thing, i) => ({
    ...thing,
    outer: DIAL.outer - (from + i) * thick,
    inner: DIAL.outer - (from + i + 1) * thick + Math.min(GAP, thick / 4),
  }))
}

/** Cycles in a loop of N frames. */
const cyclesOf = (period: Period, length: number): number => (isTied(period) ? period.cycles : length / period.frames)

const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`

/** Rows by their periods. */
function banded(rows: readonly Row[], length: number): Omit<Band, keyof Breadth>[] {
  const still = rows.filter(({ name }) => name === null)
  const groups = new Map<string, Row[]>()
  for (const row of rows) {
    if (row.name === null) continue
    const period = row.layer.motions[row.name]?.period as Period
    const key = isTied(period) ? `tied ${period.cycles}` : `free ${Number(period.frames.toFixed(3))}`
    groups.set(key, [...(groups.get(key) ?? []), row])
  }
  const motionOf = (row: Row | undefined) => (row?.name ? (row.layer.motions[row.name] ?? null) : null)
  const bandOf = (group: readonly Row[], together: boolean): Omit<Band, keyof Breadth> => {
    const motion = together ? null : motionOf(group[0])
    const home = group.every(({ report }) => !report || (report.home && !report.repeatsFrame))
    const pace = motion
      ? `${counted(Number(cyclesOf(motion.period, length).toFixed(3)), 'cycle')}${isTied(motion.period) ? '' : ', free'}`
      : 'other periods'
    return {
      motion,
      count: group.length,
      label: `${counted(group.length, 'motion')}, ${pace}: ${home ? 'all come home' : 'not all come home'}`,
      layers: [...new Set(group.map(({ layer }) => layer.id))],
      home,
      moves: true,
    }
  }
  const most = still.length > 0 ? MAX_BANDS - 1 : MAX_BANDS
  const byCount = [...groups.values()].sort((a, b) => b.length - a.length)
  const apart = byCount.length <= most ? byCount : byCount.slice(0, most - 1)
  const rest = byCount.slice(apart.length).flat()
  const slowFirst = apart
    .map((group) => bandOf(group, false))
    .sort((a, b) => cyclesOf(a.motion?.period as Period, length) - cyclesOf(b.motion?.period as Period, length))
  return [
    ...slowFirst,
    ...(rest.length > 0 ? [bandOf(rest, true)] : []),
    ...(still.length > 0
      ? [
          {
            motion: null,
            count: still.length,
            label: `${counted(still.length, 'layer')} that ${still.length === 1 ? 'does' : 'do'} not move`,
            layers: still.map(({ layer }) => layer.id),
            home: true,
            moves: false,
          },
        ]
      : []),
  ]
}
