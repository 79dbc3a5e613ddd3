import { createHash } from 'node:crypto'
import { mkdir, readFile } from 'node:fs/promises'
import { dirname, isAbsolute, join, normalize, sep } from 'node:path'
import type { Proof } from '@/codecs'
import { type EncodeJob, PIECED, type Pieced } from '@/codecs/write'
import { type Plan, type PlannedFile, rangesOf, type Step } from '@/core/output'
import { withJudgedClips } from '@/core/seam'
import { CommandError } from './command-error'
import { seamInNode } from './drawer'
import { countWords, entryOf, isThere, type ManifestEntry, readEntry, readManifest, writeManifest } from './manifest'
import { writeWhole } from './output'
import { hashOf, provenPiece, type ReadPiece, readPiece } from './piece-file'
import { readPlan } from './plan'
import { programName } from './program'
import { encodeJobOf, type RenderOptions, renderLoop, stateOf } from './render'
import { proveWritten, readLoopAt } from './write'

/** Where tasks put what they have done, beside the plan. */
const DONE = 'cyclon-done'

/** How much is allowed to a plan. */
export interface Allowed {
  /** Whether its paths may lead out of its folder. */
  readonly outside?: boolean
  /** Whether files are replaced that this program did not write. */
  readonly force?: boolean
}

interface Place {
  readonly path: string
  readonly plan: Plan
  /** The folder in which the plan lies. */
  readonly folder: string
  readonly force: boolean
}

/** Whether a path, from a folder on, stays in it. */
const staysIn = (path: string): boolean => !isAbsolute(path) && normalize(path).split(sep)[0] !== '..'

async function planAt(path: string, { outside = false, force = false }: Allowed): Promise<Place> {
  const text = await readFile(path, 'utf8').catch(() => {
    throw new CommandError(`${path}: There is no such file, or it may not be read.`)
  })
  const plan = readPlan(text, path)
  const leading = plan.files.flatMap(({ loop, out }) => [loop, out]).find((each) => !staysIn(each))
  if (leading !== undefined && !outside)
    throw new CommandError(
      `${path}: ${leading} leads out of the folder of the plan. Where that is meant, say --outside.`,
    )
  return { path, plan, folder: dirname(path), force }
}

/** Names a file of a plan in all that it depends on, the program among it: what was done for another one is not taken for it. */
const keyOf = ({ loop: _loop, out: _out, ...file }: PlannedFile): string =>
  createHash('sha256')
    .update(JSON.stringify({ ...file, program: programName() }))
    .digest('hex')
    .slice(0, 16)

const optionsOf = ({ path, folder, force, plan }: Place, file: PlannedFile): RenderOptions => ({
  out: join(folder, file.out),
  scale: file.scale,
  repeats: file.repeats,
  frames: null,
  background: file.background,
  quality: file.quality,
  settings: file.settings,
  cores: 1,
  force,
  reads: [path, ...plan.files.map(({ loop }) => join(folder, loop))],
})

/** The loop of a file, as it was when it was planned. @throws CommandError for another version of it */
async function loopOf({ folder }: Place, file: PlannedFile) {
  const path = join(folder, file.loop)
  const loop = await readLoopAt(path)
  if (stateOf(loop) !== file.state)
    throw new CommandError(
      `${path}: It is another version of the loop than the one that was planned. Make the plan anew.`,
    )
  return { loop, path }
}

const recordPath = ({ folder }: Place, index: number, file: PlannedFile) =>
  join(folder, DONE, `file-${index}-${keyOf(file)}.json`)
const piecePath = ({ folder }: Place, index: number, file: PlannedFile, [from, to]: readonly [number, number]) =>
  join(folder, DONE, `file-${index}-${keyOf(file)}-${from}-${to}.piece`)

/** Keeps what a task has done, in the folder for that: whoever does the same meanwhile is not in the way. */
const place = (path: string, bytes: Uint8Array | string): Promise<void> =>
  writeWhole(path, bytes, { reads: [], force: true })

/** Does a step of a task; says what was done. @throws CommandError */
async function doStep(at: Place, { file: index, frames }: Step): Promise<string> {
  const file = at.plan.files[index]
  if (!file) throw new CommandError(`The plan has no file ${index}. It is damaged: make it anew.`)
  const options = optionsOf(at, file)
  const key = keyOf(file)
  await mkdir(join(at.folder, DONE), { recursive: true })
  if (!frames) {
    const record = recordPath(at, index, file)
    const known = await recordAt(record)
    if (known && (await isThere(join(at.folder, 'plan'), known))) return `${file.out}: there and proven`
    const { loop, path } = await loopOf(at, file)
    await mkdir(dirname(options.out), { recursive: true })
    const rendered = await renderLoop(loop, path, options)
    const entry = entryOf(
      join(at.folder, 'plan'),
      options.out,
      { loop: file.loop, state: file.state, settings: key },
      rendered,
    )
    await place(record, JSON.stringify(entry))
    return rendered.said.at(-1) ?? file.out
  }
  const path = piecePath(at, index, file, frames)
  const [from, to] = frames
  if (await readPiece(path, key, frames).catch(() => null)) return `${file.out}: frames ${from} to ${to} are there`
  const { loop, path: loopPath } = await loopOf(at, file)
  const { job, end } = await encodeJobOf(loop, loopPath, options)
  try {
    const pieced = PIECED[job.settings.format]
    if (!pieced) throw new CommandError(`${file.out}: Files of its kind are not written in pieces. Make the plan anew.`)
    await place(path, await provenPiece(job, pieced, key, from, to))
    return `${file.out}: frames ${from} to ${to} of ${file.frames}`
  } finally {
    await end()
  }
}

/** The record of a file that was done; null where there is none. @throws CommandError for what is no record */
async function recordAt(path: string): Promise<ManifestEntry | null> {
  const text = await readFile(path, 'utf8').catch(() => null)
  if (text === null) return null
  try {
    return readEntry(text)
  } catch {
    throw new CommandError(
      `${path}: It is no record of a file that was written, or it is damaged. Delete it and do its task again.`,
    )
  }
}

/** Does one task of a plan; what is done already is left alone. @throws CommandError */
export async function doTask(
  path: string,
  task: number,
  say: (line: string) => void,
  allowed: Allowed = {},
): Promise<void> {
  const at = await planAt(path, allowed)
  const own = at.plan.tasks[task]
  if (!own) throw new CommandError(`${path}: It has tasks 0 to ${at.plan.tasks.length - 1}; there is no task ${task}.`)
  for (const step of own.steps) {
    try {
      say(await doStep(at, step))
    } catch (error) {
      if (error instanceof CommandError) throw error
      // What an encoder or the disk says is said with the file that it is about.
      throw new CommandError(`${at.plan.files[step.file]?.out}: ${(error as Error).message}`)
    }
  }
}

/** The pieces of a file, as they were done. @throws CommandError where one is missing or damaged */
async function piecesOf(at: Place, index: number, file: PlannedFile): Promise<ReadPiece[]> {
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
 * The pieces of a file, which agree in what all of them must have alike, such as the colour that stands for clear: each was done without knowing the
 * others, and those that chose something that another cannot have are done once more.
 */
async function agreeingPieces(
  at: Place,
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
async function joined(at: Place, index: number, file: PlannedFile): Promise<{ entry: ManifestEntry; line: string }> {
  const key = keyOf(file)
  const options = optionsOf(at, file)
  const done = await piecesOf(at, index, file)
  const { loop, path } = await loopOf(at, file)
  const { job, end } = await encodeJobOf(loop, path, options)
  const pieced = PIECED[job.settings.format]
  if (!pieced) throw new CommandError(`${file.out}: Files of its kind are not written in pieces. Make the plan anew.`)
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
        const held = pieced.stored(await readFile(written)).map(hashOf)
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
  const sha256 = createHash('sha256').update(bytes).digest('hex')
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
    entry: entryOf(join(at.folder, 'plan'), options.out, about, rendered),
    line: `${file.out}: ${file.pieces} pieces, ${file.frames} frames, ${(bytes.length / 1000).toFixed(1)} kB, proven: ${(proof as Proof).seam.verdict.replaceAll('-', ' ')}`,
  }
}

const rangeWith = (file: PlannedFile, n: number): [number, number] =>
  rangesOf(file.frames, file.pieces).find(([from, to]) => n >= from && n <= to) ?? [0, 0]

const taskOf = ({ plan }: Place, index: number, [from]: readonly [number, number]): number =>
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
