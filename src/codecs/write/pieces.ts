import type { FileFormat } from '@/core/clock'
import type { Picture } from '@/core/image'
import type { DIVIDED } from '@/core/output'
import { type ApngPart, ApngWriter } from '../apng-write'
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
}

/** How a file is written by several, each a range of its frames, and put together without encoding anything anew. */
interface Pieced {
  /** Frames `from` to `to`, both in it. @param seen is given every frame as it was drawn */
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
}

/** Draws a range of frames, with the one before it at hand. */
async function inTurn<T>(
  job: EncodeJob,
  from: number,
  to: number,
  seen: (n: number, picture: Picture) => void,
  each: (n: number, picture: Picture, before: Picture | null) => Promise<T>,
): Promise<T[]> {
  const made: T[] = []
  let before = from > 0 ? await job.draw(from - 1) : null
  for (let n = from; n <= to; n++) {
    const picture = await job.draw(n)
    seen(n, picture)
    made.push(await each(n, picture, before))
    before = picture
    await job.progress(n - from + 1)
  }
  return made
}

const BY_FORMAT: Readonly<Record<(typeof DIVIDED)[number], Pieced>> = {
  webp: {
    async piece(job, from, to, seen) {
      const frames = await inTurn(job, from, to, seen, async (n, picture, before) => {
        const { still, ...about } = await webpFrame(job, n, picture, before)
        return { bytes: still, about }
      })
      return { frames, common: '' }
    },
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
        const frames = await inTurn(job, from, to, seen, async (_, picture, before) => {
          taken ||= clear !== null && hasColour(picture, clear)
          if (taken) return { bytes: new Uint8Array(), about: {} }
          const { png, ...about } = await apngPart(job, picture, before, { over, clear })
          return { bytes: png, about }
        })
        if (!taken) return { frames, common: JSON.stringify({ clear }) }
      }
      throw new Error('The APNG could not be put together.')
    },
    join: ({ width, height, timing }, frames, common) => {
      const { clear } = JSON.parse(common) as { readonly clear: number | null }
      const writer = new ApngWriter(width, height, timing.delays, clear)
      for (const { bytes, about } of frames) writer.add({ png: bytes, ...about } as ApngPart)
      return { bytes: writer.finish(), type: 'image/png' }
    },
  },
  'png-sequence': {
    async piece(job, from, to, seen) {
      const frames = await inTurn(job, from, to, seen, async (_, picture) => ({
        bytes: await job.tools.png(picture, { opaque: !job.transparent }),
        about: {},
      }))
      return { frames, common: '' }
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
