import { transfer } from 'comlink'
import { PLAIN_COLOURS, type Proof, proveGif, writeGif } from '@/codecs'
import { ClipError } from '@/codecs/claims'
import { LONGEST_NAME } from '@/core/document'
import { type Mend, meanLight, mendedPlan, sketchOf } from '@/core/footage'
import { newId } from '@/core/id'
import { type DifferenceKind, difference, type Grid, isOpaque, type Picture, reducePicture } from '@/core/image'
import { assetsIn, type Clip, type Files, filesOf, MOST_CLIP_FRAMES, unroundedDelays } from '@/core/media'
import { type Described, describeFrame, judgedSide, SHORTEST_DELAY_MS } from '@/core/seam'
import { type FrameEdges, judgeTiles, SMALLEST_TILE } from '@/core/texture'
import { bitmapOf } from './bitmap'
import { openFrames } from './clip-frames'
import { sourceOf } from './clip-frames/source'
import { storedFrames } from './clip-frames/stored'
import { type ClipProgress, type MendedClip, mendService, stopMending } from './clip-mends'
import { gifOnAllCores } from './coding'
import { browserTools } from './encoders/tools'
import {
  BATCH_MS,
  type ClipFacts,
  clip,
  frameOf,
  fullFrames,
  type Held,
  holdClip,
  learnedFor,
  planOf,
  reportOf,
} from './held-clip'
import { serve } from './serve'
import { breathe } from './timing'

/** Frames of a file that are kept, bytes: as large as lets all of them be under it. Those at full size have a ceiling of their own. */
const CEILING = 192 * 1024 * 1024
/** Frames of which the pixels are kept for a proof, bytes; the others are read again. */
const PROOF_CEILING = 64 * 1024 * 1024
/** The largest file that is read, bytes. */
const LARGEST_FILE = 512 * 1024 * 1024
/** What viewers show in place of a delay that is too short, ms. */
const REPLACED_MS = 100

export type { ClipFacts, ClipProgress, MendedClip }

let working = 0

/** Lets the page be told, and takes a cancel. @throws ClipError when it was cancelled. */
async function pause(job: number): Promise<void> {
  await breathe()
  if (job !== working) throw new ClipError('It was cancelled.')
}

/** Reads files and holds them as the clip. @param of the clip of which they are to be a copy; null for any */
async function read(
  files: readonly File[],
  grid: Grid | undefined,
  onProgress: (progress: ClipProgress) => void,
  of: Held | null,
): Promise<{ facts: ClipFacts } & MendedClip> {
  const job = ++working
  const bytes = files.reduce((sum, { size }) => sum + size, 0)
  const [{ name }] = files as [File]
  if (bytes > LARGEST_FILE)
    throw new ClipError(
      `${name} has ${Math.round(bytes / 1e6)} MB; up to ${Math.round(LARGEST_FILE / 1e6)} can be read. Cut or compress it first.`,
    )
  const opened = await openFrames(files, grid)
  const { count } = opened
  const scale = Math.min(1, Math.sqrt(CEILING / (count * opened.width * opened.height * 4)))
  const width = Math.max(1, Math.floor(opened.width * scale))
  const height = Math.max(1, Math.floor(opened.height * scale))
  const pictures: Picture[] = []
  const described: Described[] = []
  const delaysMs: number[] = []
  const side = judgedSide(count)
  let batch = performance.now()
  for await (const { picture, delayMs } of opened.frames(width, height)) {
    pictures.push(picture)
    delaysMs.push(delayMs)
    described.push(describeFrame(reducePicture(picture, side)))
    if (performance.now() - batch > BATCH_MS) {
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
  const shape = { delaysMs, playsForever: plays === 0, means: pictures.map(meanLight) }
  const plan = mendedPlan(shape, [])
  const report = await reportOf(plan, { described, pictures }, [])
  // Another file has been asked for meanwhile: that one is the one that is held.
  if (job !== working) throw new ClipError('It was cancelled.')
  if (of) sameFrames(of.pictures, pictures)
  stopMending()
  stopMending()
  holdClip({ files, facts, shape, opened, pictures, described })
  return { facts, plan, report, steadied: [] }
}

/** So many frames tell whether one clip is a copy of another; they may be so far apart, root mean square of 255: as another codec and another size keep them. */
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
    const [a, b] = [sketchOf(one[n] as Picture), sketchOf(other[n] as Picture)]
    if (Math.sqrt(a.reduce((sum, x, k) => sum + (x - (b[k] as number)) ** 2, 0)) > COPIED)
      throw new ClipError(`Frame ${n} shows something else than that of the open file. Open it as a file of its own.`)
  }
}

const service = {
  ...mendService,

  /**
   * Reads a file, or several pictures as a sequence, and judges it. What was open stays so until the new one has been
   * read. @param grid how a sprite sheet is cut; found where it is left out. @throws ClipError
   */
  async open(
    files: readonly File[],
    grid: Grid | undefined,
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ facts: ClipFacts } & MendedClip> {
    return read(files, grid, onProgress, null)
  },

  /** Reads a better copy of the clip that is open. @throws ClipError where it shows other frames */
  async exchange(
    files: readonly File[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ facts: ClipFacts } & MendedClip> {
    return read(files, undefined, onProgress, clip())
  },

  /** How frames of the mended clip, as they are in the file, meet themselves; null where they are too small to tell. */
  async tile(mends: readonly Mend[]): Promise<FrameEdges | null> {
    const { width, height } = await frameOf(mends, 0, true)
    if (Math.min(width, height) < SMALLEST_TILE) return null
    return judgeTiles(planOf(mends).frames.length, (n) => frameOf(mends, n, true))
  },

  /** A frame of the mended clip: at the size at which it is kept, or as it is in the file. */
  async bitmap(mends: readonly Mend[], n: number, inFull: boolean): Promise<ImageBitmap> {
    return bitmapOf(await frameOf(mends, n, inFull))
  },

  /** What differs between two frames of the mended clip, so many times. */
  async difference(
    mends: readonly Mend[],
    i: number,
    j: number,
    how: { readonly gain: number; readonly kind: DifferenceKind },
    inFull: boolean,
  ): Promise<ImageBitmap> {
    const [a, b] = [await frameOf(mends, i, inFull), await frameOf(mends, j, inFull)]
    return bitmapOf(difference(a, b, how.gain, how.kind))
  },

  /** The mended clip as a GIF at its full size, read back and proven. */
  async gif(
    mends: readonly Mend[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ bytes: Uint8Array<ArrayBuffer>; proof: Proof }> {
    const job = ++working
    const { shape, facts } = clip()
    const plan = mendedPlan(shape, mends)
    const { width, height } = facts.claims
    const transparent = facts.transparent && !plan.edits.some(({ mend }) => mend.kind === 'matte')
    const draw = await fullFrames(plan)
    const N = plan.frames.length
    const tell = (done: number) => {
      onProgress({ done, of: 2 * N })
      return pause(job)
    }
    const delaysCs = centiseconds(plan.delaysMs)
    const { bytes, kept } = await writeGif({
      width,
      height,
      delaysCs,
      draw,
      colours: { ...PLAIN_COLOURS, transparent },
      coder: gifOnAllCores,
      mostKept: Math.floor(PROOF_CEILING / (width * height * 4)),
      progress: tell,
    })
    const frame = (n: number) => kept.get(n) ?? draw(n)
    const proof = await proveGif(bytes, { width, height, delaysCs, transparent, frame }, (n) => tell(N + n))
    return transfer({ bytes, proof }, [bytes.buffer])
  },

  /** The mended clip as a loop keeps it, at its full size, with its files, and how truly its frames are kept. */
  async stored(
    mends: readonly Mend[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ clip: Clip; files: Files; how: string }> {
    const job = ++working
    const { files, shape, facts } = clip()
    const plan = mendedPlan(shape, mends)
    const N = plan.frames.length
    if (N > MOST_CLIP_FRAMES)
      throw new ClipError(`A loop keeps clips of up to ${MOST_CLIP_FRAMES} frames. Crop it first.`)
    const { frames, how } = await storedFrames(N, await fullFrames(plan), (done) => {
      onProgress({ done, of: N })
      return pause(job)
    })
    const { width, height } = facts.claims
    const name = facts.name.replace(/\.[^.]+$/, '').slice(0, LONGEST_NAME)
    const { verdict } = (await reportOf(plan, clip(), await learnedFor(plan, false))).seam
    const delaysMs = unroundedDelays(plan.delaysMs.map((delay) => (delay <= SHORTEST_DELAY_MS ? REPLACED_MS : delay)))
    const source = await sourceOf(files)
    const made: Clip = {
      kind: 'clip',
      id: newId(),
      name,
      width,
      height,
      verdict,
      delaysMs,
      frames,
      ...(source && { source }),
    }
    return { clip: made, files: await filesOf(assetsIn([made])), how }
  },

  /** A frame of the mended clip, as it is in the file, as a PNG. */
  async still(
    mends: readonly Mend[],
    n: number,
  ): Promise<{ width: number; height: number; png: Uint8Array<ArrayBuffer> }> {
    const picture = await frameOf(mends, n, true)
    const png = await browserTools.png(picture)
    return transfer({ width: picture.width, height: picture.height, png }, [png.buffer])
  },

  /** Stops what is being done. */
  cancel(): void {
    working++
    stopMending()
  },
}

/** Delays in whole hundredths whose sum stays true, none under two. */
function centiseconds(delaysMs: readonly number[]): number[] {
  let [time, written] = [0, 0]
  return delaysMs.map((delay) => {
    time += delay / 10
    const own = Math.max(2, Math.round(time) - written)
    written += own
    return own
  })
}

export type ClipService = typeof service
serve(service)
