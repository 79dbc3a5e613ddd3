import { relative } from 'node:path'
import * as z from 'zod/mini'
import { PIECED } from '@/codecs/write'
import { isVector } from '@/core/output'
import { CommandError } from './command-error'
import { filesNamed, type Job, jobsOf, type ManyOptions } from './many'
import { encodeJobOf, settingsOf } from './render'
import { readLoopAt, WRITING } from './write'

const fileSchema = z.object({
  loop: z.string(),
  /** Names the loop in its state: a task is not done with another one. */
  state: z.string(),
  out: z.string(),
  scale: z.number(),
  repeats: z.number(),
  background: z.enum(['kept', 'removed']),
  quality: z.nullable(z.number()),
  /** Of the file. */
  frames: z.number(),
  /** Into how many pieces it is divided; a file of one piece is written and proven by whoever does it. */
  pieces: z.number(),
})
export type PlannedFile = z.infer<typeof fileSchema>

const stepSchema = z.object({
  /** Index of the file. */
  file: z.number(),
  /** First and last frame of a piece; absent where the whole file is meant. */
  frames: z.optional(z.tuple([z.number(), z.number()])),
})
export type Step = z.infer<typeof stepSchema>

const planSchema = z.object({
  format: z.literal('cyclon-plan'),
  files: z.array(fileSchema),
  /** What is done together, with the seconds that it is estimated to take on one core of the machine that planned. */
  tasks: z.array(z.object({ seconds: z.number(), steps: z.array(stepSchema) })),
})
export type Plan = z.infer<typeof planSchema>

/** @throws CommandError for what is no plan */
export function readPlan(text: string, path: string): Plan {
  try {
    return planSchema.parse(JSON.parse(text))
  } catch {
    throw new CommandError(`${path}: It is no plan, as \`cyclon plan\` writes one, or it is damaged.`)
  }
}

/** So many frames are drawn and written to know what one costs. */
const SAMPLE = 3
/** A piece has at least so many frames: fewer cost more to begin than to do. */
const LEAST_FRAMES = 6
/** Tasks last about so long where nobody says how many there are to be, s. */
const PLAIN_SECONDS = 60
const MOST_TASKS = 100_000

/** What writing a file costs, estimated by a few of its frames, s on one core. */
async function secondsOf(job: Job): Promise<{ readonly each: number; readonly frames: number }> {
  const { job: encode, end } = await encodeJobOf(await readLoopAt(job.path), job.path, { ...job.options, cores: 1 })
  try {
    const frames = encode.timing.frames.length
    if (isVector(encode.settings.format)) return { each: 0.2 / frames, frames }
    const first = Math.max(0, Math.floor(frames / 2) - SAMPLE)
    const count = Math.min(SAMPLE, frames)
    const timing = {
      ...encode.timing,
      frames: encode.timing.frames.slice(first, first + count),
      delays: encode.timing.delays.slice(first, first + count),
    }
    const write = WRITING(encode.settings.format)
    const began = performance.now()
    await write({ ...encode, timing, draw: (n) => encode.draw(first + n) })
    return { each: (performance.now() - began) / 1000 / count, frames }
  } finally {
    await end()
  }
}

/** A range of frames in so many pieces, as even as whole frames allow. */
export const rangesOf = (frames: number, pieces: number): [number, number][] =>
  Array.from({ length: pieces }, (_, i) => [
    Math.floor((i * frames) / pieces),
    Math.floor(((i + 1) * frames) / pieces) - 1,
  ])

/** Steps with their costs, put together to so many tasks of even cost: the dearest first, each to the task that has least (Graham 1969). */
export function evenTasks(
  steps: readonly { readonly step: Step; readonly seconds: number }[],
  most: number,
): Plan['tasks'] {
  const tasks = Array.from({ length: Math.min(most, Math.max(1, steps.length)) }, () => ({
    seconds: 0,
    steps: [] as Step[],
  }))
  for (const { step, seconds } of steps.toSorted((a, b) => b.seconds - a.seconds)) {
    const least = tasks.reduce((a, b) => (b.seconds < a.seconds ? b : a))
    least.seconds += seconds
    least.steps.push(step)
  }
  return tasks.map(({ seconds, steps: each }) => ({ seconds: Number(seconds.toFixed(2)), steps: each }))
}

/**
 * Divides loops, formats, sizes and ranges of frames into tasks of even cost. Paths are those from the folder in which the plan will lie.
 * @param tasks at the most; of about a minute each where it is null
 * @throws CommandError
 */
export async function planOf(patterns: readonly string[], options: ManyOptions, tasks: number | null): Promise<Plan> {
  const { jobs } = await jobsOf(await filesNamed(patterns), { ...options, keepGoing: false })
  const costs: { each: number; frames: number }[] = []
  // Loops that are alike in all but their colours are not all measured: one of a size and length in a format stands for the next.
  const known = new Map<string, { each: number; frames: number }>()
  for (const job of jobs) {
    const alike = `${job.path} ${settingsOf(job.options).format} ${job.options.scale}`
    const cost = known.get(alike) ?? (await secondsOf(job))
    known.set(alike, cost)
    costs.push(cost)
  }
  const all = costs.reduce((sum, { each, frames }) => sum + each * frames, 0)
  const wanted = tasks ?? Math.min(MOST_TASKS, Math.max(1, Math.ceil(all / PLAIN_SECONDS)))
  const most = all / wanted
  const files: PlannedFile[] = []
  const steps: { step: Step; seconds: number }[] = []
  for (const [file, job] of jobs.entries()) {
    const { each, frames } = costs[file] as { each: number; frames: number }
    const settings = settingsOf(job.options)
    const divides = settings.format in PIECED && (settings.format !== 'webp' || settings.lossless)
    const pieces = divides
      ? Math.max(1, Math.min(Math.ceil((each * frames) / most), Math.floor(frames / LEAST_FRAMES)))
      : 1
    const { scale, repeats, background, quality, out } = job.options
    files.push({
      loop: relative('.', job.path) || job.path,
      state: job.state,
      out,
      scale,
      repeats,
      background: background === 'removed' ? 'removed' : 'kept',
      quality,
      frames,
      pieces,
    })
    if (pieces === 1) steps.push({ step: { file }, seconds: each * frames })
    else
      for (const [from, to] of rangesOf(frames, pieces))
        steps.push({ step: { file, frames: [from, to] }, seconds: each * (to - from + 1) })
  }
  return { format: 'cyclon-plan', files, tasks: evenTasks(steps, wanted) }
}
