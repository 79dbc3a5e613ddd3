import { proxy } from 'comlink'
import { create } from 'zustand'
import type { Proof } from '@/codecs'
import type { Mend } from '@/core/footage'
import type { SheetGrid } from '@/core/image'
import { picturesAmong } from '@/core/media/numbering'
import type { ClipFacts, ClipProgress, ClipService, MendedClip } from '@/workers/inside/clip.worker'
import { type Client, clipClient, WorkerEnded } from '@/workers/page/clients'
import { filePath } from './clip-files'
import { keepMends, keptMends, keyOfFiles } from './clip-plans'
import { tryVideo } from './trial'

/** A file that was written, and its proof. */
export interface WrittenClip {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly proof: Proof
  /** The mends that are in it. */
  readonly mends: readonly Mend[]
}

interface ClipState {
  readonly facts: ClipFacts | null
  /** As it came. */
  readonly original: MendedClip | null
  readonly mends: readonly Mend[]
  readonly undone: readonly Mend[]
  /** With the mends that were taken. */
  readonly mended: MendedClip | null
  /** With one more that is only shown. */
  readonly preview: (MendedClip & { readonly mend: Mend }) | null
  readonly working: (ClipProgress & { readonly what: string; readonly since: number }) | null
  readonly problem: string | null
  readonly written: WrittenClip | null
}

const NOTHING: ClipState = {
  facts: null,
  original: null,
  mends: [],
  undone: [],
  mended: null,
  preview: null,
  working: null,
  problem: null,
  written: null,
}

/** The file whose seam is looked at, and how it is mended. The file itself is never changed. */
export const useClip = create<ClipState>()(() => NOTHING)

let client: Client<ClipService> | null = null

/**
 * Asks the worker that holds the clip; the same one until the page is left, so that a clip survives going elsewhere. Where it dies, the clip
 * goes with it: that is said, and the next file is read by another one.
 */
export async function askClip<R>(work: (service: Client<ClipService>['service']) => Promise<R>): Promise<R> {
  client ??= clipClient()
  const own = client
  try {
    return await own.ask(work)
  } catch (error) {
    if (error instanceof WorkerEnded && client === own) {
      own.end()
      client = null
      opened = []
      telling = null
      useClip.setState({
        ...NOTHING,
        problem: `Reading the file broke down, and it was closed: ${error.message} Open it again; a smaller or shorter one may be needed.`,
      })
    }
    throw error
  }
}

/** The work whose progress is shown. */
let telling: Work | null = null
/** Work shorter than this shows no progress, ms: it would only flicker. */
const QUIET_MS = 300

/** Something that takes a while, and how far it is. */
class Work {
  private readonly since = performance.now()

  constructor(
    private readonly what: string,
    private readonly quietMs: number,
  ) {}

  readonly progress = proxy((progress: ClipProgress) => {
    if (telling === this && performance.now() - this.since >= this.quietMs) this.tell(progress)
  })

  tell(progress: ClipProgress): void {
    useClip.setState({ working: { ...progress, what: this.what, since: this.since } })
  }

  /** It has ended, one way or the other; what else is being done is told of as before. */
  end(): void {
    if (telling !== this) return
    telling = null
    useClip.setState({ working: null })
  }

  /** It has ended so: says what went wrong; a worker that has died has said so already. */
  fail(error: unknown): void {
    this.end()
    failed(error)
  }
}

/** Begins something that is told of at once, in place of what was. */
export function begun(what: string): Work {
  const work = new Work(what, 0)
  telling = work
  work.tell({ done: 0, of: 1 })
  return work
}

/** Begins something that is told of once it has taken a while, unless something else is. */
function begunQuietly(what: string): Work {
  const work = new Work(what, QUIET_MS)
  telling ??= work
  return work
}

/** Says what went wrong; a worker that has died has said so already. */
export const failed = (error: unknown): void => {
  if (!(error instanceof WorkerEnded)) useClip.setState({ problem: (error as Error).message })
}

let opened: readonly File[] = []
/** Key of the open file; null if it could not be computed. */
let key: string | null = null

/** Opens a file, or of several the numbered pictures, with what was done to it the last time; what cannot be read is said, and what was open stays. */
export async function openClip(files: readonly File[], grid?: SheetGrid): Promise<boolean> {
  const fit = fitAmong(files)
  const isOpen = await readClip(fit, (progress) => askClip((service) => service.open(fit, grid, progress)))
  if (!isOpen) return false
  // Cut into other frames, it is another clip.
  if (grid) key = null
  const file = opened
  const kept = key && (await keptMends(key).catch(() => null))
  if (kept && file === opened) await changeMends(() => kept)
  return true
}

/** Opens a better copy of the file that is open, of another size or written otherwise: all that was done stays. What shows other frames is said, and what was open stays. */
export async function exchangeClip(files: readonly File[]): Promise<boolean> {
  const fit = fitAmong(files)
  const { mends, undone } = useClip.getState()
  const isOpen = await readClip(fit, (progress) => askClip((service) => service.exchange(fit, progress)))
  if (isOpen) await changeMends(() => ({ mends, undone }))
  return isOpen
}

/** The readable files among some; says so if there are none. */
function fitAmong(files: readonly File[]): readonly File[] {
  const byPath = new Map(files.map((file) => [filePath(file), file]))
  const found = files.length > 1 ? picturesAmong([...byPath.keys()]) : [...byPath.keys()]
  const fit = found.flatMap((path) => byPath.get(path) ?? [])
  const [file] = fit
  if (!file) {
    if (files.length > 0) useClip.setState({ problem: 'There are no pictures among these files that can be read.' })
    return []
  }
  return fit
}

type Read = (progress: Work['progress']) => ReturnType<ClipService['open']>

async function readClip(fit: readonly File[], read: Read): Promise<boolean> {
  const [file] = fit
  if (!file) return false
  const own = ++opening
  // The file that was asked for before is no longer wanted.
  trial.abort()
  trial = new AbortController()
  const work = begun(`Reading ${file.name}`)
  try {
    if (fit.length === 1) await tryVideo(file, trial.signal)
    if (own !== opening) return false
    const { facts, ...original } = await read(work.progress)
    const told = await keyOfFiles(fit).catch(() => null)
    // Another file has been asked for since: that one is what is opened.
    if (own !== opening) return false
    opened = fit
    key = told
    work.end()
    useClip.setState({ ...NOTHING, facts, original, mended: original })
    return true
  } catch (error) {
    if (own === opening) work.fail(error)
    return false
  }
}

/** Files that are asked for; the last one is the one that is opened. */
let opening = 0
/** Aborts the trial of the file that is being opened. */
let trial = new AbortController()

/** Reads the picture that is open once more, cut into other frames. */
export const cutAnew = (grid: SheetGrid): Promise<boolean> => openClip(opened, grid)

/** The latest request decides what is shown, whichever answer arrives first; taking a mend ends all previews. */
let asked = 0
/** Mends are taken and taken back one after the other, however quickly they are asked for. */
let turn: Promise<void> = Promise.resolve()

/** When all mends that were asked for are in, those that there are. */
export async function settledMends(): Promise<readonly Mend[]> {
  await turn
  return useClip.getState().mends
}

/** Shows what a mend would do, without taking it; null shows the clip as it is. */
export async function previewMend(mend: Mend | null): Promise<void> {
  const own = ++asked
  const { mends } = useClip.getState()
  let result: MendedClip | null = null
  try {
    result = mend && (await askClip((service) => service.previewed([...mends, mend])))
  } catch (error) {
    // One that gave way to another says nothing.
    if (own === asked) failed(error)
  }
  if (own === asked) useClip.setState({ preview: mend && result ? { ...result, mend } : null })
}

/** Words for the work on the newest mend. */
const newest = (mends: readonly Mend[]): string => {
  const last = mends.at(-1)?.kind
  return last === 'steady' ? 'Following the camera' : last ? 'Working out what was mended' : 'Looking at it as it came'
}

type Mends = Pick<ClipState, 'mends' | 'undone'>

/** Changes the mends of the file that is open; where another is by the time that it is their turn, or they are worked out, nothing. */
function changeMends(change: (now: Mends) => Mends): Promise<void> {
  const file = opened
  const next = async () => {
    if (file !== opened) return
    const { mends, undone } = change(useClip.getState())
    const work = begunQuietly(newest(mends))
    try {
      const mended = await askClip((service) => service.mended(mends, work.progress))
      work.end()
      if (file !== opened) return
      asked++
      useClip.setState({ mends, undone, mended, preview: null })
      // If it cannot be stored, it is still there until the page is left.
      if (key) void keepMends(key, { mends, undone }).catch(() => {})
    } catch (error) {
      work.end()
      if (file === opened) failed(error)
    }
  }
  turn = turn.then(next)
  return turn
}

export const takeMend = (mend: Mend): Promise<void> =>
  changeMends(({ mends }) => ({ mends: [...mends, mend], undone: [] }))

/** All of it as it came; what was done can be taken again. */
export const startAfresh = (): Promise<void> =>
  changeMends(({ mends, undone }) => ({ mends: [], undone: [...mends, ...undone] }))

export const undoMend = (): Promise<void> =>
  changeMends(({ mends, undone }) => ({ mends: mends.slice(0, -1), undone: [...mends.slice(-1), ...undone] }))

export const redoMend = (): Promise<void> =>
  changeMends(({ mends, undone }) => ({ mends: [...mends, ...undone.slice(0, 1)], undone: undone.slice(1) }))

/** Writes the mended clip as a GIF and proves it. */
export async function writeMendedClip(): Promise<void> {
  const mends = await settledMends()
  const work = begun('Writing the GIF')
  try {
    const { bytes, proof } = await askClip((service) => service.gif(mends, work.progress))
    work.end()
    useClip.setState({ written: { bytes, proof, mends } })
  } catch (error) {
    work.fail(error)
  }
}

/** Stops reading or writing; nothing half done is left. */
export async function cancelClip(): Promise<void> {
  trial.abort()
  await askClip((service) => service.cancel())
}
