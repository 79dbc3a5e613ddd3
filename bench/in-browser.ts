import { GifWriter, loopPalette } from '../src/codecs'
import type { Picture } from '../src/core/image'
import { evaluate } from '../src/core/loop'
import { BrowserRenderer } from '../src/render/browser'
import { busyLoop } from './drawing'

/**
 * Measurements that need real pixels, run inside a worker of Chromium by bench/run.mjs. Every figure is a median of
 * several runs in milliseconds; what is compared is measured in turns in the same run.
 */
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

/** Evaluating and drawing one frame of 1280×720, by the number of layers. */
function evaluateAndDraw(layers: number) {
  const loop = busyLoop(layers)
  const renderer = new BrowserRenderer(loop.width, loop.height, true)
  let n = 0
  const lists = Array.from({ length: loop.length }, (_, frame) => evaluate(loop, frame))
  const evaluating = timed(() => void evaluate(loop, n++ % loop.length), 240)
  // Reading the pixels back makes sure that they have been drawn.
  const drawing = timed(() => void renderer.picture(lists[n++ % lists.length] as (typeof lists)[number]), 60)
  return { layers, evaluate: evaluating, draw: drawing }
}

/** A whole GIF of a loop (draw, palette, map, write) against encoding the same frames, already drawn. */
function gifAgainstEncoding() {
  const loop = busyLoop(12)
  const length = 24
  const colours = { colours: 256, dithering: 'none', transparent: false } as const
  const renderer = new BrowserRenderer(loop.width, loop.height, true)
  const draw = (n: number): Picture => renderer.picture(evaluate(loop, (n * loop.length) / length))
  const frames = Array.from({ length }, (_, n) => n)
  const encode = (picture: (n: number) => Picture) => {
    const writer = new GifWriter(
      loop.width,
      loop.height,
      loopPalette(frames.filter((n) => n % 4 === 0).map(picture), colours),
      colours,
    )
    for (const n of frames) writer.add(picture(n), 4)
    writer.finish()
  }
  const drawn = frames.map(draw)
  const whole: number[] = []
  const alone: number[] = []
  for (let i = 0; i < 3; i++) {
    whole.push(timed(() => encode(draw), 1))
    alone.push(timed(() => encode((n) => drawn[n] as Picture), 1))
  }
  return { whole: median(whole), encodeAlone: median(alone), ratio: median(whole) / median(alone) }
}

/** Drawing one frame of the loop whose values are changed in the application. */
function drawOne() {
  const loop = busyLoop(12)
  const renderer = new BrowserRenderer(loop.width, loop.height, true)
  const list = evaluate(loop, 0)
  return timed(() => void renderer.picture(list), 60)
}

self.onmessage = () => {
  postMessage({ frames: [1, 12, 48].map(evaluateAndDraw), gif: gifAgainstEncoding(), drawOne: drawOne() })
}
