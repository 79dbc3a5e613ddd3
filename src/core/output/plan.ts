import * as z from 'zod/mini'
import { type FileFormat, MAX_LENGTH } from '../clock'
import { whole } from '../schemas'
import { MAX_REPEATS, SCALES } from './bounds'
import { type FileSettings, settingsSchema } from './settings'

const MAX_TASKS = 100_000
const MAX_FRAMES = MAX_LENGTH * MAX_REPEATS
const frameNumber = whole(0, MAX_FRAMES - 1)

const fileSchema = z
  .object({
    loop: z.string(),
    /** Names the loop in its state: a task is not done with another one. */
    state: z.string(),
    out: z.string(),
    scale: z.number().check(z.minimum(SCALES.least), z.maximum(SCALES.most)),
    repeats: whole(1, MAX_REPEATS),
    background: z.enum(['kept', 'removed']),
    quality: z.nullable(z.number().check(z.minimum(1), z.maximum(100))),
    /** All that can be chosen of it; where this is left out, what goes without saying for its format. */
    settings: z.optional(settingsSchema),
    /** Of the file. */
    frames: whole(1, MAX_FRAMES),
    /** Into how many pieces it is divided; a file of one piece is written and proven by whoever does it. */
    pieces: whole(1, MAX_TASKS),
  })
  .check(z.refine(({ frames, pieces }) => pieces <= frames))
export type PlannedFile = z.infer<typeof fileSchema>

const stepSchema = z.object({
  /** Index of the file. */
  file: whole(0, MAX_TASKS),
  /** First and last frame of a piece; absent where the whole file is meant. */
  frames: z.optional(z.tuple([frameNumber, frameNumber])),
})
export type Step = z.infer<typeof stepSchema>

/** Files that are to be written, and their work divided into tasks for many machines; paths are those from the folder of the plan on. */
export const planSchema = z.object({
  format: z.literal('cyclon-plan'),
  files: z.array(fileSchema),
  /** Steps that are done together, with their estimated seconds on one core of the machine that planned. */
  tasks: z.array(z.object({ seconds: z.number(), steps: z.array(stepSchema) })),
})
export type WorkPlan = z.infer<typeof planSchema>

/** A piece has at least this many frames: below that, starting it costs more than doing it. */
const MIN_PIECE_FRAMES = 6
/** Duration of a task if nobody says how many there are to be, s. */
const PLAIN_SECONDS = 60

/** Formats whose frames can be encoded apart from each other. A GIF is not among them: its palette is measured on all frames; nor is a file with loss. */
export const DIVIDED = ['apng', 'webp', 'png-sequence'] as const satisfies readonly FileFormat[]
export const divides = ({ format, lossless }: Pick<FileSettings, 'format' | 'lossless'>): boolean =>
  (DIVIDED as readonly FileFormat[]).includes(format) && (format !== 'webp' || lossless)

/** A range of frames in the given number of pieces, as even as whole frames allow. */
export const rangesOf = (frames: number, pieces: number): [number, number][] =>
  Array.from({ length: pieces }, (_, i) => [
    Math.floor((i * frames) / pieces),
    Math.floor(((i + 1) * frames) / pieces) - 1,
  ])

/**
 * Steps grouped into the given number of tasks of even cost: the most expensive first, each to the task with the least
 * (Graham 1969).
 */
export function evenTasks(
  steps: readonly { readonly step: Step; readonly seconds: number }[],
  most: number,
): WorkPlan['tasks'] {
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

/** A file that is to be planned. */
export interface CostedFile extends Omit<PlannedFile, 'pieces'> {
  /** Cost of one of its frames, s on one core. */
  readonly each: number
  readonly divides: boolean
}

/**
 * Divides files, and ranges of their frames, into at most `tasks` tasks of even cost, or into tasks of about a minute.
 */
export function planFiles(wanted: readonly CostedFile[], tasks: number | null): WorkPlan {
  const all = wanted.reduce((sum, { each, frames }) => sum + each * frames, 0)
  const count = tasks ?? Math.min(MAX_TASKS, Math.max(1, Math.ceil(all / PLAIN_SECONDS)))
  const most = all / count
  const steps: { step: Step; seconds: number }[] = []
  const files = wanted.map(({ each, divides: apart, ...file }, index): PlannedFile => {
    const { frames } = file
    const pieces = apart
      ? Math.max(1, Math.min(Math.ceil((each * frames) / most), Math.floor(frames / MIN_PIECE_FRAMES)))
      : 1
    if (pieces === 1) steps.push({ step: { file: index }, seconds: each * frames })
    else
      for (const [from, to] of rangesOf(frames, pieces))
        steps.push({ step: { file: index, frames: [from, to] }, seconds: each * (to - from + 1) })
    return { ...file, pieces }
  })
  return { format: 'cyclon-plan', files, tasks: evenTasks(steps, count) }
}
