import { extname } from 'node:path'
import { type Command, Option } from 'commander'
import { BACKGROUNDS, MAX_REPEATS } from '@/core/output/bounds'
import { asJson, attempt, framesOf, listOf, say, scalesOf, within } from './arguments'
import type { Allowed } from './open-plan'
import type { RenderOptions } from './render'

/** Flags for files that are to be rendered. */
interface RenderFlags extends Pick<RenderOptions, 'out' | 'repeats' | 'background' | 'force'> {
  readonly cores?: number
  readonly scale: number[]
  readonly frames?: [number, number]
  readonly quality?: number
  readonly formats?: string[]
  readonly resume?: boolean
  readonly keepGoing?: boolean
  readonly manifest?: string
}

/** Said where a file may be replaced that somebody else wrote. */
export const force = () =>
  new Option('--force', 'replaces files that this program did not write, or that were changed since')

/** The commands that write loops to files: one, many, or in tasks for many machines. */
export function rendering(program: Command): void {
  const quality = () => new Option('--quality <n>', 'WebP: with loss, at a quality').argParser(within(1, 100))
  const outside = () => new Option('--outside', 'paths of the plan may lead out of its folder')
  const repeats = () =>
    new Option('--repeats <n>', 'so often within the file').argParser(within(1, MAX_REPEATS)).default(1)

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
    .addOption(new Option('--background <which>', 'kept, or removed').choices(BACKGROUNDS.slice(0, 2)).default('kept'))
    .addOption(quality())
    .addOption(force())
    .option('--cores <n>', 'at the most; all of them where this is left out', within(1, 64))
    .action(
      attempt(async (paths: string[], own: RenderFlags) => {
        const { frames = null, quality: wanted = null, scale, formats, resume, keepGoing, manifest, ...rest } = own
        const [path] = paths
        const several =
          paths.length > 1 ||
          /[*?[{]/.test(path ?? '') ||
          formats ||
          scale.length > 1 ||
          resume ||
          keepGoing ||
          manifest
        if (!several) {
          const { render } = await import('./render')
          const options = { ...rest, scale: scale[0] as number, frames, quality: wanted }
          for (const line of await render(path as string, options)) say(line)
          return
        }
        if (frames) throw new RangeError('--frames is of one loop, in one size and format.')
        const { renderMany, tellerOn } = await import('./many')
        const all = await renderMany(
          paths,
          {
            ...rest,
            quality: wanted,
            scales: scale,
            formats: formats ?? [extname(rest.out).slice(1)],
            resume: resume ?? false,
            keepGoing: keepGoing ?? false,
            manifest: manifest ?? null,
          },
          tellerOn(process.stderr),
        )
        if (!all) process.exitCode = 2
      }),
    )

  program
    .command('plan')
    .description(
      'Divides loops, formats, sizes and ranges of frames into tasks of even cost, for `work` on many machines.',
    )
    .argument('<loop...>', ".cyclon.json or .cyclon.zip, or patterns such as '*.cyclon.json'")
    .requiredOption('-o, --out <names>', "such as 'out/{name}-{width}.{format}'")
    .option('--formats <list>', 'such as gif,webp,mp4: each of them', listOf)
    .option('--scale <list>', 'size against the loop’s, such as 1 or 0.5,1,2', scalesOf, [1])
    .option('--tasks <k>', 'so many at the most; of about a minute each where this is left out', within(1, 100_000))
    .addOption(repeats())
    .addOption(new Option('--background <which>', 'kept, or removed').choices(BACKGROUNDS.slice(0, 2)).default('kept'))
    .addOption(quality())
    .action(
      attempt(async (paths: string[], own: RenderFlags & { tasks?: number }) => {
        const { clusterPlan: planOf } = await import('./plan')
        const { scale, formats, tasks = null, quality: wanted = null, ...rest } = own
        const many = { ...rest, quality: wanted, scales: scale, formats: formats ?? [extname(rest.out).slice(1)] }
        say(asJson(await planOf(paths, { ...many, resume: false, keepGoing: false, manifest: null }, tasks)))
      }),
    )

  program
    .command('work')
    .description('Does one task of a plan. It can be done again at any time, by anyone; what is done is left alone.')
    .argument('<plan>', 'as `plan` wrote it, in its folder')
    .option(
      '--task <i>',
      'which one, from 0 on; where this is left out, the one that a scheduler names',
      within(0, 99_999),
    )
    .addOption(outside())
    .addOption(force())
    .action(
      attempt(async (path: string, own: Allowed & { task?: number }) => {
        const named = process.env.SLURM_ARRAY_TASK_ID ?? process.env.JOB_COMPLETION_INDEX
        const task = own.task ?? (named === undefined ? Number.NaN : Number(named))
        if (!Number.isInteger(task))
          throw new RangeError(
            'Say which task: --task 0, or let a scheduler do so (SLURM_ARRAY_TASK_ID, JOB_COMPLETION_INDEX).',
          )
        const { doTask } = await import('./work')
        await doTask(path, task, say, own)
      }),
    )

  program
    .command('join')
    .description(
      'Puts together what the tasks of a plan have done, or the parts of one loop that `render --frames` wrote, and proves it.',
    )
    .argument('<part...>', 'a plan; or all parts of a loop, in any order')
    .option('-o, --out <file>', 'of parts: .gif, .apng, .webp, .mp4, .webm, .avif or .zip')
    .addOption(repeats())
    .addOption(quality())
    .addOption(outside())
    .addOption(force())
    .action(
      attempt(async (paths: string[], own: Allowed & { out?: string; repeats: number; quality?: number }) => {
        const { out, quality: wanted = null, force: replaces = false } = own
        if (out === undefined) {
          const [plan] = paths
          if (paths.length !== 1 || !plan?.endsWith('.json'))
            throw new RangeError('Say where parts are to be written: -o loop.gif; or name one plan.')
          const { joinPlan } = await import('./join-plan')
          if (!(await joinPlan(plan, say, own))) process.exitCode = 2
          return
        }
        const { joinParts } = await import('./join')
        say(await joinParts(paths, { out, repeats: own.repeats, quality: wanted, force: replaces }))
      }),
    )
}
