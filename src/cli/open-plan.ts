import { readFile } from 'node:fs/promises'
import { dirname, isAbsolute, join, normalize, sep } from 'node:path'
import { PIECED, type Pieced } from '@/codecs/write'
import type { FileFormat } from '@/core/clock'
import type { PlannedFile, WorkPlan } from '@/core/output'
import { CommandError } from './command-error'
import { sha256Of } from './hash'
import { type ManifestEntry, readEntry } from './manifest'
import { writeWhole } from './output'
import { readPlan } from './plan'
import { programName } from './program'
import { loopState, type RenderOptions } from './render'
import { readLoopAt } from './write'

/** Where tasks put what they have done, beside the plan. */
export const DONE = 'cyclon-done'

/** How much is allowed to a plan. */
export interface Allowed {
  /** Whether its paths may lead out of its folder. */
  readonly outside?: boolean
  /** Whether files are replaced that this program did not write. */
  readonly force?: boolean
}

/** A plan that was read, and where it lies. */
export interface OpenPlan {
  readonly path: string
  readonly plan: WorkPlan
  /** The folder in which the plan lies. */
  readonly folder: string
  readonly force: boolean
}

/** Whether a path, from a folder on, stays in it. */
const staysIn = (path: string): boolean => !isAbsolute(path) && normalize(path).split(sep)[0] !== '..'

export async function planAt(path: string, { outside = false, force = false }: Allowed): Promise<OpenPlan> {
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
export const keyOf = ({ loop: _loop, out: _out, ...file }: PlannedFile): string =>
  sha256Of(JSON.stringify({ ...file, program: programName() })).slice(0, 16)

export const optionsOf = ({ path, folder, force, plan }: OpenPlan, file: PlannedFile): RenderOptions => ({
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
export async function loopOf({ folder }: OpenPlan, file: PlannedFile) {
  const path = join(folder, file.loop)
  const loop = await readLoopAt(path)
  if (loopState(loop) !== file.state)
    throw new CommandError(
      `${path}: It is another version of the loop than the one that was planned. Make the plan anew.`,
    )
  return { loop, path }
}

export const recordPath = ({ folder }: OpenPlan, index: number, file: PlannedFile) =>
  join(folder, DONE, `file-${index}-${keyOf(file)}.json`)
export const piecePath = (
  { folder }: OpenPlan,
  index: number,
  file: PlannedFile,
  [from, to]: readonly [number, number],
) => join(folder, DONE, `file-${index}-${keyOf(file)}-${from}-${to}.piece`)

/** Keeps what a task has done, in the folder for that: whoever does the same meanwhile is not in the way. */
export const place = (path: string, bytes: Uint8Array | string): Promise<void> =>
  writeWhole(path, bytes, { reads: [], force: true })

/** The record of a file that was done; null where there is none. @throws CommandError for what is no record */
export async function recordAt(path: string): Promise<ManifestEntry | null> {
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

/** How the files of a format are written in pieces. @throws CommandError where they are not */
export function piecedFormat(file: PlannedFile, format: FileFormat): Pieced {
  const pieced = PIECED[format]
  if (!pieced) throw new CommandError(`${file.out}: Files of its kind are not written in pieces. Make the plan anew.`)
  return pieced
}
