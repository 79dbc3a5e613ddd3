import { wrap } from 'comlink'
import { PLAIN_COLOURS, writeGif } from '../src/codecs'
import type { DisplayList } from '../src/core/display'
import type { Loop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import type { Picture } from '../src/core/image'
import { Painter } from '../src/render/draw'
import type { RenderService } from '../src/workers/inside/render.worker'
import { breathe } from '../src/workers/shared/timing'
import { busyLoop, CHANGE_PAUSE_MS, CHANGES, copiesLoop } from './drawing'

/**
 * Measurements that need real pixels, run inside a worker of Chromium by bench/run.mjs. Every figure is a median of
 * several runs in milliseconds; what is compared is measured in turns in the same run.
 */
const KEPT = Math.floor((64 * 1024 * 1024) / (1280 * 720 * 4))

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1] as number

function timed(work: () => void, times: number): number {
  const runs: number[] = []
  for (let i = 0; i < times; i++) {
    const start = performance.now()
    work()
    runs.push(performance.now() - start)
  }
  return median(runs)
}

/** Draws frames of a loop; reading one pixel back makes sure that they have really been drawn. */
function drawer({ width, height }: Loop) {
  const context = new OffscreenCanvas(width, height).getContext('2d')
  if (!context) throw new Error('no canvas')
  const painter = new Painter(width, height, (w, h) => {
    const surface = new OffscreenCanvas(w, h).getContext('2d')
    if (!surface) throw new Error('no canvas')
    return surface
  })
  return (list: DisplayList) => {
    painter.drawList(context, list)
    context.getImageData(0, 0, 1, 1)
  }
}

/** Evaluating and drawing one frame of a loop of 1280×720. */
function evaluateAndDraw(what: string, loop: Loop) {
  const draw = drawer(loop)
  let n = 0
  const lists = Array.from({ length: loop.length }, (_, frame) => evaluate(loop, frame))
  // One evaluation is shorter than the clock can tell.
  const evaluating = timed(() => lists.forEach((_, frame) => void evaluate(loop, frame)), 12) / lists.length
  const drawing = timed(() => draw(lists[n++ % lists.length] as DisplayList), 120)
  return { what, evaluate: evaluating, draw: drawing }
}

/** A whole GIF of a loop, drawn and written as the export does it, against writing the same frames, already drawn. */
async function gifAgainstEncoding(renderWorker: string) {
  const loop = busyLoop(12)
  const { width, height } = loop
  const count = loop.length
  const url = URL.createObjectURL(new Blob([renderWorker], { type: 'text/javascript' }))
  const drawing = wrap<RenderService>(new Worker(url, { type: 'module' }))
  const draw = (n: number) => drawing.picture(loop, n, width, height)
  const drawn = await Promise.all(Array.from({ length: count }, (_, n) => draw(n)))
  const write = async (from: (n: number) => Promise<Picture>) => {
    const start = performance.now()
    await writeGif({
      width,
      height,
      delaysCs: drawn.map(() => 4),
      colours: { ...PLAIN_COLOURS, transparent: false },
      draw: from,
      mostKept: KEPT,
      progress: breathe,
    })
    return performance.now() - start
  }
  const whole: number[] = []
  const alone: number[] = []
  for (let i = 0; i < 5; i++) {
    whole.push(await write(draw))
    alone.push(await write(async (n) => drawn[n] as Picture))
  }
  return {
    whole: median(whole),
    encodeAlone: median(alone),
    ratio: median(whole.map((ms, i) => ms / (alone[i] as number))),
  }
}

/** Evaluating and drawing a frame of the loop whose values are changed in the application, at the pace at which they are. */
async function drawOne() {
  const loop = busyLoop(12)
  const draw = drawer(loop)
  const runs: number[] = []
  for (let i = 0; i < CHANGES; i++) {
    await new Promise((resolve) => setTimeout(resolve, CHANGE_PAUSE_MS))
    runs.push(timed(() => draw(evaluate(loop, i)), 1))
  }
  return median(runs)
}

self.onmessage = async ({ data }: MessageEvent<string>) => {
  const gif = await gifAgainstEncoding(data)
  const frames = [
    ...[1, 12, 48].map((layers) => evaluateAndDraw(`${layers} layer${layers === 1 ? '' : 's'}`, busyLoop(layers))),
    evaluateAndDraw('400 staggered copies', copiesLoop()),
  ]
  postMessage({ frames, gif, drawOne: await drawOne() })
}
