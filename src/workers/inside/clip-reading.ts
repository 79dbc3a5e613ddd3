import { ClipError } from '@/codecs/claims'
import { glimpseOf, grainIn, meanLight, mendedPlan } from '@/core/footage'
import { isOpaque, type Picture, type SheetGrid } from '@/core/image'
import { describeFrame, type JudgedFrame, judgedSide } from '@/core/seam'
import { breathe } from '../shared/timing'
import { openFrames } from './clip-frames'
import { type ClipProgress, type MendedClip, stopMending } from './clip-mends'
import { type ClipFacts, heldReport, holdClip, type OpenClip, YIELD_AFTER_MS } from './held-clip'

/** Frames of a file that are kept, bytes: as large as lets all of them be under it. Those at full size have a ceiling of their own. */
const CEILING = 192 * 1024 * 1024
/** The largest file that is read, bytes. */
const MAX_FILE_BYTES = 512 * 1024 * 1024

let working = 0

/** Begins to read or to write; what was being done before is left. */
export const beginWork = (): number => ++working
export const stopWork = (): void => void working++

/** @throws ClipError when it was cancelled meanwhile */
function goesOn(job: number): void {
  if (job !== working) throw new ClipError('It was cancelled.')
}

/** Lets the page be told, and takes a cancel. @throws ClipError when it was cancelled. */
export async function pause(job: number): Promise<void> {
  await breathe()
  goesOn(job)
}

/** Reads files and holds them as the clip. @param of the clip of which they are to be a copy; null for any */
export async function readFiles(
  files: readonly File[],
  grid: SheetGrid | undefined,
  onProgress: (progress: ClipProgress) => void,
  of: OpenClip | null,
): Promise<{ facts: ClipFacts } & MendedClip> {
  const job = beginWork()
  const bytes = files.reduce((sum, { size }) => sum + size, 0)
  const [{ name }] = files as [File]
  if (bytes > MAX_FILE_BYTES)
    throw new ClipError(
      `${name} has ${Math.round(bytes / 1e6)} MB; up to ${Math.round(MAX_FILE_BYTES / 1e6)} can be read. Cut or compress it first.`,
    )
  const opened = await openFrames(files, grid)
  const { count } = opened
  const scale = Math.min(1, Math.sqrt(CEILING / (count * opened.width * opened.height * 4)))
  const width = Math.max(1, Math.floor(opened.width * scale))
  const height = Math.max(1, Math.floor(opened.height * scale))
  const pictures: Picture[] = []
  const described: JudgedFrame[] = []
  const delaysMs: number[] = []
  const side = judgedSide(count)
  let batch = performance.now()
  for await (const { picture, delayMs } of opened.frames(width, height)) {
    pictures.push(picture)
    delaysMs.push(delayMs)
    described.push(describeFrame(picture, side))
    if (performance.now() - batch > YIELD_AFTER_MS) {
      onProgress({ done: pictures.length, of: count })
      await pause(job)
      batch = performance.now()
    }
  }
  if (pictures.length === 0)
    throw new ClipError(`${name} holds no picture that can be decoded. Fetch or export it again.`)
  const { format, plays } = opened
  const notes =
    pictures.length === count
      ? opened.notes
      : [...opened.notes, `the file claims ${count} frames, and ${pictures.length} can be decoded`]
  const facts: ClipFacts = {
    name: files.length > 1 ? `${name} and ${files.length - 1} more` : name,
    bytes,
    claims: { format, width: opened.width, height: opened.height, delaysMs, plays, notes },
    width,
    height,
    transparent: !pictures.every(isOpaque),
    grid: opened.grid ?? null,
  }
  const shape = { delaysMs, playsForever: plays === 0, means: pictures.map(meanLight), grain: grainIn(pictures) }
  const plan = mendedPlan(shape, [])
  const report = await heldReport(plan, { described, pictures }, [])
  // Another file has been asked for meanwhile: that one is the one that is held.
  goesOn(job)
  if (of) sameFrames(of.pictures, pictures)
  stopMending()
  holdClip({ files, facts, shape, opened, pictures, described })
  return { facts, plan, report, steadied: [] }
}

/**
 * Frames compared to tell whether a clip is a copy of another, and their largest distance, root mean square of 255: as
 * another codec and size keep them.
 */
const COMPARED = 12
const COPIED = 12

/** @throws ClipError where two clips show other frames */
function sameFrames(one: readonly Picture[], other: readonly Picture[]): void {
  if (one.length !== other.length)
    throw new ClipError(
      `It has ${other.length} frames and the open file ${one.length}: it is no copy of it. Open it as a file of its own.`,
    )
  const every = Math.max(1, Math.floor(one.length / COMPARED))
  for (let n = 0; n < one.length; n += every) {
    const a = glimpseOf(one[n] as Picture).data
    const b = glimpseOf(other[n] as Picture).data
    if (Math.sqrt(a.reduce((sum, x, k) => sum + (x - (b[k] as number)) ** 2, 0) / a.length) > COPIED)
      throw new ClipError(`Frame ${n} shows something else than that of the open file. Open it as a file of its own.`)
  }
}
