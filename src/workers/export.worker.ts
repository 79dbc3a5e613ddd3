import { expose, transfer } from 'comlink'
import { type GifColours, type Proof, proveGif, writeGif } from '@/codecs'
import { type FileFormat, fileTiming, gifTiming } from '@/core/clock'
import type { Picture } from '@/core/image'
import type { Loop } from '@/core/loop'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { picturesAt } from '@/render/pictures'
import { ENCODERS, type EncodeJob, type FileOptions } from './encoders'
import { prove } from './encoders/prove'
import { renderClient } from './render-client'
import { breathe } from './timing'

export interface GifOptions extends GifColours {
  readonly scale: number
}
/** How any file is written; what its format has no use for is left alone. */
export type ExportOptions = GifOptions & FileOptions

export interface ExportProgress {
  readonly stage: 'drawing and writing' | 'reading back'
  /** 0 … 1 of the whole export. */
  readonly share: number
}
export interface ExportedFile {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly type: string
  readonly ending: string
  readonly proof: Proof
}

/** Share of the export's time that drawing and writing take; reading back takes the rest. */
const WRITING_SHARE = 0.65

/** Frames of which the pixels are kept for the proof, 64 MB in all; the others are drawn again. */
const KEPT_BYTES = 64 * 1024 * 1024

type Tell = (stage: ExportProgress['stage'], share: number) => Promise<void>

async function gif(loop: Loop, options: GifOptions, tell: Tell): Promise<ExportedFile> {
  const { width, height } = scaledSize(loop, options.scale)
  const drawing = renderClient()
  const { frames, delaysCs } = gifTiming(loop.length, loop.rate)
  const draw = (n: number) => drawing.service.picture(drawing.light(loop), frames[n] as number, width, height)
  const { bytes, kept } = await writeGif({
    ...{ width, height, delaysCs, draw, colours: options },
    mostKept: Math.floor(KEPT_BYTES / (width * height * 4)),
    progress: (n) => tell('drawing and writing', n / frames.length),
  })
  const proof = await proveGif(
    bytes,
    { width, height, delaysCs, transparent: options.transparent, frame: (n) => kept.get(n) ?? draw(n) },
    (n) => tell('reading back', n / frames.length),
  )
  drawing.end()
  return { bytes, type: 'image/gif', ending: '.gif', proof }
}

async function other(
  loop: Loop,
  format: Exclude<FileFormat, 'gif'>,
  name: string,
  options: FileOptions,
  tell: Tell,
): Promise<ExportedFile> {
  const { width, height } = scaledSize(loop, options.scale)
  const timing = fileTiming(format, loop.length, loop.rate)
  const count = timing.frames.length
  const drawing = renderClient()
  const coming = new Map<number, Promise<Picture>>()
  const ask = (n: number) => {
    const asked =
      coming.get(n) ?? drawing.service.picture(drawing.light(loop), timing.frames[n] as number, width, height)
    asked.catch(() => {})
    coming.set(n, asked)
    return asked
  }
  const draw = async (n: number) => {
    // The next one is drawn while this one is written.
    if (n + 1 < count) void ask(n + 1)
    const picture = await ask(n)
    coming.delete(n)
    return picture
  }
  const job: EncodeJob = {
    ...{ name, width, height, timing, rate: loop.rate, options, draw },
    progress: (n) => tell('drawing and writing', n / count),
  }
  const encoded = await ENCODERS[format](job)
  const proof = await prove(encoded, format, { ...job, progress: (n) => tell('reading back', n / count) })
  drawing.end()
  return { bytes: encoded.bytes, type: encoded.type, ending: encoded.ending, proof }
}

const service = {
  /**
   * Draws, writes and proves a file of a loop, drawing and writing at the same time; the bytes are transferred.
   * @param name of the files within an archive
   */
  async file(
    loop: Loop,
    format: FileFormat,
    name: string,
    options: ExportOptions,
    onProgress: (progress: ExportProgress) => void,
  ): Promise<ExportedFile> {
    const shown = { ...loop, background: options.transparent ? null : (loop.background ?? 'white') }
    const tell: Tell = (stage, part) => {
      const share = stage === 'reading back' ? WRITING_SHARE + (1 - WRITING_SHARE) * part : WRITING_SHARE * part
      onProgress({ stage, share })
      return breathe()
    }
    const result = await (format === 'gif' ? gif(shown, options, tell) : other(shown, format, name, options, tell))
    return transfer(result, [result.bytes.buffer])
  },

  /** One frame as a PNG file. */
  async png(loop: Loop, frame: number, scale: number): Promise<Blob> {
    const { width, height } = scaledSize(loop, scale)
    const canvas = new OffscreenCanvas(width, height)
    const bitmap = new BrowserRenderer(width, height).bitmap(loop, frame, await picturesAt(loop, frame))
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0)
    return canvas.convertToBlob({ type: 'image/png' })
  },
}

export type ExportService = typeof service
expose(service)
