import { transfer } from 'comlink'
import { gifPromise, PLAIN_COLOURS, type Proof, proveGif, writeGif } from '@/codecs'
import { ClipError } from '@/codecs/claims'
import { MAX_NAME } from '@/core/document'
import { type Mend, mendedPlan } from '@/core/footage'
import { newId } from '@/core/id'
import { type DifferenceKind, difference, type SheetGrid } from '@/core/image'
import { assetsIn, type Clip, type Files, filesOf, MAX_CLIP_FRAMES, unroundedDelays } from '@/core/media'
import { clipVerdict, MIN_KEPT_DELAY_MS } from '@/core/seam'
import { type FrameEdges, judgeTiles, MIN_TILE_PX } from '@/core/texture'
import { serve } from '../shared/serve'
import { breathe } from '../shared/timing'
import { bitmapOf } from './bitmap'
import { openFrames } from './clip-frames'
import { sourceOf } from './clip-frames/source'
import { storedFrames } from './clip-frames/stored'
import { type ClipProgress, type MendedClip, mendService, stopMending } from './clip-mends'
import { beginWork, pause, readFiles, stopWork } from './clip-reading'
import { gifOnAllCores } from './coding'
import { browserTools } from './encoders/tools'
import { type ClipFacts, frameOf, fullFrames, heldClip, heldPlan, heldReport, learnedFor } from './held-clip'

/** Frames of which the pixels are kept for a proof, bytes; the others are read again. */
const PROOF_CEILING = 64 * 1024 * 1024
/** Delay that viewers show in place of one that is too short, ms. */
const REPLACED_MS = 100

export type { ClipFacts, ClipProgress, MendedClip }

/** A file is weighed by runs of consecutive frames. */
const WEIGHED = { runs: 3, frames: 4 }
const MIN_DELAY_CS = 2

let weighing = 0

/** Input for writing a file of the mended clip. */
async function fileOf(mends: readonly Mend[]) {
  const { shape, facts } = heldClip()
  const plan = mendedPlan(shape, mends)
  const { width, height } = facts.claims
  const transparent = facts.transparent && !plan.edits.some(({ mend }) => mend.kind === 'matte')
  return { plan, width, height, transparent, draw: await fullFrames(plan) }
}

const service = {
  ...mendService,

  /** Opens a file and lets it go again: a trial of whether its structure can be read. @throws ClipError */
  async look(file: File): Promise<void> {
    await openFrames([file])
  },

  /** Answers at once, unless the worker is stuck. */
  here: (): true => true,

  /**
   * Reads a file, or several pictures as a sequence, and judges it. What was open stays so until the new one has been
   * read. @param grid how a sprite sheet is cut; found where it is left out. @throws ClipError
   */
  async open(
    files: readonly File[],
    grid: SheetGrid | undefined,
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ facts: ClipFacts } & MendedClip> {
    return readFiles(files, grid, onProgress, null)
  },

  /** Reads a better copy of the clip that is open. @throws ClipError where it shows other frames */
  async exchange(
    files: readonly File[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ facts: ClipFacts } & MendedClip> {
    return readFiles(files, undefined, onProgress, heldClip())
  },

  /** How frames of the mended clip, as they are in the file, meet themselves; null where they are too small to tell. */
  async tile(mends: readonly Mend[]): Promise<FrameEdges | null> {
    const { width, height } = await frameOf(mends, 0, true)
    if (Math.min(width, height) < MIN_TILE_PX) return null
    return judgeTiles(heldPlan(mends).frames.length, (n) => frameOf(mends, n, true))
  },

  /** A frame of the mended clip: at the size at which it is kept, or as it is in the file. */
  async bitmap(mends: readonly Mend[], n: number, inFull: boolean): Promise<ImageBitmap> {
    return bitmapOf(await frameOf(mends, n, inFull))
  },

  /** Difference of two frames of the mended clip, times a gain. */
  async difference(
    mends: readonly Mend[],
    i: number,
    j: number,
    how: { readonly gain: number; readonly kind: DifferenceKind },
    inFull: boolean,
  ): Promise<ImageBitmap> {
    const a = await frameOf(mends, i, inFull)
    const b = await frameOf(mends, j, inFull)
    return bitmapOf(difference(a, b, how.gain, how.kind))
  },

  /** The mended clip as a GIF at its full size, read back and proven. */
  async gif(
    mends: readonly Mend[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ bytes: Uint8Array<ArrayBuffer>; proof: Proof }> {
    const job = beginWork()
    const { plan, width, height, transparent, draw } = await fileOf(mends)
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
    const proof = await proveGif(bytes, gifPromise({ width, height, delaysCs, transparent, frame }), (n) => tell(N + n))
    return transfer({ bytes, proof }, [bytes.buffer])
  },

  /** About how many bytes the GIF of the mended clip will have: those of one frame, and what some others add to the ones before them. */
  async weight(mends: readonly Mend[]): Promise<number> {
    const job = ++weighing
    const { plan, width, height, transparent, draw } = await fileOf(mends)
    const N = plan.frames.length
    const bytesOf = async (from: number, count: number) => {
      const { bytes } = await writeGif({
        width,
        height,
        delaysCs: Array.from({ length: count }, () => MIN_DELAY_CS),
        draw: (n) => draw(from + n),
        colours: { ...PLAIN_COLOURS, transparent },
        coder: gifOnAllCores,
        mostKept: count,
        progress: async () => {
          await breathe()
          if (job !== weighing) throw new ClipError('Another weight was asked for.')
        },
      })
      return bytes.length
    }
    if (N <= WEIGHED.runs * WEIGHED.frames) return bytesOf(0, N)
    let first = 0
    let added = 0
    for (let run = 0; run < WEIGHED.runs; run++) {
      const from = Math.floor((run * (N - WEIGHED.frames)) / (WEIGHED.runs - 1))
      const one = await bytesOf(from, 1)
      first += one / WEIGHED.runs
      added += ((await bytesOf(from, WEIGHED.frames)) - one) / (WEIGHED.frames - 1) / WEIGHED.runs
    }
    return first + added * (N - 1)
  },

  /** The mended clip as a loop keeps it, at its full size, with its files, and how truly its frames are kept. */
  async stored(
    mends: readonly Mend[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ clip: Clip; files: Files; how: string }> {
    const job = beginWork()
    const { files, shape, facts } = heldClip()
    const plan = mendedPlan(shape, mends)
    const N = plan.frames.length
    if (N > MAX_CLIP_FRAMES)
      throw new ClipError(`A loop keeps clips of up to ${MAX_CLIP_FRAMES} frames. Crop it first.`)
    const { frames, how } = await storedFrames(N, await fullFrames(plan), (done) => {
      onProgress({ done, of: N })
      return pause(job)
    })
    const { width, height } = facts.claims
    const name = facts.name.replace(/\.[^.]+$/, '').slice(0, MAX_NAME)
    const { seam } = await heldReport(plan, heldClip(), await learnedFor(plan, false))
    const delaysMs = unroundedDelays(plan.delaysMs.map((delay) => (delay <= MIN_KEPT_DELAY_MS ? REPLACED_MS : delay)))
    const source = await sourceOf(files)
    const made: Clip = {
      kind: 'clip',
      id: newId(),
      name,
      width,
      height,
      ...clipVerdict(seam, N),
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
    stopWork()
    stopMending()
  },
}

/** Delays in whole hundredths whose sum stays true, none under two. */
function centiseconds(delaysMs: readonly number[]): number[] {
  let time = 0
  let written = 0
  return delaysMs.map((delay) => {
    time += delay / 10
    const own = Math.max(2, Math.round(time) - written)
    written += own
    return own
  })
}

export type ClipService = typeof service
serve(service)
