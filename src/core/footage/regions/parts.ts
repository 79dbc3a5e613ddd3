import type { Picture } from '../../image'
import { CELL, type Cells, cellsOf } from '../look/cells'
import { bestLength, blockCosts, loopsFor, type Table } from './block-costs'
import { Labelling } from './labelling'
import type { OwnLoop, Regions } from './own-loop'
import { MAX_PATCHES, patchMap } from './patches'

/** Clips of more frames are to be cropped first: every loop in every part of one is weighed. */
export const MAX_PART_FRAMES = 900
/** Cells across a picture, first and in the end. */
const CELLS = { coarse: 40, fine: 80 }

export interface PartsWanted {
  /** The shortest loop of a region, frames. */
  readonly least: number
  /** Frames after which all come home; null for those at which it costs least. */
  readonly length: number | null
  /** From 0, all stands still, to 1, all that moves does so. */
  readonly amount: number
}

/** Regions that were found, and what they cost: against the best single cut of that length, by the same energy. */
export interface FoundParts {
  readonly regions: Regions
  readonly energy: number
  readonly single: number
}

/** Pictures of a clip as they are looked at, taken in one after the other. */
export class PartsFinder {
  private readonly coarse: Uint8Array[] = []
  private readonly fine: Uint8Array[] = []
  /** The costs of all loops of a shortest length, which take longest to compute; kept for the next question. */
  private table: Promise<Table> | null = null
  private tableOf = 0
  private shape = { coarse: { across: 1, down: 1 }, fine: { across: 1, down: 1 } }

  /** @throws RangeError for more frames than are weighed */
  add(picture: Picture): void {
    if (this.coarse.length >= MAX_PART_FRAMES)
      throw new RangeError(`Regions are found in clips of up to ${MAX_PART_FRAMES} frames. Crop it first.`)
    const coarse = cellsOf(picture, CELLS.coarse)
    const fine = cellsOf(picture, CELLS.fine)
    this.table = null
    this.coarse.push(coarse.values)
    this.fine.push(fine.values)
    this.shape = { coarse, fine }
  }

  private costs(cells: Cells, least: number, pause: () => Promise<void>): Promise<Table> {
    if (this.table && this.tableOf === least) return this.table
    this.tableOf = least
    const table = blockCosts(cells, least, pause)
    this.table = table
    // One that was left is worked out anew.
    table.catch(() => {
      if (this.table === table) this.table = null
    })
    return table
  }

  /**
   * Gives each region of the picture its own start and period (Liao, Joshi & Hoppe 2013): so that it agrees with itself over its seam, and with those beside it along their
   * border. From coarse to fine; never worse, by its energy, than the best single cut.
   * @param pause is waited for now and then; may throw to stop
   * @param rough is told of the regions as they are found coarsely
   * @throws RangeError where there are too few frames
   */
  async find(
    wanted: PartsWanted,
    pause: () => Promise<void> = async () => {},
    rough: (regions: Regions) => void = () => {},
  ): Promise<FoundParts> {
    const count = this.coarse.length
    const least = Math.max(2, Math.min(wanted.least, count >> 1))
    if (count < 2 * least) throw new RangeError('There are too few frames for regions to have loops of their own.')
    const each = CELL * CELL * 3
    const coarse: Cells = { ...this.shape.coarse, frames: this.coarse, each }
    const fine: Cells = { ...this.shape.fine, frames: this.fine, each }
    const table = await this.costs(coarse, least, pause)
    const length = wanted.length ?? bestLength(table, count)
    const { loops, single } = loopsFor(table, length, count)
    const held: OwnLoop = { start: loops[single]?.start ?? 0, period: 1, overlap: 0 }
    const all = [...loops, held].slice(0, MAX_PATCHES)
    const first = new Labelling(coarse, all, length, wanted.amount)
    const begin = (label: number) => first.settle(new Uint8Array(coarse.across * coarse.down).fill(label), null, pause)
    const moving = await begin(single)
    const still = await begin(all.length - 1)
    const begun = first.energy(still) < first.energy(moving) ? still : moving
    rough(inUse(begun, coarse, all, length, count))
    const second = new Labelling(fine, all, length, wanted.amount)
    const start = enlarged(begun, coarse, fine)
    const found = await second.settle(start, bordersOf(start, fine), pause)
    const whole = new Uint8Array(fine.across * fine.down).fill(single)
    const energy = second.energy(found)
    const lone = second.energy(whole)
    const labels = energy <= lone ? found : whole
    return { regions: inUse(labels, fine, all, length, count), energy: Math.min(energy, lone), single: lone }
  }
}

/** Labels at a finer size. */
function enlarged(labels: Uint8Array, from: Cells, to: Cells): Uint8Array {
  const out = new Uint8Array(to.across * to.down)
  for (let y = 0; y < to.down; y++)
    for (let x = 0; x < to.across; x++) {
      const fx = Math.min(from.across - 1, Math.floor((x * from.across) / to.across))
      const fy = Math.min(from.down - 1, Math.floor((y * from.down) / to.down))
      out[y * to.across + x] = labels[fy * from.across + fx]
    }
  return out
}

/** Cells within two of another label: those that are looked at again. */
function bordersOf(labels: Uint8Array, { across, down }: Cells): Uint8Array {
  const out = new Uint8Array(across * down)
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++)
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++) {
          const nx = x + dx
          const ny = y + dy
          if (nx < 0 || ny < 0 || nx >= across || ny >= down) continue
          if (labels[ny * across + nx] !== labels[y * across + x]) out[y * across + x] = 1
        }
  return out
}

/** A map of the loops that are shown anywhere, and no others. */
function inUse(
  labels: Uint8Array,
  { across, down }: Cells,
  loops: readonly OwnLoop[],
  length: number,
  count: number,
): Regions {
  const used = [...new Set(labels)].sort((a, b) => a - b)
  return {
    kind: 'parts',
    length,
    map: patchMap(
      across,
      down,
      labels.map((label) => used.indexOf(label)),
    ),
    loops: used.map((label) => loops[label]).map((loop) => ({ ...loop, start: Math.min(loop.start, count - 1) })),
  }
}
