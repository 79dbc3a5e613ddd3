import { type Fraction, MAX_LENGTH, toNumber } from '../clock'
import { changeLayer, type Loop, MAX_SIZE } from '../document'
import { fitFront } from '../fit'
import { evenly } from '../motion'
import { type Brief, newLoop } from './edit'
import { placeLoop, secondsOf } from './nest'

/** A cell of a sheet is no larger than this, px a side. */
const MAX_CELL_PX = 480
/** Longest duration of a sheet, s, and the largest change of pace of a loop on it where that can be kept. */
const MAX_SECONDS = 60
const TRUE = 0.005
/** An exact length may be at most this many times the nearly exact one. */
const WORTH = 4

/** A loop with others side by side in it, and how far the pace of the one that is bent most is from its own. */
export interface Sheet {
  readonly loop: Loop
  readonly worst: number
}

const faster = (a: Fraction, b: Fraction): Fraction => (toNumber(a) >= toNumber(b) ? a : b)

/**
 * Loops side by side on one sheet, each running at its own pace: the shortest length at which all come home exactly, if it is worth it, or within half a per cent of
 * theirs; or that bends them least within a minute.
 * @throws RangeError where there are none
 */
export function sheetOf(loops: readonly Loop[], name: string): Sheet {
  const [first] = loops
  if (!first) throw new RangeError('a sheet has one loop at least')
  const rate = loops.map((loop) => loop.rate).reduce(faster)
  const motions = loops.map((loop) => ({ frames: secondsOf(loop) * toNumber(rate), fold: 1 }))
  const longest = Math.max(...motions.map(({ frames }) => Math.ceil(frames)))
  const most = Math.min(MAX_LENGTH, Math.max(longest, Math.round(MAX_SECONDS * toNumber(rate))))
  const front = fitFront(motions, most, Math.max(1, Math.floor(longest)))
  const near = front.find(({ worstError }) => worstError <= TRUE) ?? front.at(-1)
  const exact = front.find(({ worstError }) => worstError === 0)
  const point = exact && near && exact.length <= WORTH * near.length ? exact : near
  if (!point) throw new RangeError('these loops have no length in common')
  const columns = Math.ceil(Math.sqrt(loops.length))
  const rows = Math.ceil(loops.length / columns)
  const largest = Math.min(MAX_CELL_PX, Math.floor(MAX_SIZE / columns))
  const cellOf = (side: 'width' | 'height') => Math.min(largest, Math.max(...loops.map((loop) => loop[side])))
  const cell = { width: cellOf('width'), height: cellOf('height') }
  const brief: Brief = {
    name,
    kind: first.kind === 'turntable' ? 'loader' : first.kind,
    width: columns * cell.width,
    height: rows * cell.height,
    background: loops.every(({ background }) => background === first.background) ? first.background : null,
    rate,
    length: point.length,
  }
  let sheet = newLoop(brief)
  for (const [n, inner] of loops.entries()) {
    const placed = placeLoop(sheet, inner)
    const scale = Math.min(1, cell.width / inner.width, cell.height / inner.height)
    const values = {
      x: ((n % columns) + 0.5) * cell.width,
      y: (Math.floor(n / columns) + 0.5) * cell.height,
      width: inner.width * scale,
      height: inner.height * scale,
    }
    sheet = changeLayer(placed.loop, placed.layer.id, (layer) => ({
      ...layer,
      values: { ...layer.values, ...values },
      motions: { ...layer.motions, time: evenly(1, point.cycles[n] ?? 1) },
    }))
  }
  return { loop: sheet, worst: point.worstError }
}
