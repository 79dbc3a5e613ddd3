import { expose, transfer } from 'comlink'
import { GifWriter, type Proof, paletteOf, palettePixels, proveGif } from '@/codecs'
import { ClipError, type FileClaims } from '@/codecs/claims'
import { type ClipShape, type Mend, meanLight, mendedPlan, mixFrame, type Plan } from '@/core/footage'
import { difference, type Picture, reducePicture } from '@/core/image'
import { type ClipReport, type Descriptor, descriptorOf, judgeClip, judgedSide } from '@/core/seam'
import { openFrames } from './clip-frames'
import { breathe } from './timing'

/** Frames of a file that are kept, bytes: as large as lets all of them be under it. */
const CEILING = 256 * 1024 * 1024
/** The largest file that is read, bytes. */
const LARGEST_FILE = 512 * 1024 * 1024
const BATCH_MS = 12

/** What is known of a file that was opened. */
export interface ClipFacts {
  readonly name: string
  readonly bytes: number
  /** What the file says of itself; format in words. */
  readonly claims: Omit<FileClaims, 'format'> & { readonly format: string }
  /** px of the frames that are kept; less than the claims where all frames at full size would not fit. */
  readonly width: number
  readonly height: number
  readonly transparent: boolean
}
/** A clip with its mends: what is in it now, and what is found. */
export interface MendedClip {
  readonly plan: Plan
  readonly report: ClipReport
}
export interface ClipProgress {
  readonly done: number
  readonly of: number
}

interface Held {
  readonly facts: ClipFacts
  readonly shape: ClipShape
  readonly pictures: readonly Picture[]
  /** Of frames that are as they came. */
  readonly described: readonly Descriptor[]
}

let held: Held | null = null
let working = 0

/** Lets the page be told, and takes a cancel. @throws ClipError when it was cancelled. */
async function pause(job: number): Promise<void> {
  await breathe()
  if (job !== working) throw new ClipError('It was cancelled.')
}

function reportOf(plan: Plan, { described, pictures }: Pick<Held, 'described' | 'pictures'>): ClipReport {
  const side = judgedSide(plan.frames.length)
  const frames = plan.frames.map((frame) => {
    const [part] = frame.parts
    const asItIs = frame.parts.length === 1 && part?.gain.every((gain) => gain === 1)
    return asItIs && part
      ? (described[part.frame] as Descriptor)
      : descriptorOf(
          reducePicture(
            mixFrame(frame, (n) => pictures[n] as Picture),
            side,
          ),
        )
  })
  return judgeClip(frames, plan)
}

const clip = (): Held => {
  if (!held) throw new ClipError('No file is open.')
  return held
}

const service = {
  /**
   * Reads a file, or several pictures as a sequence, and judges it. What was open stays so until the new one has been
   * read. @throws ClipError
   */
  async open(
    files: readonly File[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ facts: ClipFacts } & MendedClip> {
    const job = ++working
    const bytes = files.reduce((sum, { size }) => sum + size, 0)
    const [{ name }] = files as [File]
    if (bytes > LARGEST_FILE)
      throw new ClipError(
        `${name} has ${Math.round(bytes / 1e6)} MB; up to ${Math.round(LARGEST_FILE / 1e6)} can be read. Cut or compress it first.`,
      )
    const opened = await openFrames(files)
    const { count } = opened
    const scale = Math.min(1, Math.sqrt(CEILING / (count * opened.width * opened.height * 4)))
    const width = Math.max(1, Math.floor(opened.width * scale))
    const height = Math.max(1, Math.floor(opened.height * scale))
    const pictures: Picture[] = []
    const described: Descriptor[] = []
    const delaysMs: number[] = []
    const side = judgedSide(count)
    let batch = performance.now()
    for await (const { picture, delayMs } of opened.frames(width, height)) {
      pictures.push(picture)
      delaysMs.push(delayMs)
      described.push(descriptorOf(reducePicture(picture, side)))
      if (performance.now() - batch > BATCH_MS) {
        onProgress({ done: pictures.length, of: count })
        await pause(job)
        batch = performance.now()
      }
    }
    if (pictures.length === 0) throw new ClipError(`${name} holds no picture that can be decoded.`)
    const { format, plays } = opened
    const notes =
      pictures.length === count
        ? opened.notes
        : [...opened.notes, `the file claims ${count} frames, and ${pictures.length} can be decoded`]
    const facts: ClipFacts = {
      ...{ name: files.length > 1 ? `${name} and ${files.length - 1} more` : name, bytes },
      claims: { format, width: opened.width, height: opened.height, delaysMs, plays, notes },
      ...{ width, height, transparent: pictures.some(hasAlpha) },
    }
    const shape = { delaysMs, playsForever: plays === 0, means: pictures.map(meanLight) }
    const plan = mendedPlan(shape, [])
    const report = reportOf(plan, { described, pictures })
    held = { facts, shape, pictures, described }
    return { facts, plan, report }
  },

  /** The clip with mends: what is then in it, and what is found. */
  mended(mends: readonly Mend[]): MendedClip {
    const plan = mendedPlan(clip().shape, mends)
    return { plan, report: reportOf(plan, clip()) }
  },

  /** A frame of the mended clip. */
  async bitmap(mends: readonly Mend[], n: number): Promise<ImageBitmap> {
    const { data, width, height } = mendedFrame(mends, n)
    const bitmap = await createImageBitmap(new ImageData(new Uint8ClampedArray(data), width, height))
    return transfer(bitmap, [bitmap])
  },

  /** What differs between two frames of the mended clip, so many times. */
  async difference(mends: readonly Mend[], i: number, j: number, gain: number): Promise<ImageBitmap> {
    const { data, width, height } = difference(mendedFrame(mends, i), mendedFrame(mends, j), gain)
    const bitmap = await createImageBitmap(new ImageData(new Uint8ClampedArray(data), width, height))
    return transfer(bitmap, [bitmap])
  },

  /** The mended clip as a GIF, read back and proven. */
  async gif(
    mends: readonly Mend[],
    onProgress: (progress: ClipProgress) => void,
  ): Promise<{ bytes: Uint8Array<ArrayBuffer>; proof: Proof }> {
    const job = ++working
    const { shape, facts, pictures } = clip()
    const plan = mendedPlan(shape, mends)
    const { width, height, transparent } = facts
    const colours = { colours: 256, dithering: 'none', transparent } as const
    const frameAt = (n: number) => mixFrame(plan.frames[n] as Plan['frames'][number], (of) => pictures[of] as Picture)
    const N = plan.frames.length
    const every = Math.ceil(N / 12)
    const samples = Array.from({ length: Math.ceil(N / every) }, (_, i) =>
      palettePixels(frameAt(i * every), 400_000 / 12, transparent),
    )
    const writer = new GifWriter(width, height, paletteOf(samples, 256), colours)
    const delaysCs = centiseconds(plan.delaysMs)
    for (let n = 0; n < N; n++) {
      writer.add(frameAt(n), delaysCs[n] as number)
      onProgress({ done: n + 1, of: 2 * N })
      await pause(job)
    }
    const bytes = writer.finish()
    const proof = await proveGif(bytes, { width, height, delaysCs, transparent, frame: frameAt }, async (n) => {
      onProgress({ done: N + n, of: 2 * N })
      await pause(job)
    })
    return transfer({ bytes, proof }, [bytes.buffer])
  },

  /** Stops what is being done. */
  cancel(): void {
    working++
  },
}

const hasAlpha = ({ data }: Picture): boolean => {
  for (let i = 3; i < data.length; i += 4) if ((data[i] as number) < 255) return true
  return false
}

function mendedFrame(mends: readonly Mend[], n: number): Picture {
  const { shape, pictures } = clip()
  const { frames } = mendedPlan(shape, mends)
  const frame = frames[((n % frames.length) + frames.length) % frames.length] as Plan['frames'][number]
  return mixFrame(frame, (of) => pictures[of] as Picture)
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
expose(service)
