import { expose, wrap } from 'comlink'
import { keptOf } from '../src/codecs/write'
import type { FileFormat } from '../src/core/clock'
import type { Loop } from '../src/core/document'
import type { Picture } from '../src/core/image'
import { backgroundIn, PLAIN_SETTINGS, seeThrough, timingIn, withFormat } from '../src/core/output'
import { ENCODERS } from '../src/workers/inside/encoders'
import { browserTools } from '../src/workers/inside/encoders/tools'
import { FrameFeed } from '../src/workers/inside/frame-feed'
import type { FrameLane } from '../src/workers/inside/render.worker'
import { breathe } from '../src/workers/shared/timing'

/**
 * Writing a file of a loop, its frames drawn by another worker meanwhile, against writing it from frames that are there
 * already. Runs in a worker of a page of the application, since WebP is written by its server.
 */
const known = new Map<number, Picture>()

const service = {
  /** Milliseconds that writing takes. */
  async write(loop: Loop, format: FileFormat, port: MessagePort | null): Promise<number> {
    const settings = withFormat(PLAIN_SETTINGS, format)
    const { width, height } = loop
    const timing = timingIn(loop, settings)
    const fromMemory = async (n: number) => known.get(timing.frames[n] as number) as Picture
    const feed = port && new FrameFeed(wrap<FrameLane>(port), loop, timing, loop)
    const start = performance.now()
    await ENCODERS[format]({
      loop,
      name: 'bench',
      width,
      height,
      timing,
      rate: loop.rate,
      settings,
      draw: feed?.draw ?? fromMemory,
      progress: breathe,
      ...(feed && { videoFrame: feed.videoFrame }),
      transparent: seeThrough(backgroundIn(loop, settings)),
      tools: browserTools,
      mostKept: keptOf(width, height),
    })
    return performance.now() - start
  },
  /** Has all frames of a loop drawn, and keeps them. */
  async know(loop: Loop, port: MessagePort): Promise<void> {
    const lane = wrap<FrameLane>(port)
    for (let n = 0; n < loop.length; n++) known.set(n, (await lane.take(n, null)) as Picture)
  },
}
export type ExportBench = typeof service
expose(service)
