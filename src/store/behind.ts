import type { Loop } from '@/core/document'
import { behindLayer } from '@/core/edit'
import { lastingService, renderClient } from '@/workers/page/clients'

/** Pictures are counted at this size at the most, px a side. */
const SIDE = 160

/** One worker counts for all curves of a panel; it ends with the last of them. */
const painter = lastingService(renderClient)
let users = 0
let last: { readonly of: readonly unknown[]; readonly counted: Promise<Histogram> } | null = null

/** How many pixels of what lies behind a layer have each value of red, green, blue, and of their mean, as shares of the most. */
export type Histogram = Readonly<Record<'all' | 'red' | 'green' | 'blue', readonly number[]>>

/** From now on histograms may be asked for, until the function that is returned is called. */
export function openHistograms(): () => void {
  users++
  return () => {
    users--
    if (users > 0) return
    last = null
    painter.end()
  }
}

/** The histogram of what lies behind a layer at a frame; counted once, however many curves ask for it. */
export function histogramBehind(loop: Loop, id: string, frame: number): Promise<Histogram> {
  const of = [loop, id, frame]
  if (last?.of.every((each, i) => each === of[i])) return last.counted
  const counted = count(loop, id, frame)
  last = { of, counted }
  return counted
}

/** Columns of equal width from black to white. */
const BINS = 64

async function count(loop: Loop, id: string, frame: number): Promise<Histogram> {
  const scale = Math.min(1, SIDE / Math.max(loop.width, loop.height))
  const [width, height] = [loop.width, loop.height].map((side) => Math.max(1, Math.round(side * scale))) as [
    number,
    number,
  ]
  const behind = behindLayer(loop, id)
  const { data } = await painter.ask(async ({ service }) => service.picture(behind, frame, width, height))
  const counts = [0, 1, 2, 3].map(() => new Array<number>(BINS).fill(0))
  const add = (channel: number, value: number, alpha: number) => {
    const row = counts[channel] as number[]
    const bin = Math.min(BINS - 1, Math.floor((value * BINS) / 256))
    row[bin] = (row[bin] as number) + alpha
  }
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number
    for (let c = 0; c < 3; c++) add(c, data[i + c] as number, alpha)
    add(3, ((data[i] as number) + (data[i + 1] as number) + (data[i + 2] as number)) / 3, alpha)
  }
  const [red, green, blue, all] = counts.map((row) => {
    const most = Math.max(1, ...row)
    return row.map((value) => value / most)
  }) as [number[], number[], number[], number[]]
  return { all, red, green, blue }
}
