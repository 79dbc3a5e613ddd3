import { leastCommonMultiple } from '../../clock'
import { hash } from '../../random'
import { quantile } from '../../statistics'
import { ABOUT, type Cells } from '../look/cells'
import type { OwnLoop } from './own-loop'

/** Parts of the picture in which loops are looked for. */
const BLOCKS = { across: 8, down: 5 }
/** At most this many loops are weighed against each other in each cell, besides standing still. */
const MAX_LOOPS = 14
/** Ends fade into each other over at most this share of a period and at most this many frames. */
const FADE = { share: 1 / 3, most: 16 }

/** Frames of grain alone are up to this multiple of the usual distance of grain apart. */
const GRAIN_MARGIN = 1.3
/** Cost factor of an imperfect seam: the more often it is seen in the loop, the more it costs. */
export const repeatCost = (period: number, length: number): number => 1 + 0.5 * Math.max(0, Math.log2(length / period))

/**
 * Costs of each loop in each block of the picture, and in groups of blocks: a fault that crosses the border of small
 * blocks shows in a large one.
 */
export interface Table {
  readonly least: number
  /** By block, by length from the least on, by start. */
  readonly costs: readonly (readonly Float32Array[])[]
  /** How many small blocks each is. */
  readonly weights: readonly number[]
  /** How far frames of grain alone are apart in all of them together. */
  readonly noise: number
}

/** Costs of one block, before grain is taken off, and its grain. */
interface Raw {
  readonly rows: readonly Float32Array[]
  readonly noise: number
}

export async function blockCosts(cells: Cells, least: number, pause: () => Promise<void>): Promise<Table> {
  const small: Raw[] = []
  for (let by = 0; by < BLOCKS.down; by++)
    for (let bx = 0; bx < BLOCKS.across; bx++) {
      await pause()
      small.push(rawCosts(cells, cellsIn(cells, bx, by), least))
    }
  const groups = new Map<string, Raw[]>()
  for (const [n, raw] of small.entries()) {
    const bx = n % BLOCKS.across
    const by = Math.floor(n / BLOCKS.across)
    for (const size of [1, 2, 4, 8]) {
      const key = `${size} ${Math.floor(bx / size)} ${Math.floor(by / size)}`
      groups.set(key, [...(groups.get(key) ?? []), raw])
    }
  }
  const all = [...groups.values()]
  const count = cells.frames.length
  return {
    least,
    costs: all.map((group) => together(group, least, count)),
    weights: all.map((group) => group.length),
    noise: small.reduce((sum, { noise }) => sum + noise, 0),
  }
}

/** The cells of a block. */
function cellsIn({ across, down }: Cells, bx: number, by: number): number[] {
  const bounds = (n: number, of: number, size: number) =>
    [n, n + 1].map((at) => Math.floor((at * size) / of)) as [number, number]
  const [x0, x1] = bounds(bx, BLOCKS.across, across)
  const [y0, y1] = bounds(by, BLOCKS.down, down)
  const own: number[] = []
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) own.push(y * across + x)
  return own
}

function rawCosts(cells: Cells, own: readonly number[], least: number): Raw {
  const count = cells.frames.length
  const numbers = projected(cells, own)
  const gap = (i: number, j: number) => {
    const a = numbers[i]
    const b = numbers[j]
    let sum = 0
    for (let k = 0; k < a.length; k++) sum += (a[k] - b[k]) ** 2
    return sum
  }
  const noise = quantile(
    Array.from({ length: count - 1 }, (_, n) => gap(n, n + 1)),
    0.1,
  )
  const rows: Float32Array[] = []
  for (let period = least; period < count; period++) {
    const line = new Float32Array(count - period + 1).fill(Infinity)
    const between = Float32Array.from({ length: count - period }, (_, n) => gap(n, n + period))
    for (let start = 0; start <= count - period; start++) {
      let sum = 0
      let weights = 0
      for (const [lag, weight] of ABOUT) {
        const n = start + lag
        if (n < 0 || n >= between.length) continue
        sum += weight * between[n]
        weights += weight
      }
      if (weights > 0.3) line[start] = sum / weights
    }
    rows.push(line)
  }
  return { rows, noise }
}

/** Mean costs of loops over a group of blocks. */
function together(group: readonly Raw[], least: number, count: number): Float32Array[] {
  const noise = (GRAIN_MARGIN * group.reduce((sum, raw) => sum + raw.noise, 0)) / group.length
  const [first] = group as [Raw]
  return first.rows.map((row, r) => {
    const by = repeatCost(r + least, count)
    return row.map((_, start) => {
      let sum = 0
      for (const { rows } of group) sum += rows[r]?.[start]
      return Math.max(0, sum / group.length - noise) * by
    })
  })
}

/** Projections of a block at each frame: its sums by rows and by columns, which hold most of its motion. */
function projected({ frames, each }: Cells, own: readonly number[]): Float32Array[] {
  const most = Math.min(own.length, 24)
  const scale = Math.sqrt(1 / (each * own.length))
  const signs = Int8Array.from({ length: own.length * each }, (_, i) => (hash(own[0] ?? 0, i) >>> 31 ? 1 : -1))
  return frames.map((values) => {
    const out = new Float32Array(most * each)
    for (const [n, cell] of own.entries())
      for (let k = 0; k < each; k++) {
        const to = (n % most) * each + k
        const sign = signs[n * each + k]
        out[to] += scale * sign * values[cell * each + k]
      }
    return out
  })
}

/** The least that a block costs with loops of a period, and where it starts. */
function bestIn(table: Table, block: number, period: number): { readonly cost: number; readonly start: number } {
  const line = table.costs[block]?.[period - table.least]
  let best = { cost: Infinity, start: 0 }
  for (let start = 0; line && start < line.length; start++)
    if (line[start] < best.cost) best = { cost: line[start], start }
  return best
}

/** Periods that go into a length whole times. */
const periodsIn = (length: number, { least }: Table, count: number): number[] => {
  const periods: number[] = []
  for (let period = least; period <= Math.min(length, count - 1); period++)
    if (length % period === 0) periods.push(period)
  return periods
}

/** After how many frames all regions come home at the least cost, each at its best: of all lengths that the clip has, and multiples of two periods up to twice that. */
export function bestLength(table: Table, count: number): number {
  const { least } = table
  const blocks = table.costs.map((_, block) =>
    Array.from({ length: count - least }, (_, l) => bestIn(table, block, l + least).cost),
  )
  const lengths = new Set(Array.from({ length: count - least }, (_, l) => l + least))
  // Periods that suit a part of the picture well, and what two of them have in common.
  const good = new Set(blocks.map((costs) => costs.indexOf(Math.min(...costs)) + least))
  for (const a of good)
    for (const b of good) {
      const both = leastCommonMultiple(a, b)
      if (both <= 2 * count) lengths.add(both)
    }
  const spare = 0.1 * table.noise
  let best = { length: least, cost: Infinity }
  for (const length of lengths) {
    const periods = periodsIn(length, table, count)
    if (periods.length === 0) continue
    let cost = 0
    for (const [block, costs] of blocks.entries())
      cost +=
        table.weights[block] *
        periods.reduce((low, period) => Math.min(low, costs[period - least] ?? Infinity), Infinity)
    // A short loop is seen to repeat sooner; a long one must be worth its length.
    const fair = (cost + spare) * (1 + (0.5 * least) / length + Math.max(0, length / count - 0.8))
    if (fair < best.cost) best = { length, cost: fair }
  }
  return best.length
}

/** Loops that are weighed for a length: the best single one first, then whichever helps most. */
export function loopsFor(table: Table, length: number, count: number): { loops: OwnLoop[]; single: number } {
  const periods = periodsIn(length, table, count)
  const blocks = table.costs.length
  const costOf = (block: number, start: number, period: number) =>
    table.weights[block] * (table.costs[block]?.[period - table.least]?.[start] ?? Infinity)
  const all: { readonly start: number; readonly period: number; readonly costs: readonly number[] }[] = []
  const seen = new Set<string>()
  const propose = (start: number, period: number) => {
    const key = `${start} ${period}`
    if (seen.has(key)) return
    seen.add(key)
    all.push({ start, period, costs: Array.from({ length: blocks }, (_, block) => costOf(block, start, period)) })
  }
  for (const period of periods) {
    let best = { cost: Infinity, start: 0 }
    for (let start = 0; start + period <= count; start++) {
      let cost = 0
      for (let block = 0; block < blocks; block++) cost += costOf(block, start, period)
      if (cost < best.cost) best = { cost, start }
    }
    propose(best.start, period)
    for (let block = 0; block < blocks; block++) propose(bestIn(table, block, period).start, period)
  }
  const total = (costs: readonly number[]) => costs.reduce((sum, cost) => sum + cost, 0)
  const longest = Math.max(...periods)
  const rank = ({ period, costs }: (typeof all)[number]) => total(costs) * (period === longest ? 1 : 1.05)
  const single = all.reduce((a, b) => (rank(b) < rank(a) ? b : a))
  const chosen = [single]
  let now: readonly number[] = single.costs
  while (chosen.length < MAX_LOOPS) {
    let best: { readonly of: (typeof all)[number]; readonly left: number } | null = null
    for (const of of all) {
      const left = now.reduce((sum, cost, block) => sum + Math.min(cost, of.costs[block]), 0)
      if (!best || left < best.left) best = { of, left }
    }
    if (!best || best.left > 0.99 * total(now)) break
    const { costs } = best.of
    now = now.map((cost, block) => Math.min(cost, costs[block]))
    chosen.push(best.of)
  }
  return {
    loops: chosen.map(({ start, period }) => ({ start, period, overlap: fadeOf(start, period, count) })),
    single: 0,
  }
}

/** Over how many frames a loop fades: into those before it, or, negative, out of those after it; as there is room. */
function fadeOf(start: number, period: number, count: number): number {
  const most = Math.min(FADE.most, Math.floor(FADE.share * period))
  const before = Math.min(most, start)
  const after = Math.min(most, count - start - period)
  return before >= after ? before : -after
}
