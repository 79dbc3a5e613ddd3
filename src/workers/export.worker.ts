import { expose, transfer } from 'comlink'
import { type GifColours, type Proof, proveGif, writeGif } from '@/codecs'
import { gifTiming } from '@/core/clock'
import type { Loop } from '@/core/loop'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { picturesAt } from '@/render/pictures'
import { renderClient } from './render-client'
import { breathe } from './timing'

export interface GifOptions extends GifColours {
  readonly scale: number
}
export interface ExportProgress {
  readonly stage: 'drawing and writing' | 'reading back'
  /** 0 … 1 of the whole export. */
  readonly share: number
}
export interface ExportedGif {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly proof: Proof
}

/** Share of the export's time that drawing and writing take; reading back takes the rest. */
const WRITING_SHARE = 0.65

/** Frames of which the pixels are kept for the proof, 64 MB in all; the others are drawn again. */
const KEPT_BYTES = 64 * 1024 * 1024

const service = {
  /** Draws, writes and proves a GIF of a loop, drawing and writing at the same time; the bytes are transferred. */
  async gif(loop: Loop, options: GifOptions, onProgress: (progress: ExportProgress) => void): Promise<ExportedGif> {
    const { width, height } = scaledSize(loop, options.scale)
    const shown = { ...loop, background: options.transparent ? null : (loop.background ?? 'white') }
    const drawing = renderClient()
    const { frames, delaysCs } = gifTiming(loop.length, loop.rate)
    const draw = (n: number) => drawing.service.picture(drawing.light(shown), frames[n] as number, width, height)
    const tell = (stage: ExportProgress['stage'], share: number) => {
      onProgress({ stage, share })
      return breathe()
    }

    const { bytes, kept } = await writeGif({
      width,
      height,
      delaysCs,
      colours: options,
      draw,
      mostKept: Math.floor(KEPT_BYTES / (width * height * 4)),
      progress: (n) => tell('drawing and writing', (WRITING_SHARE * n) / frames.length),
    })
    const proof = await proveGif(
      bytes,
      { width, height, delaysCs, transparent: options.transparent, frame: (n) => kept.get(n) ?? draw(n) },
      (n) => tell('reading back', WRITING_SHARE + ((1 - WRITING_SHARE) * n) / frames.length),
    )
    drawing.end()
    return transfer({ bytes, proof }, [bytes.buffer])
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
