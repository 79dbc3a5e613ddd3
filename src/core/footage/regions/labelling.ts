import { modulo } from '../../modulo'
import { median, quantile } from '../../statistics'
import { ABOUT, type Cells, cellDistance } from '../look/cells'
import { repeatCost } from './block-costs'
import type { OwnLoop } from './own-loop'

/** Times of the loop at which borders are looked at. */
const MOMENTS = 12
/**
 * In a cell that changes much from frame to frame a mismatch is seen less: its cost falls with each step, by this share
 * for 1 of 255.
 */
const MASKING = 0.15
/** Cost of holding a cell that moves, as a multiple of its motion, at the middle of the slider. */
const HELD_COST = 1
/** A border is seen in every frame, a seam once in a loop. */
const BORDER_COST = 1

/** Two blocks of a few pixels differ by more than grain from this multiple of the grain's own distance. */
const GRAIN_MARGIN = 1.8
/**
 * Small costs of a moving cell where nothing moves, and of an invisible border: they keep regions as small as they need
 * to be.
 */
const MOVING_COST = 1
const UNSEEN_BORDER_COST = 0.1

/** Which loop each cell shows, and what that costs. */
export class Labelling {
  private readonly own: Float32Array
  private readonly noise: number
  private readonly pairs: Map<number, number> = new Map()
  private readonly moments: readonly number[]

  constructor(
    private readonly cells: Cells,
    private readonly loops: readonly OwnLoop[],
    length: number,
    amount: number,
  ) {
    const { across, down, frames } = cells
    const base = loops[0]?.start ?? 0
    const times = Math.min(MOMENTS, length)
    this.moments = Array.from({ length: times }, (_, k) => base + Math.floor((k * length) / times))
    const count = frames.length
    const still = amount >= 1 ? 1e9 : HELD_COST * (amount / (1 - amount)) ** 2
    const every = Math.max(1, Math.floor(count / 60))
    const steps = Array.from({ length: across * down }, (_, cell) => {
      const own: number[] = []
      for (let n = 0; n + 1 < count; n += every) own.push(cellDistance(cells, cell, n, n + 1))
      return median(own)
    })
    // The changes of the steadiest cells are grain.
    const noise = quantile(steps, 0.1)
    this.noise = noise
    this.own = new Float32Array(across * down * loops.length)
    for (let cell = 0; cell < across * down; cell++) {
      const step = Math.max(0, steps[cell] - 1.5 * noise - 0.5)
      const masked = 1 / (1 + MASKING * Math.sqrt(step))
      for (const [label, { start, period }] of loops.entries()) {
        let cost: number
        if (period === 1) cost = step > 0 ? Math.min(1e9, still * this.swing(cell, start, every, noise)) : 0
        else {
          let sum = 0
          let weights = 0
          for (const [lag, weight] of ABOUT) {
            const n = start + lag
            if (n < 0 || n + period >= count) continue
            sum += weight * cellDistance(cells, cell, n, n + period)
            weights += weight
          }
          if (weights === 0) {
            sum = cellDistance(cells, cell, start, start + period - 1)
            weights = 1
          }
          cost = masked * Math.max(0, sum / weights - GRAIN_MARGIN * noise) * repeatCost(period, length) + MOVING_COST
        }
        this.own[cell * loops.length + label] = cost
      }
    }
  }

  /** How far a cell gets from where it is held. */
  private swing(cell: number, held: number, every: number, noise: number): number {
    let sum = 0
    let n = 0
    for (let at = 0; at < this.cells.frames.length; at += every) {
      sum += cellDistance(this.cells, cell, at, held)
      n++
    }
    return Math.max(0, sum / n - GRAIN_MARGIN * noise)
  }

  /** The frame that a loop shows at a moment. */
  private shown(label: number, moment: number): number {
    const { start, period } = this.loops[label]
    return start + modulo(moment - start, period)
  }

  /** Cost of two neighbouring cells that show different loops. */
  private pair(first: number, second: number, a: number, b: number): number {
    if (a === b) return 0
    const L = this.loops.length
    const key = ((first * 2 + (second === first + 1 ? 0 : 1)) * L + a) * L + b
    const known = this.pairs.get(key)
    if (known !== undefined) return known
    let sum = 0
    for (const moment of this.moments) {
      const i = this.shown(a, moment)
      const j = this.shown(b, moment)
      if (i !== j) sum += cellDistance(this.cells, first, i, j) + cellDistance(this.cells, second, i, j)
    }
    const cost =
      BORDER_COST * Math.max(0, sum / this.moments.length - 2 * GRAIN_MARGIN * this.noise) + UNSEEN_BORDER_COST
    this.pairs.set(key, cost)
    return cost
  }

  energy(labels: Uint8Array): number {
    const { across, down } = this.cells
    let sum = 0
    for (let y = 0, cell = 0; y < down; y++)
      for (let x = 0; x < across; x++, cell++) {
        const label = labels[cell]
        sum += this.own[cell * this.loops.length + label]
        if (x + 1 < across) sum += this.pair(cell, cell + 1, label, labels[cell + 1])
        if (y + 1 < down) sum += this.pair(cell, cell + across, label, labels[cell + across])
      }
    return sum
  }

  /**
   * Improves labels until nothing helps: one loop after the other may spread along each row and column as far as that costs less, which is worked out exactly for a line
   * (Viterbi 1967).
   * @param free the cells that may change; null for all
   */
  async settle(from: Uint8Array, free: Uint8Array | null, pause: () => Promise<void>): Promise<Uint8Array> {
    const { across, down } = this.cells
    const labels = Uint8Array.from(from)
    for (let round = 0; round < 6; round++) {
      let changed = false
      for (let label = 0; label < this.loops.length; label++) {
        await pause()
        for (let y = 0; y < down; y++) changed = this.spread(labels, label, y * across, 1, across, free) || changed
        for (let x = 0; x < across; x++) changed = this.spread(labels, label, x, across, down, free) || changed
      }
      if (!changed) break
    }
    return labels
  }

  /** Lets a loop spread along a line of cells. @returns whether it has */
  private spread(
    labels: Uint8Array,
    label: number,
    from: number,
    by: number,
    count: number,
    free: Uint8Array | null,
  ): boolean {
    const { across } = this.cells
    const L = this.loops.length
    const keep = new Float64Array(count)
    const take = new Float64Array(count)
    // From which of both each came.
    const keptFrom = new Uint8Array(count)
    const takenFrom = new Uint8Array(count)
    const beside = by === 1 ? across : 1
    const cost = (cell: number, as: number): number => {
      let sum = this.own[cell * L + as]
      const at = by === 1 ? Math.floor(cell / across) : cell % across
      const last = by === 1 ? this.cells.down - 1 : across - 1
      if (at > 0) sum += this.pair(cell - beside, cell, labels[cell - beside], as)
      if (at < last) sum += this.pair(cell, cell + beside, as, labels[cell + beside])
      return sum
    }
    for (let k = 0; k < count; k++) {
      const cell = from + k * by
      const now = labels[cell]
      const mayTake = !free || free[cell]
      let toKeep = 0
      let toTake = 0
      if (k > 0) {
        const before = labels[cell - by]
        const kk = keep[k - 1] + this.pair(cell - by, cell, before, now)
        const tk = take[k - 1] + this.pair(cell - by, cell, label, now)
        const kt = keep[k - 1] + this.pair(cell - by, cell, before, label)
        const tt = take[k - 1]
        keptFrom[k] = tk < kk ? 1 : 0
        takenFrom[k] = tt < kt ? 1 : 0
        toKeep = Math.min(kk, tk)
        toTake = Math.min(kt, tt)
      }
      keep[k] = toKeep + cost(cell, now)
      take[k] = mayTake ? toTake + cost(cell, label) : Infinity
    }
    let changed = false
    let taken = take[count - 1] < keep[count - 1] - 1e-6 ? 1 : 0
    for (let k = count - 1; k >= 0; k--) {
      const cell = from + k * by
      const before = taken ? takenFrom[k] : keptFrom[k]
      if (taken && labels[cell] !== label) {
        labels[cell] = label
        changed = true
      }
      taken = before as number
    }
    return changed
  }
}
