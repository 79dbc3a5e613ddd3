import { relative } from 'node:path'
import { allLayers, type Loop } from '@/core/document'
import { type CostedFile, divides, isVector, planFiles, planSchema, type WorkPlan } from '@/core/output'
import { CommandError } from './command-error'
import { filesNamed, type Job, jobsOf, type ManyOptions } from './many'
import { encodeJobOf, settingsOf } from './render'
import { readLoopAt, WRITING } from './write'

/** @throws CommandError for what is no plan */
export function readPlan(text: string, path: string): WorkPlan {
  try {
    return planSchema.parse(JSON.parse(text))
  } catch {
    throw new CommandError(`${path}: It is no plan, as \`cyclon plan\` writes one, or it is damaged.`)
  }
}

/** Number of frames drawn and written to measure the cost of one. */
const SAMPLE_FRAMES = 3

/**
 * At most this many loops that differ only in numbers and colours are measured; the others are given their mean cost.
 */
const MEASURED_ALIKE = 3

/** Key of loops with about the same cost. */
const likenessOf = async ({ path, options, cost }: Job): Promise<string> => {
  const { layers, loops, media, blur } = await readLoopAt(path)
  const kinds = allLayers({ layers } as Loop).map(({ kind }) => kind)
  return JSON.stringify([kinds, loops.length, media.length, blur, cost, options.scale, settingsOf(options).format])
}

/** Cost of writing a frame of a file, measured on a few, s on one core; and the number of frames. */
async function costOf(job: Job): Promise<Pick<CostedFile, 'each' | 'frames'>> {
  const { job: encode, end } = await encodeJobOf(await readLoopAt(job.path), job.path, { ...job.options, cores: 1 })
  try {
    const frames = encode.timing.frames.length
    // Vectors are written at once, however many frames they have.
    if (isVector(encode.settings.format)) return { each: 0.2 / frames, frames }
    const first = Math.max(0, Math.floor(frames / 2) - SAMPLE_FRAMES)
    const count = Math.min(SAMPLE_FRAMES, frames)
    const timing = {
      ...encode.timing,
      frames: encode.timing.frames.slice(first, first + count),
      delays: encode.timing.delays.slice(first, first + count),
    }
    const began = performance.now()
    await WRITING(encode.settings.format)({ ...encode, timing, draw: (n) => encode.draw(first + n) })
    return { each: (performance.now() - began) / 1000 / count, frames }
  } finally {
    await end()
  }
}

/**
 * Divides loops, formats, sizes and ranges of frames into tasks of even cost. Paths are those from the folder in which the plan will lie.
 * @param tasks at the most; of about a minute each where it is null
 * @throws CommandError
 */
export async function clusterPlan(
  patterns: readonly string[],
  options: ManyOptions,
  tasks: number | null,
): Promise<WorkPlan> {
  const { jobs } = await jobsOf(await filesNamed(patterns), { ...options, keepGoing: false })
  const wanted: CostedFile[] = []
  const known = new Map<string, Pick<CostedFile, 'each' | 'frames'>[]>()
  for (const job of jobs) {
    const alike = await likenessOf(job)
    const measured = known.get(alike) ?? []
    known.set(alike, measured)
    if (measured.length < MEASURED_ALIKE) measured.push(await costOf(job))
    const each = measured.reduce((sum, cost) => sum + cost.each, 0) / measured.length
    const frames = (measured.at(-1) as Pick<CostedFile, 'frames'>).frames
    const { scale, repeats, background, quality, out } = job.options
    wanted.push({
      loop: relative('.', job.path) || job.path,
      state: job.state,
      out,
      scale,
      repeats,
      background: background === 'removed' ? 'removed' : 'kept',
      quality,
      divides: divides(settingsOf(job.options)),
      each,
      frames,
    })
  }
  return planFiles(wanted, tasks)
}
