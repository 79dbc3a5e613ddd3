import { mkdir } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { dirname, join, relative } from 'node:path'
import { glob } from 'tinyglobby'
import { formatRate } from '@/core/clock'
import { timingIn } from '@/core/output'
import { scaledSize } from '../render/renderer'
import { CommandError } from './command-error'
import { jobThreads } from './job-threads'
import {
  countWords,
  emptyManifest,
  isThere,
  type Manifest,
  type ManifestEntry,
  manifestEntry,
  readManifest,
  writeManifest,
} from './manifest'
import { programName } from './program'
import { loopState, type Rendered, type RenderOptions, renderLoop, settingsOf } from './render'
import type { Teller } from './teller'
import { readLoopAt, stemOf } from './write'

export interface ManyOptions extends Omit<RenderOptions, 'frames' | 'scale'> {
  /** By their endings. */
  readonly formats: readonly string[]
  readonly scales: readonly number[]
  readonly resume: boolean
  readonly keepGoing: boolean
  /** Where the manifest is written; beside the files where it is null. */
  readonly manifest: string | null
}

/** A file that is to be written. */
export interface Job {
  readonly path: string
  readonly options: RenderOptions
  /** Names the loop in its state. */
  readonly state: string
  /** Pixels of all its frames. */
  readonly cost: number
}

/** Formats that have other names than their endings. */
const ENDINGS: Readonly<Record<string, string>> = { lottie: 'json', 'png-sequence': 'zip' }

/** The files that paths and patterns such as `*.cyclon.json` name. @throws CommandError for one that names none */
export async function filesNamed(patterns: readonly string[]): Promise<string[]> {
  const found: string[] = []
  for (const pattern of patterns) {
    // Without a pattern character it is a plain path.
    const named = /[*?[{]/.test(pattern)
      ? await glob(pattern, { dot: false, absolute: false, expandDirectories: false })
      : [pattern]
    if (named.length === 0) throw new CommandError(`${pattern}: No file is called so.`)
    found.push(...named.sort())
  }
  return [...new Set(found)]
}

/** A pattern of names with its parts put in. @throws CommandError for a part that there is not */
function namedBy(pattern: string, parts: Readonly<Record<string, string>>): string {
  return pattern.replace(/\{(\w*)\}/g, (_, part: string) => {
    const value = parts[part]
    if (value === undefined)
      throw new CommandError(
        `{${part}} is no part of a name; those are ${Object.keys(parts)
          .map((each) => `{${each}}`)
          .join(', ')}.`,
      )
    return value
  })
}

/** The files that a run is to write, in order. @throws CommandError where two would have one name, or a loop cannot be read */
export async function jobsOf(
  paths: readonly string[],
  options: ManyOptions,
): Promise<{ jobs: Job[]; unread: Manifest['failed'] }> {
  const { out, formats, scales, keepGoing, repeats, background, quality, force = false } = options
  const rest = { repeats, background, quality }
  const jobs: Job[] = []
  const unread: Manifest['failed'][number][] = []
  for (const path of paths) {
    try {
      const loop = await readLoopAt(path)
      const state = loopState(loop)
      for (const named of formats) {
        const format = ENDINGS[named] ?? named
        for (const scale of scales) {
          const { width, height } = scaledSize(loop, scale)
          const settings = settingsOf({ ...rest, scale, out: `name.${format}` })
          const frames = timingIn(loop, settings).frames.length
          const parts = {
            name: stemOf(path),
            format,
            scale: String(scale),
            width: String(width),
            height: String(height),
            rate: formatRate(loop.rate).replace('/', '-'),
            frames: String(frames),
          }
          const file = namedBy(out, parts)
          jobs.push({
            path,
            state,
            options: { ...rest, scale, frames: null, out: file, force, reads: paths },
            cost: width * height * frames,
          })
        }
      }
    } catch (error) {
      if (!keepGoing || !(error instanceof CommandError)) throw error
      unread.push({ file: '', loop: path, problem: error.message })
    }
  }
  const names = new Map<string, Job>()
  for (const job of jobs) {
    const name = job.options.out.toLowerCase()
    const other = names.get(name)
    if (other)
      throw new CommandError(
        `${job.options.out} would be written twice, from ${other.path} and from ${job.path}: put what differs into -o, such as {name}, {width} or {format}.`,
      )
    names.set(name, job)
  }
  return { jobs, unread }
}

/** The folder in which all names of a pattern lie. */
export const folderOf = (pattern: string): string => {
  const still = pattern.split('{')[0] ?? ''
  return still.endsWith('/') ? still : dirname(still === '' ? '.' : still)
}

const clockOf = (seconds: number): string => {
  const whole = Math.max(0, Math.round(seconds))
  const minutes = Math.floor(whole / 60)
  const rest = String(whole % 60).padStart(2, '0')
  return minutes >= 60
    ? `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}:${rest}`
    : `${minutes}:${rest}`
}

/** From this many files per core, each file gets one thread; below it, each file gets them all. */
const FILES_PER_CORE_FOR_ONE_THREAD = 2

/** Names how a job writes its file: with the same name, and an unchanged loop, it writes the same file. */
const settingsName = ({ options: { scale, repeats, background, quality } }: Job): string =>
  JSON.stringify({ scale, repeats, background, quality, program: programName() })

/** Parts jobs into those whose files are there as a manifest says, and those that are still to be done. */
async function partedJobs(jobs: readonly Job[], path: string, manifest: Manifest) {
  const known = new Map(manifest.files.map((entry) => [entry.file, entry]))
  const there: ManifestEntry[] = []
  const waiting: Job[] = []
  for (const job of jobs) {
    const entry = known.get(relative(dirname(path), job.options.out))
    const same = entry && entry.state === job.state && entry.settings === settingsName(job)
    if (same && (await isThere(path, entry))) there.push(entry)
    else waiting.push(job)
  }
  return { there, waiting }
}

type Result = Rendered | { readonly problem: string }

/** One run: keeps its manifest up to date, and tells how far it is. It stops at the first failure, unless it is to go on. */
class Run {
  /** Jobs that have ended. */
  count = 0
  stopped = false
  private done = 0
  private readonly began = performance.now()
  private readonly all: number
  private writing = Promise.resolve()
  readonly files: ManifestEntry[]
  readonly failed: Manifest['failed'][number][]

  constructor(
    private readonly path: string,
    private readonly waiting: readonly Job[],
    there: readonly ManifestEntry[],
    unread: Manifest['failed'],
    private readonly tell: Teller,
    private readonly keepGoing: boolean,
  ) {
    this.files = [...there]
    this.failed = [...unread]
    this.all = waiting.reduce((sum, { cost }) => sum + cost, 0)
  }

  /** Writes the manifest, after any that is being written. */
  keep(): Promise<void> {
    this.writing = this.writing.then(() =>
      writeManifest(this.path, { format: 'cyclon-manifest', files: this.files, failed: this.failed }),
    )
    return this.writing
  }

  /** Notes the result of a job. */
  ended(job: Job, result: Result): void {
    this.done += job.cost
    this.count++
    const { out } = job.options
    if ('problem' in result) {
      const { problem } = result
      this.failed.push({ file: relative(dirname(this.path), out), loop: job.path, problem })
      this.tell.line(problem.startsWith(out) ? problem : `${out}: ${problem}`)
      if (!this.keepGoing) this.stopped = true
    } else {
      const about = { loop: job.path, state: job.state, settings: settingsName(job) }
      this.files.push(manifestEntry(this.path, out, about, result))
      for (const line of result.said) this.tell.line(line)
    }
    const seconds = (performance.now() - this.began) / 1000
    const left = this.done === 0 ? 0 : seconds * ((this.all - this.done) / this.done)
    this.tell.progress(`${this.count} of ${this.waiting.length} files, ${clockOf(left)} left`)
    // A manifest that cannot be written fails the run where it waits for it.
    this.keep().catch(() => {})
  }
}

/** Does the jobs of a run on all cores: each file by one thread where there are many, else each by all threads. */
async function doJobs(jobs: readonly Job[], run: Run, cores: number): Promise<void> {
  const manyFiles = jobs.length >= FILES_PER_CORE_FOR_ONE_THREAD * cores && cores > 1
  const threads = manyFiles ? jobThreads(Math.min(cores, jobs.length)) : null
  const render = async (job: Job): Promise<Result> =>
    threads
      ? threads.render(job.path, { ...job.options, cores: 1 })
      : renderLoop(await readLoopAt(job.path), job.path, { ...job.options, cores }).catch((error: Error) => ({
          problem: error.message,
        }))
  const one = async (job: Job) => {
    if (!run.stopped) run.ended(job, await render(job))
  }
  try {
    // The most expensive first: none of them is begun when all others are done.
    const order = jobs.toSorted((a, b) => b.cost - a.cost)
    if (threads) await Promise.all(order.map(one))
    else for (const job of order) await one(job)
  } finally {
    await threads?.end()
  }
}

/**
 * Renders loops in several formats and sizes, in one process on all cores.
 * @returns whether all files were written and proven
 * @throws CommandError for what cannot be begun
 */
export async function renderMany(patterns: readonly string[], options: ManyOptions, tell: Teller): Promise<boolean> {
  const { jobs, unread } = await jobsOf(await filesNamed(patterns), options)
  const path = options.manifest ?? join(folderOf(options.out), 'cyclon-manifest.json')
  for (const folder of new Set([path, ...jobs.map((job) => job.options.out)].map(dirname)))
    await mkdir(folder, { recursive: true })
  const before = await readManifest(path)
  for (const { loop, problem } of unread) tell.line(`${loop}: ${problem.replace(`${loop}: `, '')}`)
  const { there, waiting } = await partedJobs(jobs, path, options.resume ? before : emptyManifest())
  if (there.length > 0)
    tell.line(`${there.length} of ${jobs.length} files are there as they were written: they are left as they are.`)
  const run = new Run(path, waiting, there, unread, tell, options.keepGoing)
  await run.keep()
  try {
    await doJobs(waiting, run, options.cores ?? availableParallelism())
  } finally {
    tell.end()
    await run.keep()
  }
  if (run.stopped)
    tell.line(
      `Stopped at the first file that could not be written; ${waiting.length - run.count} were not begun. --keep-going goes on, --resume leaves alone what is there.`,
    )
  tell.line(`${path}: ${countWords(run.files, jobs.length)}`)
  return run.failed.length === 0
}
