import { readFile, rm, writeFile } from 'node:fs/promises'
import { basename, extname } from 'node:path'
import { type Proof, promiseOf, proveFile } from '@/codecs'
import type { Inspect } from '@/codecs/proof'
import { webpStill } from '@/codecs/webp-still'
import { type Encoded, type EncodeJob, type Tools, WRITERS } from '@/codecs/write'
import { avifRepeats } from '@/codecs/write/avif'
import type { FileFormat } from '@/core/clock'
import { checkMotions } from '@/core/closing'
import { type Loop, LoopFileError } from '@/core/document'
import type { Picture } from '@/core/image'
import { isVector } from '@/core/output'
import { judgeLoop } from '@/core/seam'
import { pngInNode } from '../render/png-node'
import { CommandError } from './command-error'
import type { FrameThreads } from './hands'
import { mayWrite, moveIntoPlace, nameBeside, type Overwriting } from './output'
import { loopAt, sourcesAt } from './sources'
import { vectorProof } from './vector-proof'
import { videoSource } from './video'
import { isVideoFormat, videoOf } from './video-write'

/** Formats by the ending of the file that is asked for. */
const FORMATS: Readonly<Record<string, FileFormat>> = {
  '.gif': 'gif',
  '.apng': 'apng',
  '.png': 'apng',
  '.webp': 'webp',
  '.zip': 'png-sequence',
  '.svg': 'svg',
  '.json': 'lottie',
  '.mp4': 'mp4',
  '.webm': 'webm',
  '.avif': 'avif',
}

/** @throws CommandError for an ending that nothing is written by */
export function formatOf(out: string): FileFormat {
  const format = FORMATS[extname(out).toLowerCase()]
  if (!format) throw new CommandError(`${out}: write to one of ${Object.keys(FORMATS).join(', ')}.`)
  return format
}

/**
 * A loop, with the files that it names: those that its archive holds, or that lie beside it.
 * @throws CommandError where it is no loop, or one of its files is nowhere, in words
 */
export async function readLoopAt(path: string): Promise<Loop> {
  try {
    return await loopAt(path)
  } catch (error) {
    if (error instanceof LoopFileError) throw new CommandError(`${path}: ${error.message} ${error.advice}`)
    if ((error as NodeJS.ErrnoException).code)
      throw new CommandError(`${path}: There is no such file, or it may not be read.`)
    throw error
  }
}

/** Name of a file inside an archive. */
export const stemOf = (path: string): string => basename(path).replace(/(\.cyclon)?\.[^.]+$/, '')

export const TOOLS: Tools = { png: pngInNode, clearColours: true, webpStill }

/** Frames that are drawn for a file are kept for its proof under this, bytes. */
const KEPT = 256 * 1024 * 1024
/**
 * Draws frames, those after the one that is asked for as well, and keeps them for those who ask again.
 * @param most frames that are kept
 * @param ahead frames that are drawn before they are asked for
 */
function keeping(draw: EncodeJob['draw'], count: number, most: number, ahead: number): EncodeJob['draw'] {
  const kept = new Map<number, Promise<Picture>>()
  const ask = (n: number): Promise<Picture> => {
    const known = kept.get(n)
    if (known) return known
    const picture = draw(n)
    // A drawing that fails does so where it is waited for.
    picture.catch(() => {})
    if (kept.size < most) kept.set(n, picture)
    return picture
  }
  return (n) => {
    const picture = ask(n)
    for (let next = n + 1; next <= Math.min(n + ahead, count - 1) && kept.size < most; next++) void ask(next)
    return picture
  }
}

/** The writer of a format. */
export const WRITING = (format: FileFormat): ((job: EncodeJob) => Encoded | Promise<Encoded>) =>
  isVideoFormat(format) ? videoOf : WRITERS[format as keyof typeof WRITERS]

/**
 * Writes a file, reads it back, and only then puts it where it is asked for: a file that breaks its promise is not left there.
 * @returns the proof; null for vectors, which are drawn by a document only
 * @throws CommandError where the file does not keep its promise, or may not be written
 */
export async function writeProven(
  out: string,
  job: Omit<EncodeJob, 'tools' | 'progress' | 'mostKept'>,
  writing: Overwriting,
  hands: FrameThreads | null = null,
): Promise<{ encoded: Encoded; proof: Proof | null }> {
  await mayWrite(out, writing)
  const { settings, timing, width, height } = job
  const most = Math.floor(KEPT / (width * height * 4))
  const draw = keeping(job.draw, timing.frames.length, most, hands?.ahead ?? 0)
  const encoded = await WRITING(settings.format)({
    ...job,
    draw,
    tools: { ...TOOLS, ...hands?.tools },
    progress: async () => {},
    mostKept: 0,
  })
  const proof = await proveWritten(out, encoded, job, {
    meant: draw,
    writing,
    ...(hands && { inspect: hands.inspect }),
  })
  return { encoded, proof }
}

interface Proving {
  readonly writing: Overwriting
  /** A frame as it was drawn; null where `onFrame` compares what is read back. */
  readonly meant: (n: number) => Promise<Picture | null>
  readonly inspect?: Inspect
  /**
   * Frames known to be in the file written at a path, if somebody has read it back before; if left out, the file is
   * read. May throw.
   */
  readonly known?: (path: string) => Promise<Iterable<Picture>>
}

/**
 * Puts a file that was encoded where it is asked for, once it has been read back and proven.
 * @returns the proof; null for vectors where no Chromium is installed that shows them
 * @throws CommandError where the file does not keep its promise: then it is not left there
 */
export async function proveWritten(
  out: string,
  { bytes }: Encoded,
  job: Pick<EncodeJob, 'loop' | 'settings' | 'timing' | 'width' | 'height' | 'rate' | 'transparent'>,
  how: Proving,
): Promise<Proof | null> {
  const { format } = job.settings
  // The ending stays, since what a file is is read from it; the name is its own, since others may be at the same.
  const unproven = nameBeside(out, 'unproven')
  await writeFile(unproven, bytes)
  try {
    const { verdict, sentence } = judgeLoop(job.loop, checkMotions(job.loop), null)
    if (isVector(format) && verdict !== 'closes' && verdict !== 'still')
      throw new CommandError(`${out} was not written: motions: ${sentence}`)
    const proof = isVector(format)
      ? await vectorProof(bytes, job)
      : await proofOf(unproven, out, bytes.length, job, how)
    if (proof && !proof.holds) {
      const broken = proof.lines.filter(({ holds }) => !holds)
      throw new CommandError(
        `${out} was not written: ${broken.map(({ what, expected, found }) => `${what}: ${found} in place of ${expected}`).join('; ')}`,
      )
    }
    await moveIntoPlace(unproven, out, how.writing)
    return proof
  } finally {
    await rm(unproven, { force: true })
  }
}

async function proofOf(
  path: string,
  out: string,
  bytes: number,
  job: Parameters<typeof proveWritten>[2],
  { meant, inspect, known }: Proving,
): Promise<Proof> {
  const { format } = job.settings
  const { rate } = job
  const [source] = isVideoFormat(format) ? [videoSource(path)] : await sourcesAt(path, rate.num / rate.den)
  if (!source) throw new CommandError(`${out} cannot be read back.`)
  const { claims } = source
  const promise = promiseOf(job, { frame: meant })
  const repeats = format === 'avif' ? avifRepeats(await readFile(path)) : claims.plays === 0
  return proveFile(
    bytes,
    {
      width: claims.width,
      height: claims.height,
      frames: known ? await known(path) : source.frames(),
      delaysMs: promise.delaysMs && claims.delaysMs,
      playsForever: promise.saysRepeats ? repeats : null,
    },
    promise,
    undefined,
    inspect,
  )
}
