import WebP from 'node-webpmux'
import sharp from 'sharp'
import UPNG from 'upng-js'
import { applyPalette, GIFEncoder, quantize } from '../../src/codecs/gifenc'
import type { Picture } from '../../src/core/image'
import type { Case } from './faults'

/** Encoders of the corpus: two of GIF, one of APNG, WebP with and without loss. */
export const CORPUS_ENCODERS = ['gif, one palette', 'gif, dithered', 'apng', 'webp', 'webp, lossy'] as const
export type Encoder = (typeof CORPUS_ENCODERS)[number]

/** A case as a file. */
export async function encodeCase({ pictures, delaysMs, plays }: Case, encoder: Encoder): Promise<Uint8Array> {
  const [{ width, height }] = pictures as [Picture]
  switch (encoder) {
    case 'gif, one palette':
      return gif(pictures, delaysMs, plays)
    case 'apng':
      return withPlays(
        new Uint8Array(
          UPNG.encode(
            pictures.map(({ data }) => data.slice().buffer),
            width,
            height,
            0,
            [...delaysMs],
          ),
        ),
        plays,
      )
    case 'webp':
    case 'webp, lossy': {
      // Put together from stills, so that frames that are alike stay frames of their own.
      const frames = []
      for (const [n, { data }] of pictures.entries()) {
        const still = sharp(data, { raw: { width, height, channels: 4 } }).webp({
          lossless: encoder === 'webp',
          quality: 80,
          effort: 1,
        })
        frames.push(
          await WebP.Image.generateFrame({
            buffer: await still.toBuffer(),
            delay: delaysMs[n],
            blend: false,
            dispose: false,
          }),
        )
      }
      return new Uint8Array(
        (await WebP.Image.save(null, { frames, width, height, loops: plays, bgColor: [0, 0, 0, 0] })) as Buffer,
      )
    }
    default: {
      const strip = Buffer.concat(pictures.map(({ data }) => Buffer.from(data)))
      const image = sharp(strip, { raw: { width, height: height * pictures.length, channels: 4, pageHeight: height } })
      const written = image.gif({ delay: [...delaysMs], loop: plays, dither: 1, effort: 3, keepDuplicateFrames: true })
      return new Uint8Array(await written.toBuffer())
    }
  }
}

function gif(pictures: readonly Picture[], delaysMs: readonly number[], plays: number): Uint8Array {
  const encoder = GIFEncoder()
  const sample = new Uint8Array(pictures.reduce((sum, { data }) => sum + data.length, 0))
  let at = 0
  for (const { data } of pictures) {
    sample.set(data, at)
    at += data.length
  }
  const palette = quantize(sample, 256, { format: 'rgba4444', oneBitAlpha: true })
  const clear = palette.findIndex(([, , , a]) => a === 0)
  pictures.forEach(({ width, height, data }, n) => {
    const index = applyPalette(data, palette, 'rgba4444')
    encoder.writeFrame(index, width, height, {
      ...(n === 0 ? { palette, repeat: plays === 0 ? 0 : plays === 1 ? -1 : plays - 1 } : {}),
      delay: delaysMs[n] ?? 0,
      ...(clear >= 0 ? { transparent: true, transparentIndex: clear, dispose: 2 } : {}),
    })
  })
  encoder.finish()
  return encoder.bytes()
}

/** An APNG with a number of plays: its acTL chunk with the number, and the chunk's checksum anew. */
function withPlays(file: Uint8Array, plays: number): Uint8Array {
  const view = new DataView(file.buffer, file.byteOffset)
  for (let at = 8; at < file.length; at += 12 + view.getUint32(at))
    if (String.fromCharCode(...file.subarray(at + 4, at + 8)) === 'acTL') {
      view.setUint32(at + 12, plays)
      view.setUint32(at + 16, crc(file.subarray(at + 4, at + 16)))
      break
    }
  return file
}

function crc(bytes: Uint8Array): number {
  let c = 0xffffffff
  for (const byte of bytes) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  }
  return (c ^ 0xffffffff) >>> 0
}
