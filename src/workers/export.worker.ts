import { expose, transfer } from 'comlink'
import { type GifColours, GifWriter, loopPalette, type Proof, proveGif } from '@/codecs'
import { gifTiming } from '@/core/clock'
import { evaluate, type Loop } from '@/core/loop'
import { BrowserRenderer, scaledSize } from '@/render/browser'

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

/** Frames that the palette is made from, spread over the loop. */
const PALETTE_FRAMES = 12
/** Share of the export's time that drawing and writing take; reading back takes the rest. */
const WRITING_SHARE = 0.65

/** Frames of which the pixels are kept for the proof, 64 MB in all; the others are drawn again. */
const KEPT_BYTES = 64 * 1024 * 1024

export class ExportCancelled extends Error {
  override readonly name = 'ExportCancelled'
}

let cancelled = false
const breathe = () => new Promise((resolve) => setTimeout(resolve))

const service = {
  /** Draws, writes and proves a GIF of a loop; the bytes are transferred. @throws ExportCancelled after cancel(). */
  async gif(loop: Loop, options: GifOptions, onProgress: (progress: ExportProgress) => void): Promise<ExportedGif> {
    cancelled = false
    const { width, height } = scaledSize(loop, options.scale)
    const shown = options.transparent
      ? { ...loop, background: null }
      : { ...loop, background: loop.background ?? 'white' }
    const renderer = new BrowserRenderer(width, height, true)
    const draw = (frame: number) => renderer.picture(evaluate(shown, frame))
    const { frames, delaysCs } = gifTiming(loop.length, loop.rate)
    const tell = async (stage: ExportProgress['stage'], share: number) => {
      onProgress({ stage, share })
      await breathe()
      if (cancelled) throw new ExportCancelled('The export was cancelled.')
    }

    const spread = Math.max(1, Math.ceil(frames.length / PALETTE_FRAMES))
    const palette = loopPalette(frames.filter((_, i) => i % spread === 0).map(draw), options)
    const writer = new GifWriter(width, height, palette, options)
    const mostKept = Math.floor(KEPT_BYTES / (width * height * 4))
    const kept = new Map<number, ReturnType<typeof draw>>()
    for (const [i, frame] of frames.entries()) {
      const picture = draw(frame)
      if (i < mostKept) kept.set(i, picture)
      writer.add(picture, delaysCs[i] as number)
      await tell('drawing and writing', (WRITING_SHARE * (i + 1)) / frames.length)
    }
    const bytes = writer.finish()
    const proof = await proveGif(
      bytes,
      {
        width,
        height,
        delaysCs,
        transparent: options.transparent,
        frame: (n) => kept.get(n) ?? draw(frames[n] as number),
      },
      (n) => tell('reading back', WRITING_SHARE + ((1 - WRITING_SHARE) * n) / frames.length),
    )
    return transfer({ bytes, proof }, [bytes.buffer])
  },

  cancel(): void {
    cancelled = true
  },

  /** One frame as a PNG file. */
  png(loop: Loop, frame: number, scale: number): Promise<Blob> {
    const { width, height } = scaledSize(loop, scale)
    const canvas = new OffscreenCanvas(width, height)
    const bitmap = new BrowserRenderer(width, height).bitmap(evaluate(loop, frame))
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0)
    return canvas.convertToBlob({ type: 'image/png' })
  },
}

export type ExportService = typeof service
expose(service)
