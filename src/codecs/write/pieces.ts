import { unzipSync } from 'fflate'
import type { FileFormat } from '@/core/clock'
import type { Picture } from '@/core/image'
import type { DIVIDED } from '@/core/output'
import { type ApngPart, ApngWriter } from '../apng-write'
import { readPng, webpFrames } from '../claims'
import { muxWebp, type WebpFrame } from '../webp-mux'
import { apngPart, hasColour, liesOver, SELDOM } from './apng'
import type { Encoded, EncodeJob } from './job'
import { archive, paddedNumber } from './pictures'
import { webpFrame } from './webp'

/** A frame as it stands in its file, encoded, with what has to be known of it there. */
export interface PieceFrame {
  readonly bytes: Uint8Array
  readonly about: Readonly<Record<string, unknown>>
}

/** Frames of a file, one after the other, and what all pieces of the file must agree in. */
export interface FilePiece {
  readonly frames: readonly PieceFrame[]
  /** The choice among `commons` with which these frames are written. */
  readonly common: string
  /** The choices with which these frames cannot be written. */
  readonly cannot: readonly string[]
  /** The frame before them by itself, which what changes in the first of them is laid on; null where nothing is. */
  readonly lead: PieceFrame | null
}

/** How a file is written by several, each a range of its frames, and put together without encoding anything anew. */
export interface Pieced {
  /** Choices that all pieces of a file must share, the best first. Any frame can be written with the last. */
  readonly commons: readonly string[]
  /**
   * Frames `from` to `to`, both in it.
   * @param seen is given every frame as it was drawn, also the one that leads
   * @param common the choice that all pieces share; the best one that these frames allow where it is left out
   */
  readonly piece: (
    job: EncodeJob,
    from: number,
    to: number,
    seen: (n: number, picture: Picture) => void,
    common?: string,
  ) => Promise<FilePiece>
  /** The file of all frames, in order. */
  readonly join: (
    job: Omit<EncodeJob, 'draw' | 'progress' | 'tools' | 'mostKept'>,
    frames: readonly PieceFrame[],
    common: string,
  ) => Encoded
  /**
   * Stored bytes of each frame without its timing, as the reader of the format takes the file apart.
   * @throws ClipError where it is damaged
   */
  readonly stored: (file: Uint8Array) => readonly (readonly Uint8Array[])[]
}

/** For formats whose pieces have no choice to share. */
const NOTHING = { commons: [''], common: '', cannot: [] } as const
/** The choice of an APNG: the colour that marks clear pixels of its frames, or null for an alpha channel. */
const commonOf = (clear: number | null): string => JSON.stringify({ clear })
const clearOf = (common: string): number | null => (JSON.parse(common) as { readonly clear: number | null }).clear

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
    commons: NOTHING.commons,
    async piece(job, from, to, seen) {
      const made = await inTurn(job, from, to, seen, async (n, picture, before) => {
        const { still, ...about } = await webpFrame(job, n, picture, before)
        return { bytes: still, about }
      })
      return { ...made, ...NOTHING }
    },
    stored: (file) =>
      webpFrames(file).map(({ x, y, width, height, flags, data }) => [numbers(x, y, width, height, flags), data]),
    join: ({ width, height, transparent }, frames) => {
      const all = frames.map(({ bytes, about }) => ({ still: bytes, ...about }) as WebpFrame)
      return { bytes: muxWebp(width, height, transparent, all), type: 'image/webp' }
    },
  },
  apng: {
    commons: [...SELDOM, null].map(commonOf),
    async piece(job, from, to, seen, common) {
      const over = !job.transparent && (await liesOver(job))
      const best = [...(over && job.tools.clearColours ? SELDOM : []), null]
      const held = new Set<number>()
      for (const clear of common === undefined ? best : [clearOf(common)]) {
        const taken = () => clear !== null && held.has(clear)
        if (taken()) continue
        const made = await inTurn(job, from, to, seen, async (_, picture, before) => {
          for (const colour of SELDOM) if (hasColour(picture, colour)) held.add(colour)
          if (taken()) return { bytes: new Uint8Array(), about: {} }
          const { png, ...about } = await apngPart(job, picture, before, { over, clear })
          return { bytes: png, about }
        })
        if (!taken()) return { ...made, common: commonOf(clear), cannot: [...held].map(commonOf) }
      }
      throw new Error('The APNG could not be put together.')
    },
    join: ({ width, height, timing }, frames, common) => {
      const writer = new ApngWriter(width, height, timing.delays, clearOf(common))
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
    commons: NOTHING.commons,
    async piece(job, from, to, seen) {
      const made = await inTurn(job, from, to, seen, async (_, picture) => ({
        bytes: await job.tools.png(picture, { opaque: !job.transparent }),
        about: {},
      }))
      return { ...made, ...NOTHING }
    },
    stored: (file) => {
      const pictures = unzipSync(file)
      return Object.keys(pictures)
        .sort()
        .map((name) => [pictures[name] as Uint8Array])
    },
    join: ({ name, settings, timing }, frames) => {
      const numbered = frames.map(({ bytes }, n) => [
        `${name}-${paddedNumber(n, timing.frames.length, settings.firstNumber)}.png`,
        bytes,
      ])
      return archive(Object.fromEntries(numbered))
    },
  },
}

/** How files are written in pieces, by their formats; those of no other are. */
export const PIECED: Readonly<Partial<Record<FileFormat, Pieced>>> = BY_FORMAT
