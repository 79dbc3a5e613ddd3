import { unzipSync } from 'fflate'
import type { FileFormat } from '@/core/clock'
import type { Picture } from '@/core/image'
import type { DIVIDED } from '@/core/output'
import { type ApngPart, ApngWriter } from '../apng-write'
import { readPng, webpFrames } from '../claims'
import { muxWebp, type WebpFrame } from '../webp-mux'
import { apngPart, hasColour, liesOver, SELDOM } from './apng'
import type { Encoded, EncodeJob } from './job'
import { archive, numberOf } from './pictures'
import { webpFrame } from './webp'

/** A frame as it stands in its file, encoded, with what has to be known of it there. */
export interface PieceFrame {
  readonly bytes: Uint8Array
  readonly about: Readonly<Record<string, unknown>>
}

/** Frames of a file, one after the other, and what all pieces of the file must agree in. */
export interface Piece {
  readonly frames: readonly PieceFrame[]
  readonly common: string
  /** The frame before them by itself, which what changes in the first of them is laid on; null where nothing is. */
  readonly lead: PieceFrame | null
}

/** How a file is written by several, each a range of its frames, and put together without encoding anything anew. */
export interface Pieced {
  /** Frames `from` to `to`, both in it. @param seen is given every frame as it was drawn, also the one that leads */
  readonly piece: (
    job: EncodeJob,
    from: number,
    to: number,
    seen: (n: number, picture: Picture) => void,
  ) => Promise<Piece>
  /** The file of all frames, in order. */
  readonly join: (
    job: Omit<EncodeJob, 'draw' | 'progress' | 'tools' | 'mostKept'>,
    frames: readonly PieceFrame[],
    common: string,
  ) => Encoded
  /** What a file holds of each of its frames but when it is shown, as its reader takes it apart. @throws ClipError where it is damaged */
  readonly stored: (file: Uint8Array) => readonly (readonly Uint8Array[])[]
}

/** Numbers as bytes. */
const numbers = (...values: readonly number[]): Uint8Array => new Uint8Array(Int32Array.from(values).buffer)

/** Draws a range of frames, the one before it first. */
async function inTurn(
  job: EncodeJob,
  from: number,
  to: number,
  seen: (n: number, picture: Picture) => void,
  each: (n: number, picture: Picture, before: Picture | null) => Promise<PieceFrame>,
): Promise<{ readonly lead: PieceFrame | null; readonly frames: PieceFrame[] }> {
  const frames: PieceFrame[] = []
  let lead: PieceFrame | null = null
  let before: Picture | null = null
  for (let n = Math.max(0, from - 1); n <= to; n++) {
    const picture = await job.draw(n)
    seen(n, picture)
    const made = await each(n, picture, before)
    if (n < from) lead = made
    else frames.push(made)
    before = picture
    await job.progress(n - from + 1)
  }
  return { lead, frames }
}

const BY_FORMAT: Readonly<Record<(typeof DIVIDED)[number], Pieced>> = {
  webp: {
    async piece(job, from, to, seen) {
      const made = await inTurn(job, from, to, seen, async (n, picture, before) => {
        const { still, ...about } = await webpFrame(job, n, picture, before)
        return { bytes: still, about }
      })
      return { ...made, common: '' }
    },
    stored: (file) =>
      webpFrames(file).map(({ x, y, width, height, flags, data }) => [numbers(x, y, width, height, flags), data]),
    join: ({ width, height, transparent }, frames) => {
      const all = frames.map(({ bytes, about }) => ({ still: bytes, ...about }) as WebpFrame)
      return { bytes: muxWebp(width, height, transparent, all), type: 'image/webp' }
    },
  },
  apng: {
    async piece(job, from, to, seen) {
      const over = !job.transparent && (await liesOver(job))
      for (const clear of [...(over && job.tools.clearColours ? SELDOM : []), null]) {
        let taken = false
        const made = await inTurn(job, from, to, seen, async (_, picture, before) => {
          taken ||= clear !== null && hasColour(picture, clear)
          if (taken) return { bytes: new Uint8Array(), about: {} }
          const { png, ...about } = await apngPart(job, picture, before, { over, clear })
          return { bytes: png, about }
        })
        if (!taken) return { ...made, common: JSON.stringify({ clear }) }
      }
      throw new Error('The APNG could not be put together.')
    },
    join: ({ width, height, timing }, frames, common) => {
      const { clear } = JSON.parse(common) as { readonly clear: number | null }
      const writer = new ApngWriter(width, height, timing.delays, clear)
      for (const { bytes, about } of frames) writer.add({ png: bytes, ...about } as ApngPart)
      return { bytes: writer.finish(), type: 'image/png' }
    },
    stored: (file) => {
      const { header, shared, frames } = readPng(file)
      const common = [header.slice(8), ...shared.map(({ data }) => data)]
      return frames.map(({ x, y, width, height, dispose, over, data }) => [
        ...common,
        numbers(x, y, width, height, dispose, over ? 1 : 0),
        ...data,
      ])
    },
  },
  'png-sequence': {
    async piece(job, from, to, seen) {
      const made = await inTurn(job, from, to, seen, async (_, picture) => ({
        bytes: await job.tools.png(picture, { opaque: !job.transparent }),
        about: {},
      }))
      return { ...made, common: '' }
    },
    stored: (file) => {
      const pictures = unzipSync(file)
      return Object.keys(pictures)
        .sort()
        .map((name) => [pictures[name] as Uint8Array])
    },
    join: ({ name, settings, timing }, frames) => {
      const numbered = frames.map(({ bytes }, n) => [
        `${name}-${numberOf(n, timing.frames.length, settings.firstNumber)}.png`,
        bytes,
      ])
      return archive(Object.fromEntries(numbered))
    },
  },
}

/** How files are written in pieces, by their formats; those of no other are. */
export const PIECED: Readonly<Partial<Record<FileFormat, Pieced>>> = BY_FORMAT
