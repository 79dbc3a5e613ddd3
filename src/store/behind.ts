import type { Loop } from '@/core/document'
import { behindLayer } from '@/core/edit'
import { lastingService, renderClient } from '@/workers/clients'

/** Pictures are counted at this size at the most, px a side. */
const SIDE = 160

/** One worker for all that is counted; it ends with the page. */
const painter = lastingService(renderClient)

/** How many pixels of what lies behind a layer have each value of red, green, blue, and of their mean, as shares of the most. */
export type Histogram = Readonly<Record<'all' | 'red' | 'green' | 'blue', readonly number[]>>

/** @param bins of equal width from black to white */
export async function histogramBehind(loop: Loop, id: string, frame: number, bins = 64): Promise<Histogram> {
  const scale = Math.min(1, SIDE / Math.max(loop.width, loop.height))
  const [width, height] = [loop.width, loop.height].map((side) => Math.max(1, Math.round(side * scale))) as [
    number,
    number,
  ]
  const behind = behindLayer(loop, id)
  const { data } = await painter.ask(async ({ service }) => service.picture(behind, frame, width, height))
  const counts = [0, 1, 2, 3].map(() => new Array<number>(bins).fill(0))
  const count = (channel: number, value: number, alpha: number) => {
    const row = counts[channel] as number[]
    const bin = Math.min(bins - 1, Math.floor((value * bins) / 256))
    row[bin] = (row[bin] as number) + alpha
  }
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number
    for (let c = 0; c < 3; c++) count(c, data[i + c] as number, alpha)
    count(3, ((data[i] as number) + (data[i + 1] as number) + (data[i + 2] as number)) / 3, alpha)
  }
  const [red, green, blue, all] = counts.map((row) => {
    const most = Math.max(1, ...row)
    return row.map((value) => value / most)
  }) as [number[], number[], number[], number[]]
  return { all, red, green, blue }
}
