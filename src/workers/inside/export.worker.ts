import { type Remote, transfer, wrap } from 'comlink'
import { zipSync } from 'fflate'
import type { Proof } from '@/codecs'
import { type EncodeJob, keptOf } from '@/codecs/write'
import { bytesOf } from '@/core/colour'
import { type Loop, tooMuchToDraw } from '@/core/document'
import { type Banding, bandingOf, ColourCount, onMatte, type Picture, paletteMapper } from '@/core/image'
import {
  backgroundIn,
  type FileSettings,
  type Inexpressible,
  inexpressible,
  isVector,
  seeThrough,
  timingIn,
  type VectorFormat,
} from '@/core/output'
import { judgeDrawn, judgedSide, type SeamReport, withJudgedClips } from '@/core/seam'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { paintedWhole } from '@/render/prepare'
import { renderClient } from '../shared/render-client'
import { serve } from '../shared/serve'
import { breathe } from '../shared/timing'
import { ENCODERS } from './encoders'
import { prove } from './encoders/prove'
import { proveVector } from './encoders/prove-vector'
import { browserTools } from './encoders/tools'
import type { VectorViewer } from './encoders/vector-viewer'
import { type DrawAt, type WeighedPicture, weigh } from './encoders/weigh'
import { FrameFeed } from './frame-feed'
import type { FrameLane } from './render.worker'

export interface ExportProgress {
  readonly stage: 'drawing and writing' | 'reading back'
  /** 0 … 1 of the whole export. */
  readonly share: number
}
export interface ExportedFile {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly type: string
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly note: string | null
  readonly proof: Proof
}

/** Share of the export's time that drawing and writing take; reading back takes the rest. */
const WRITING_SHARE = 0.65

/** Least time between two progress messages to the page, ms. */
const TELL_MS = 100
let going: Promise<void> = Promise.resolve()
let goOn = () => {}

/** Frames are looked at for bands at this size at the most, px a side: their width counts. */
const BANDS_LOOKED_AT = 1280

/** A picture as a palette of its own shows it. */
function inPalette(picture: Picture, { colours, dithering }: FileSettings): Picture {
  const count = new ColourCount()
  count.add(picture, false)
  const palette = [[0, 0, 0], ...(count.few(colours) ?? count.palette(colours))]
  const indices = paletteMapper(palette, dithering, false)(picture)
  const data = new Uint8ClampedArray(picture.data.length)
  for (const [i, index] of indices.entries()) {
    const [red = 0, green = 0, blue = 0] = palette[index] ?? []
    data.set([red, green, blue, picture.data[4 * i + 3] as number], 4 * i)
  }
  return { ...picture, data }
}

let drawing: ReturnType<typeof renderClient> | null = null
/** Frames at any size, drawn by a worker of this one's own. */
const drawHere: DrawAt = (loop, frame, width, height) => {
  drawing ??= renderClient()
  return drawing.service.picture(loop, frame, width, height)
}

/** The seam of a loop's pictures at the size at which those of any file are judged. */
function seamHere(loop: Loop): Promise<SeamReport> {
  const { width, height } = scaledSize(loop, Math.min(1, judgedSide(loop.length) / Math.max(loop.width, loop.height)))
  return judgeDrawn(loop.length, (frame) => drawHere(loop, frame, width, height))
}

async function fileFrom(
  lane: Remote<FrameLane>,
  loop: Loop,
  settings: FileSettings,
  name: string,
  viewer: VectorViewer,
  onProgress: (progress: ExportProgress) => void,
): Promise<ExportedFile> {
  const problem = tooMuchToDraw(loop)
  if (problem) throw new RangeError(problem)
  const { width, height } = scaledSize(loop, settings.scale)
  const background = backgroundIn(loop, settings)
  const shown = { ...loop, background }
  const transparent = seeThrough(background)
  const timing = timingIn(loop, settings)
  const count = timing.frames.length
  const matte = settings.format === 'gif' && transparent && settings.matte ? bytesOf(settings.matte) : null
  const change = matte && ((picture: Picture) => onMatte(picture, [matte[0], matte[1], matte[2]]))
  const feed = new FrameFeed(lane, shown, timing, { width, height }, change)
  let told = 0
  const tell = async (stage: ExportProgress['stage'], part: number) => {
    const share = stage === 'reading back' ? WRITING_SHARE + (1 - WRITING_SHARE) * part : WRITING_SHARE * part
    if (performance.now() - told > TELL_MS) {
      onProgress({ stage, share })
      told = performance.now()
    }
    await breathe()
    await going
  }
  const job: EncodeJob = {
    loop: shown,
    name,
    width,
    height,
    timing,
    rate: loop.rate,
    settings,
    transparent,
    draw: feed.draw,
    deep: feed.deep,
    tools: browserTools,
    mostKept: keptOf(width, height),
    progress: (n) => tell('drawing and writing', n / count),
  }
  const asDrawn = !transparent && (await lane.alone)
  const encoded = await ENCODERS[settings.format]({ ...job, ...(asDrawn && { videoFrame: feed.videoFrame }) })
  const readBack = async (): Promise<Proof> => {
    const judged = { ...job, loop: await withJudgedClips(shown, seamHere) }
    if (!isVector(settings.format)) {
      feed.readBack()
      return prove(encoded, { ...judged, progress: (n) => tell('reading back', n / count) })
    }
    // Few frames are looked at, each at its own time: the other files do not wait for that.
    await lane.leave()
    const frame = (n: number) => lane.other(shown, n)
    return proveVector(encoded.bytes, judged, viewer, frame, drawHere, (share) => tell('reading back', share))
  }
  const proof = await readBack().catch((error: Error) => {
    throw new Error(`It was written, but cannot be read back here, and so is not called done: ${error.message}`)
  })
  const { bytes, type, note = null } = encoded
  return transfer({ bytes, type, width, height, frames: count, note, proof }, [bytes.buffer])
}

const service = {
  /**
   * Writes and proves a file of a loop, whose frames are drawn elsewhere at the same time; the bytes are transferred.
   * @param name of the files within an archive
   * @param frames where its frames are drawn, shared with other files
   * @param viewer on the page, to read vectors back
   */
  async file(
    loop: Loop,
    settings: FileSettings,
    name: string,
    frames: MessagePort,
    viewer: VectorViewer,
    onProgress: (progress: ExportProgress) => void,
  ): Promise<ExportedFile> {
    const lane = wrap<FrameLane>(frames)
    try {
      return await fileFrom(lane, loop, settings, name, viewer, onProgress)
    } finally {
      // Whatever became of it, nobody waits for its frames any more.
      await lane.leave()
      frames.close()
    }
  },

  /** Stops at the next frame, until it is to go on. */
  pause(): void {
    going = new Promise((resolve) => {
      goOn = resolve
    })
  },
  resume(): void {
    goOn()
  },

  /** Weight of a file, and its distance from the loop if that is wanted. */
  async weigh(loop: Loop, settings: FileSettings, how: 'weight' | 'compared' | 'whole'): Promise<WeighedPicture> {
    const weighed = await weigh(loop, settings, drawHere, how)
    return weighed.shown ? transfer(weighed, [weighed.shown]) : weighed
  },

  /** Where a file of a loop would step in what ought to be smooth: the worst of two frames. */
  async banding(loop: Loop, settings: FileSettings): Promise<Banding> {
    const scale = Math.min(settings.scale, BANDS_LOOKED_AT / Math.max(loop.width, loop.height))
    const { width, height } = scaledSize(loop, scale)
    let worst: Banding = { share: 0, step: 0 }
    for (const frame of new Set([0, loop.length >> 1])) {
      const source = await drawHere(loop, frame, width, height)
      const found = bandingOf(settings.format === 'gif' ? inPalette(source, settings) : source, source)
      if (found.share > worst.share) worst = found
    }
    return worst
  },

  /** Parts of a loop that a vector format cannot express. */
  leftOut: (loop: Loop, format: VectorFormat): Inexpressible[] => inexpressible(loop, format),

  /** Files in one ZIP. */
  async zip(files: readonly { readonly name: string; readonly file: Blob }[]): Promise<Blob> {
    const parts: Record<string, Uint8Array> = {}
    for (const { name, file } of files) parts[name] = new Uint8Array(await file.arrayBuffer())
    return new Blob([zipSync(parts, { level: 0 }) as Uint8Array<ArrayBuffer>], { type: 'application/zip' })
  },

  /** One frame as a PNG file. */
  async png(loop: Loop, frame: number, scale: number): Promise<Blob> {
    const { width, height } = scaledSize(loop, scale)
    const canvas = new OffscreenCanvas(width, height)
    const bitmap = await paintedWhole(loop, frame, (pictures) =>
      new BrowserRenderer(width, height).bitmap(loop, frame, pictures),
    )
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0)
    return canvas.convertToBlob({ type: 'image/png' })
  },
}

export type ExportService = typeof service
serve(service)
