import { readFile } from 'node:fs/promises'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import * as z from 'zod/mini'
import { isZip } from '@/codecs'
import { readClaims } from '@/codecs/claims'
import { MAX_OWN_BYTES, unzipped } from '@/codecs/unzip'
import type { EncodeJob, FilePiece, Pieced, PieceFrame } from '@/codecs/write'
import { type Picture, reducePicture } from '@/core/image'
import { judgedSide } from '@/core/seam'
import { CommandError } from './command-error'
import { decodeFrames } from './decode'
import { sha256Of } from './hash'

const hashOfPicture = ({ data }: Picture): string => sha256Of(new Uint8Array(data.buffer, data.byteOffset, data.length))

/** The pictures that a file shows, or those that lie in one. */
async function* picturesIn(file: Uint8Array): AsyncGenerator<Picture> {
  const packed = isZip(file) ? unzipSync(file) : null
  const files = packed
    ? Object.keys(packed)
        .sort()
        .map((name) => packed[name] as Uint8Array)
    : [file]
  for (const each of files) yield* decodeFrames(each, readClaims(each))
}

const aboutSchema = z.object({
  format: z.literal('cyclon-piece'),
  key: z.string(),
  from: z.number(),
  to: z.number(),
  common: z.string(),
  cannot: z.array(z.string()),
  /** px of the small pictures by which the seam is judged. */
  small: z.object({ width: z.number(), height: z.number() }),
  /** Of each frame: what has to be known of it in the file, the SHA-256 of what a file holds of it from which it was read back as it was drawn, and that of its small picture. */
  frames: z.array(z.object({ about: z.record(z.string(), z.unknown()), stored: z.string(), seen: z.string() })),
})

/** A piece that was done, and proven where it was. */
export interface ReadPiece extends Pick<FilePiece, 'frames' | 'common' | 'cannot'> {
  readonly stored: readonly string[]
  readonly small: readonly Picture[]
}

/** A piece that was done; null where it is not there. @throws CommandError where it is damaged or of another file */
export async function readPiece(
  path: string,
  key: string,
  [from, to]: readonly [number, number],
): Promise<ReadPiece | null> {
  const bytes = await readFile(path).catch(() => null)
  if (!bytes) return null
  try {
    const files = unzipped(bytes, { mostBytes: MAX_OWN_BYTES })
    const about = aboutSchema.parse(JSON.parse(strFromU8(files['piece.json'] ?? new Uint8Array())))
    if (about.key !== key || about.from !== from || about.to !== to || about.frames.length !== to - from + 1)
      throw new Error('foreign')
    const frames = about.frames.map(({ about: each }, i): PieceFrame => {
      const own = files[String(from + i)]
      if (!own) throw new Error('incomplete')
      return { bytes: own, about: each }
    })
    const small = about.frames.map(({ seen }, i): Picture => {
      const data = files[`${from + i}.small`]
      if (!data || sha256Of(data) !== seen) throw new Error('incomplete')
      return { ...about.small, data: new Uint8ClampedArray(data) }
    })
    const { common, cannot } = about
    return { frames, small, common, cannot, stored: about.frames.map(({ stored }) => stored) }
  } catch {
    throw new CommandError(`${path}: It is damaged, or a piece of something else. Delete it and do its task again.`)
  }
}

/**
 * A piece read back: from a file of its own, in which the frame before it leads.
 * @param check is given each picture with its number, also the one that leads; may throw
 * @returns of each frame, the hash of what the file holds of it, and a small picture of it
 */
async function readBack(
  job: EncodeJob,
  { join: joinOf, stored }: Pieced,
  { lead, frames, common }: FilePiece,
  from: number,
  check: (n: number, picture: Picture) => void,
): Promise<{ readonly stored: string; readonly small: Picture }[]> {
  const { timing } = job
  const all = lead ? [lead, ...frames] : frames
  const first = from - (all.length - frames.length)
  const own = {
    ...timing,
    frames: timing.frames.slice(first, first + all.length),
    delays: timing.delays.slice(first, first + all.length),
  }
  const { bytes } = joinOf({ ...job, timing: own }, all, common)
  const held = stored(bytes).map((parts) => sha256Of(...parts))
  const side = judgedSide(timing.frames.length)
  const seen: { stored: string; small: Picture }[] = []
  let n = first
  for await (const picture of picturesIn(bytes)) {
    check(n, picture)
    if (n >= from) seen.push({ stored: held[n - first] ?? '', small: reducePicture(picture, side) })
    n++
  }
  if (seen.length !== frames.length)
    throw new CommandError(`${seen.length} of ${frames.length} frames can be read back.`)
  return seen
}

/**
 * Frames `from` to `to` of a file as a piece, which was read back as it was drawn.
 * @param key of the file
 * @param common the choice that all its pieces share; the best one that these frames allow where it is left out
 * @throws CommandError where it was not
 */
export async function provenPiece(
  job: EncodeJob,
  pieced: Pieced,
  key: string,
  from: number,
  to: number,
  common?: string,
): Promise<Uint8Array> {
  const drawn = new Map<number, string>()
  const piece = await pieced.piece(job, from, to, (n, picture) => drawn.set(n, hashOfPicture(picture)), common)
  const seen = await readBack(job, pieced, piece, from, (n, picture) => {
    if (hashOfPicture(picture) !== drawn.get(n)) throw new CommandError(`Frame ${n} is not read back as it was drawn.`)
  })
  const [{ small: first }] = seen as [(typeof seen)[number]]
  const about = {
    format: 'cyclon-piece',
    key,
    from,
    to,
    common: piece.common,
    cannot: piece.cannot,
    small: { width: first.width, height: first.height },
    frames: piece.frames.map(({ about: each }, i) => {
      const { stored, small } = seen[i] as (typeof seen)[number]
      return { about: each, stored, seen: hashOfPicture(small) }
    }),
  }
  const files: Record<string, Uint8Array> = { 'piece.json': strToU8(JSON.stringify(about)) }
  for (const [i, { bytes }] of piece.frames.entries()) {
    files[String(from + i)] = bytes
    files[`${from + i}.small`] = new Uint8Array((seen[i] as (typeof seen)[number]).small.data)
  }
  return zipSync(files, { level: 0 })
}
