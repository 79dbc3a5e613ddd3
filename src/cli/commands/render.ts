import { extname } from 'node:path'
import type { Command } from 'commander'
import { attempt, framesOf, listOf, say, scalesOf, within } from '../arguments'
import type { RenderOptions } from '../render'
import { background, force, quality, repeats } from './flags'

/** Flags for files that are to be rendered. */
export interface RenderFlags extends Pick<RenderOptions, 'out' | 'repeats' | 'background' | 'force'> {
  readonly cores?: number
  readonly scale: number[]
  readonly frames?: [number, number]
  readonly quality?: number
  readonly formats?: string[]
  readonly resume?: boolean
  readonly keepGoing?: boolean
  readonly manifest?: string
}

/** True if the paths or flags ask for more than one file, or for a run that is recorded. */
const isRun = (paths: readonly string[], { formats, scale, resume, keepGoing, manifest }: RenderFlags): boolean =>
  paths.length > 1 ||
  paths.some((path) => /[*?[{]/.test(path)) ||
  scale.length > 1 ||
  [formats, resume, keepGoing, manifest].some(Boolean)

async function renderOne(path: string, flags: RenderFlags): Promise<void> {
  const { render } = await import('../render')
  const {
    frames = null,
    quality: wanted = null,
    scale: [scale = 1],
    ...rest
  } = flags
  for (const line of await render(path, { ...rest, scale, frames, quality: wanted })) say(line)
}

async function renderRun(paths: readonly string[], flags: RenderFlags): Promise<void> {
  const { quality: wanted = null, scale, formats, resume = false, keepGoing = false, manifest = null, ...rest } = flags
  if (rest.frames) throw new RangeError('--frames is of one loop, in one size and format.')
  const { renderMany } = await import('../many')
  const { tellerOn } = await import('../teller')
  const options = {
    ...rest,
    quality: wanted,
    scales: scale,
    formats: formats ?? [extname(rest.out).slice(1)],
    resume,
    keepGoing,
    manifest,
  }
  if (!(await renderMany(paths, options, tellerOn(process.stderr)))) process.exitCode = 2
}

async function render(paths: readonly string[], flags: RenderFlags): Promise<void> {
  const [path] = paths
  if (path === undefined || isRun(paths, flags)) return renderRun(paths, flags)
  return renderOne(path, flags)
}

export function renderCommand(program: Command): void {
  program
    .command('render')
    .description('Draws loops and writes them to files, proven; or a part of the frames of one, for `join`.')
    .argument(
      '<loop...>',
      ".cyclon.json or .cyclon.zip; of several, or of patterns such as '*.cyclon.json', all in one run",
    )
    .requiredOption(
      '-o, --out <file>',
      ".gif, .apng, .webp, .mp4, .webm, .avif (by an installed ffmpeg), .zip (numbered PNG files), .svg or .json (Lottie); of several such as 'out/{name}-{width}.{format}'",
    )
    .option('--formats <list>', 'such as gif,webp,mp4: each of them', listOf)
    .option('--scale <list>', 'size against the loop’s, such as 1 or 0.5,1,2', scalesOf, [1])
    .option('--resume', 'what the manifest says and is there unchanged is left alone')
    .option('--keep-going', 'goes on where a file cannot be written')
    .option('--manifest <file>', 'what was written, with every proof; beside the files where this is left out')
    .addOption(repeats())
    .option('--frames <a-b>', 'only frames a to b, as a part in a .zip', framesOf)
    .addOption(background())
    .addOption(quality())
    .addOption(force())
    .option('--cores <n>', 'use at most this many; all of them where this is left out', within(1, 64))
    .action(attempt(render))
}
