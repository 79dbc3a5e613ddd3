import { strToU8, zipSync } from 'fflate'
import type { Proof } from '@/codecs'
import type { EncodeJob } from '@/codecs/write'
import type { VectorFile } from '@/core/display'
import { formatLoop, type Loop, tooMuchToDraw } from '@/core/document'
import {
  backgroundIn,
  type FileSettings,
  inexpressible,
  isVector,
  PLAIN_SETTINGS,
  seeThrough,
  timingIn,
  withFormat,
} from '@/core/output'
import { withJudgedClips } from '@/core/seam'
import { scaledSize } from '../render/renderer'
import { CommandError } from './command-error'
import { type Drawer, drawerOf, seamInNode, showsModels } from './drawer'
import { type FrameThreads, handsFor } from './hands'
import { sha256Of } from './hash'
import { type Overwriting, writeWhole } from './output'
import { LOOP_OF_PART, type LoopPart, PART } from './parts'
import { programName } from './program'
import { formatOf, readLoopAt, stemOf, TOOLS, writeProven } from './write'

export interface RenderOptions {
  readonly out: string
  readonly scale: number
  readonly repeats: number
  /** First and last frame, where only a part is wanted. */
  readonly frames: readonly [number, number] | null
  readonly background: FileSettings['background']
  /** WebP: its quality; without loss where it is null. */
  readonly quality: number | null
  /** All that can be chosen of the file; `scale`, `repeats`, `background` and `quality` say enough where it is left out. */
  readonly settings?: FileSettings | undefined
  /** Cores that are used at the most; all that there are where it is left out. */
  readonly cores?: number
  /** Whether files are replaced that this program did not write. */
  readonly force?: boolean
  /** Paths of files read besides the loop, which may not be overwritten. */
  readonly reads?: readonly string[]
}

/** The state of a document in a few letters: two that draw otherwise have others. */
export const loopState = (loop: Loop): string => sha256Of(formatLoop(loop)).slice(0, 16)

/** A written file. */
export interface Rendered {
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly bytes: number
  /** Of the file, hexadecimal. */
  readonly sha256: string
  /** Null for vectors, which are drawn by a document only. */
  readonly proof: Proof | null
  /** Lines that are to be said of it. */
  readonly said: readonly string[]
}

/** How a file is written by what was asked for. */
export const settingsOf = ({
  out,
  scale,
  repeats,
  background,
  quality,
  settings,
}: Pick<RenderOptions, 'out' | 'scale' | 'repeats' | 'background' | 'quality' | 'settings'>): FileSettings =>
  settings ?? {
    ...withFormat(PLAIN_SETTINGS, formatOf(out)),
    scale,
    repeats,
    background,
    ...(quality === null ? {} : { lossless: false, quality }),
  }

/** Renders a loop, or a part of its frames, to a file. Returns what is to be said of it. @throws CommandError */
export async function render(path: string, options: RenderOptions): Promise<readonly string[]> {
  const { frames } = options
  if (!frames) return (await renderLoop(await readLoopAt(path), path, options)).said
  const loop = await readLoopAt(path)
  const problem = tooMuchToDraw(loop)
  if (problem) throw new CommandError(`${path}: ${problem}`)
  const ground = backgroundIn(loop, settingsOf(options))
  const shown = { ...loop, background: ground }
  const size = scaledSize(loop, options.scale)
  const drawer = await drawerOf(shown, size.width, size.height)
  return renderPart(
    shown,
    { ...options, frames, writing: writingOf(path, options) },
    size,
    seeThrough(ground),
    drawer.draw,
  ).finally(drawer.end)
}

/**
 * Encoding job of a loop, and its drawer, which the caller must end.
 * @throws CommandError
 */
export async function encodeJobOf(
  loop: Loop,
  path: string,
  options: RenderOptions,
): Promise<{
  readonly job: EncodeJob
  readonly hands: FrameThreads | null
  /** Remark on how the frames are drawn; null if there is none. */
  readonly said: string | null
  readonly end: () => Promise<void>
}> {
  const problem = tooMuchToDraw(loop)
  if (problem) throw new CommandError(`${path}: ${problem}`)
  const settings = settingsOf(options)
  const ground = backgroundIn(loop, settings)
  const shown = { ...loop, background: ground }
  const size = scaledSize(loop, settings.scale)
  const timing = timingIn(loop, settings)
  const apart = !isVector(settings.format) && !showsModels(shown)
  const hands = apart ? handsFor(shown, size, timing.frames.length, options.cores) : null
  const drawer = hands ? null : await drawerOf(shown, size.width, size.height)
  const draw = hands?.draw ?? (drawer as Drawer).draw
  return {
    job: {
      loop: shown,
      name: stemOf(path),
      ...size,
      timing,
      rate: loop.rate,
      settings,
      transparent: seeThrough(ground),
      draw: (n) => draw(timing.frames[n] as number),
      progress: async () => {},
      tools: { ...TOOLS, ...hands?.tools },
      mostKept: 0,
    },
    hands,
    said: drawer?.said ?? null,
    end: async () => void (await Promise.all([hands?.end(), drawer?.end()])),
  }
}

/** Files that rendering a loop at a path may overwrite. */
const writingOf = (
  path: string,
  { force = false, reads = [] }: Pick<RenderOptions, 'force' | 'reads'>,
): Overwriting => ({
  reads: [path, ...reads],
  force,
})

/** Renders a loop to a file, which is proven before it is put there. @throws CommandError */
export async function renderLoop(loop: Loop, path: string, options: RenderOptions): Promise<Rendered> {
  const { out } = options
  const { job, hands, said: how, end } = await encodeJobOf(loop, path, options)
  const { width, height, timing, settings } = job
  const vectors = isVector(settings.format)
  const { encoded, proof } = await withJudgedClips(job.loop, seamInNode)
    .then((judged) => writeProven(out, { ...job, loop: judged }, writingOf(path, options), hands))
    .finally(end)
  const kilobytes = `${(encoded.bytes.length / 1000).toFixed(1)} kB`
  const what = vectors ? '' : `${timing.frames.length} frames of `
  const said = [
    ...(how ? [how] : []),
    `${out}: ${what}${width} × ${height} px, ${kilobytes}, ${proof ? `proven: ${proof.seam.verdict.replaceAll('-', ' ')}` : 'vectors'}`,
    ...(vectors
      ? inexpressible(job.loop, settings.format as VectorFile).map(({ layer, what: lost }) => `  ${layer}: ${lost}`)
      : []),
  ]
  const sha256 = sha256Of(encoded.bytes)
  return { width, height, frames: timing.frames.length, bytes: encoded.bytes.length, sha256, proof, said }
}

async function renderPart(
  loop: Loop,
  {
    out,
    frames: [from, to],
    repeats,
    writing,
  }: RenderOptions & { readonly frames: readonly [number, number]; readonly writing: Overwriting },
  size: { readonly width: number; readonly height: number },
  transparent: boolean,
  draw: (frame: number) => Promise<Parameters<typeof TOOLS.png>[0]>,
): Promise<string[]> {
  if (!out.endsWith('.zip'))
    throw new CommandError(
      `A part is written to a .zip of numbered pictures, which \`cyclon join\` puts together; not to ${out}.`,
    )
  if (repeats > 1) throw new CommandError('A part is not repeated: repeat what is joined.')
  if (to >= loop.length || from > to)
    throw new CommandError(`The loop has frames 0 to ${loop.length - 1}; ${from}-${to} are not among them.`)
  const part: LoopPart = {
    format: 'cyclon-part',
    loop: loop.name,
    state: loopState(loop),
    program: programName(),
    length: loop.length,
    rate: loop.rate,
    ...size,
    transparent,
    from,
    to,
  }
  const files: Record<string, Uint8Array> = {
    [PART]: strToU8(JSON.stringify(part)),
    [LOOP_OF_PART]: strToU8(formatLoop(await withJudgedClips(loop, seamInNode))),
  }
  for (let frame = from; frame <= to; frame++)
    files[`${String(frame).padStart(5, '0')}.png`] = await TOOLS.png(await draw(frame))
  await writeWhole(out, zipSync(files, { level: 0 }), writing)
  return [`${out}: frames ${from} to ${to} of ${loop.length}, ${size.width} × ${size.height} px`]
}
