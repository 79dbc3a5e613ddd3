import { mkdir, readFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Proof } from '@/codecs'
import type { EncodeJob, Pieced } from '@/codecs/write'
import { type PlannedFile, rangesOf } from '@/core/output'
import { withJudgedClips } from '@/core/seam'
import { CommandError } from './command-error'
import { seamInNode } from './drawer'
import { sha256Of } from './hash'
import { countWords, isThere, type ManifestEntry, manifestEntry, readManifest, writeManifest } from './manifest'
import {
  type Allowed,
  keyOf,
  loopOf,
  type OpenPlan,
  optionsOf,
  piecedFormat,
  piecePath,
  place,
  planAt,
  recordAt,
  recordPath,
} from './open-plan'
import { provenPiece, type ReadPiece, readPiece } from './piece-file'
import { encodeJobOf } from './render'
import { proveWritten } from './write'

/** The pieces of a file, as they were done. @throws CommandError where one is missing or damaged */
async function piecesOf(at: OpenPlan, index: number, file: PlannedFile): Promise<ReadPiece[]> {
  const pieces: ReadPiece[] = []
  for (const range of rangesOf(file.frames, file.pieces)) {
    const piece = await readPiece(piecePath(at, index, file, range), keyOf(file), range)
    if (!piece)
      throw new CommandError(
        `${file.out}: frames ${range[0]} to ${range[1]} have not been done (task ${taskOf(at, index, range)}).`,
      )
    pieces.push(piece)
  }
  return pieces
}

/**
 * Makes the pieces of a file share one choice, such as the colour that marks clear pixels. Each piece was written without knowing the others; those with
 * another choice than all of them allow are written again.
 */
async function agreeingPieces(
  at: OpenPlan,
  index: number,
  file: PlannedFile,
  done: readonly ReadPiece[],
  job: EncodeJob,
  pieced: Pieced,
): Promise<{ readonly pieces: readonly ReadPiece[]; readonly common: string }> {
  const common = done.every((piece) => piece.common === done[0]?.common)
    ? done[0]?.common
    : pieced.commons.find((each) => done.every(({ cannot }) => !cannot.includes(each)))
  if (common === undefined) throw new CommandError(`${file.out}: Its pieces have nothing that they can agree in.`)
  const others = rangesOf(file.frames, file.pieces).filter((_, i) => done[i]?.common !== common)
  for (const range of others)
    await place(piecePath(at, index, file, range), await provenPiece(job, pieced, keyOf(file), ...range, common))
  return { pieces: others.length > 0 ? await piecesOf(at, index, file) : done, common }
}

/**
 * The file of pieces. Every frame was read back as it was drawn by who did its piece, on the frame before it; the file is proven where it holds of each the very bytes from which that was read, and keeps
 * what else it promises.
 */
async function joined(at: OpenPlan, index: number, file: PlannedFile): Promise<{ entry: ManifestEntry; line: string }> {
  const key = keyOf(file)
  const options = optionsOf(at, file)
  const done = await piecesOf(at, index, file)
  const { loop, path } = await loopOf(at, file)
  const { job, end } = await encodeJobOf(loop, path, options)
  const pieced = piecedFormat(file, job.settings.format)
  const { pieces, common } = await agreeingPieces(at, index, file, done, job, pieced).finally(end)
  const stored = pieces.flatMap((piece) => piece.stored)
  const small = pieces.flatMap((piece) => piece.small)
  const encoded = pieced.join(
    job,
    pieces.flatMap(({ frames }) => frames),
    common,
  )
  await mkdir(dirname(options.out), { recursive: true })
  const judged = await withJudgedClips(job.loop, seamInNode)
  const proof = await proveWritten(
    options.out,
    encoded,
    { ...job, loop: judged },
    {
      known: async (written) => {
        const held = pieced.stored(await readFile(written)).map((parts) => sha256Of(...parts))
        const n = stored.findIndex((each, k) => each !== held[k])
        if (n >= 0 || held.length !== stored.length)
          throw new CommandError(
            `${file.out} was not written: frame ${Math.max(0, n)} is not what was read back of its piece. Do task ${taskOf(at, index, rangeWith(file, Math.max(0, n)))} again.`,
          )
        return small
      },
      meant: async () => null,
      writing: { reads: options.reads ?? [], force: at.force },
    },
  )
  const bytes = encoded.bytes
  const sha256 = sha256Of(bytes)
  const about = { loop: file.loop, state: file.state, settings: key }
  const rendered = {
    width: job.width,
    height: job.height,
    frames: file.frames,
    bytes: bytes.length,
    sha256,
    proof,
    said: [],
  }
  return {
    entry: manifestEntry(join(at.folder, 'plan'), options.out, about, rendered),
    line: `${file.out}: ${file.pieces} pieces, ${file.frames} frames, ${(bytes.length / 1000).toFixed(1)} kB, proven: ${(proof as Proof).seam.verdict.replaceAll('-', ' ')}`,
  }
}

const rangeWith = (file: PlannedFile, n: number): [number, number] =>
  rangesOf(file.frames, file.pieces).find(([from, to]) => n >= from && n <= to) ?? [0, 0]

const taskOf = ({ plan }: OpenPlan, index: number, [from]: readonly [number, number]): number =>
  plan.tasks.findIndex(({ steps }) => steps.some((step) => step.file === index && step.frames?.[0] === from))

/**
 * Puts together what the tasks of a plan have done, and writes a manifest of all files beside it.
 * @returns whether all is there; what is missing is said
 * @throws CommandError where the plan cannot be read
 */
export async function joinPlan(path: string, say: (line: string) => void, allowed: Allowed = {}): Promise<boolean> {
  const at = await planAt(path, allowed)
  const manifest = join(at.folder, 'cyclon-manifest.json')
  await readManifest(manifest)
  const files: ManifestEntry[] = []
  const failed: { file: string; loop: string; problem: string }[] = []
  for (const [index, file] of at.plan.files.entries()) {
    const whole = file.pieces === 1
    const record = recordPath(at, index, file)
    try {
      const known = await recordAt(record)
      if (known && (await isThere(join(at.folder, 'plan'), known))) {
        files.push(known)
        continue
      }
      if (whole) {
        const task = at.plan.tasks.findIndex(({ steps }) => steps.some((step) => step.file === index))
        throw new CommandError(
          `${file.out}: It ${known ? 'is not as it was written' : 'has not been written'} (task ${task}).`,
        )
      }
      const { entry, line } = await joined(at, index, file)
      await place(record, JSON.stringify(entry))
      files.push(entry)
      say(line)
    } catch (error) {
      const { message } = error as Error
      const problem = error instanceof CommandError ? message : `${file.out}: ${message}`
      failed.push({ file: file.out, loop: file.loop, problem })
      say(problem)
    }
  }
  await writeManifest(manifest, { format: 'cyclon-manifest', files, failed })
  say(`${manifest}: ${countWords(files, at.plan.files.length)}`)
  return failed.length === 0
}
