import { mkdir } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Step } from '@/core/output'
import { CommandError } from './command-error'
import { isThere, manifestEntry } from './manifest'
import {
  type Allowed,
  DONE,
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
import { provenPiece, readPiece } from './piece-file'
import { encodeJobOf, renderLoop } from './render'

/** Does a step of a task; says what was done. @throws CommandError */
async function doStep(at: OpenPlan, { file: index, frames }: Step): Promise<string> {
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
    const entry = manifestEntry(
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
    const pieced = piecedFormat(file, job.settings.format)
    await place(path, await provenPiece(job, pieced, key, from, to))
    return `${file.out}: frames ${from} to ${to} of ${file.frames}`
  } finally {
    await end()
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
      // An error of an encoder or of the disk is reported with its file.
      throw new CommandError(`${at.plan.files[step.file]?.out}: ${(error as Error).message}`)
    }
  }
}
