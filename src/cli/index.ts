import { extname } from 'node:path'
import { Command, InvalidArgumentError, Option } from 'commander'
import { type Fraction, MAX_LENGTH, parseRate, toNumber } from '@/core/clock'
import { CAMERA_MODELS, type CameraModel } from '@/core/footage/camera'
import { BACKGROUNDS, MOST_REPEATS, SCALES } from '@/core/output/bounds'
import { GROUND_NAMES, GROUNDS, type Ground, groundOfHex } from '@/core/seam/grounds'
import { HEALS } from '@/core/texture/heal'
import { CommandError } from './command-error'
import { fitPeriods, fitTable, foldsOf, periodOf } from './fit'
import { JOINS, type Join } from './joins'
import type { RenderOptions } from './render'
import type { HealOptions } from './tile'

/** What is said of a loop that is cut out of a clip. */
interface LoopFlags {
  readonly out: string
  readonly start?: number
  readonly length?: number
  readonly mend?: Join
  readonly overlap?: number
  readonly steady: CameraModel | 'none'
  readonly amount: number
  readonly rate: Fraction
}

/** What is said of files that are to be rendered. */
interface RenderFlags extends Pick<RenderOptions, 'out' | 'repeats' | 'background'> {
  readonly cores?: number
  readonly scale: number[]
  readonly frames?: [number, number]
  readonly quality?: number
  readonly formats?: string[]
  readonly resume?: boolean
  readonly keepGoing?: boolean
  readonly manifest?: string
}

const say = (text: string): void => void process.stdout.write(`${text}\n`)
const asJson = (value: unknown) => JSON.stringify(value, null, 2)

/** Reads an argument; what is wrong with it is said as such. */
const reading =
  <T>(read: (text: string) => T) =>
  (text: string): T => {
    try {
      return read(text)
    } catch (error) {
      throw new InvalidArgumentError((error as Error).message)
    }
  }
const rateOf = reading((text): Fraction => {
  try {
    return parseRate(text)
  } catch {
    throw new RangeError('It is not a rate such as 25 or 30000/1001.')
  }
})
const within = (least: number, most: number, whole = true) =>
  reading((text) => {
    const value = Number(text)
    if (!(value >= least && value <= most) || (whole && !Number.isInteger(value)))
      throw new RangeError(`It is a ${whole ? 'whole ' : ''}number from ${least} to ${most}.`)
    return value
  })
/** @throws RangeError for what is no ground */
function groundOf(text: string): Ground {
  const named = GROUND_NAMES.find((name) => name === text)
  if (named) return GROUNDS[named]
  const ground = groundOfHex(text)
  if (!ground) throw new RangeError('Say white, black, grey, or a colour such as #f7e9d0.')
  return ground
}
const framesOf = reading((text): [number, number] => {
  const match = /^(\d+)-(\d+)$/.exec(text)
  if (!match) throw new RangeError('Say the first and the last frame, such as 0-29.')
  return [Number(match[1]), Number(match[2])]
})

const listOf = reading((text): string[] => text.split(',').map((each) => each.trim().toLowerCase()))
const scalesOf = reading((text): number[] =>
  text.split(',').map((each) => {
    const scale = Number(each)
    if (!(scale >= SCALES.least && scale <= SCALES.most))
      throw new RangeError(`Say sizes from ${SCALES.least} to ${SCALES.most}, such as 0.5,1,2.`)
    return scale
  }),
)

/** Runs a command; what cannot be done is said in one line, and the exit code is 2. */
const attempt =
  <A extends unknown[]>(work: (...args: A) => Promise<void>) =>
  async (...args: A): Promise<void> => {
    try {
      await work(...args)
    } catch (error) {
      if (!(error instanceof CommandError) && !(error instanceof RangeError)) throw error
      process.stderr.write(`${error.message}\n`)
      process.exitCode = 2
    }
  }

/** Runs the command line: `cyclon check`, `render`, `plan`, `work`, `join` and the others. */
export async function run(argv: readonly string[]): Promise<void> {
  const program = new Command('cyclon').description('Loops that provably repeat without a jump.')
  const quality = () => new Option('--quality <n>', 'WebP: with loss, at a quality').argParser(within(1, 100))
  const repeats = () =>
    new Option('--repeats <n>', 'so often within the file').argParser(within(1, MOST_REPEATS)).default(1)

  program
    .command('check')
    .description('Says of loops, GIF, APNG and WebP files, folders of PNG files and ZIPs of them whether they close.')
    .argument('<file...>', '.cyclon.json, .cyclon.zip, files, folders of numbered PNG files, or ZIPs of either')
    .option('--json', 'one array on standard output, one entry per file')
    .option('--rate <rate>', 'frames per second of PNG sequences', rateOf, rateOf('25'))
    .option('--tile', 'pictures that are laid beside themselves: whether an edge shows, across and down')
    .option('--model', 'models that are to turn (.glb, .gltf, .obj, .stl, .ply): parts, centre, fold, faults')
    .option('--ground <colour>', 'judged on white, black, grey or #rrggbb where transparent', reading(groundOf))
    .action(
      async (
        files: string[],
        own: { json?: boolean; rate: Fraction; ground?: Ground; tile?: boolean; model?: boolean },
      ) => {
        const { json, rate, ground, tile, model } = own
        if (model) {
          const { checkModel, modelsExitCode, modelTable } = await import('./model')
          const entries = []
          for (const file of files) entries.push(await checkModel(file))
          say(json ? asJson(entries) : modelTable(entries))
          process.exitCode = modelsExitCode(entries)
          return
        }
        if (tile) {
          const { checkTile, tilesExitCode, tileTable } = await import('./tile')
          const entries = []
          for (const file of files) entries.push(await checkTile(file))
          say(json ? asJson(entries) : tileTable(entries))
          process.exitCode = tilesExitCode(entries)
          return
        }
        const { checkPath, exitCode, tableOf } = await import('./check')
        const checked = []
        for (const file of files) checked.push(...(await checkPath(file, toNumber(rate), ground)))
        say(json ? asJson(checked.map(({ entry }) => entry)) : tableOf(checked))
        process.exitCode = exitCode(checked)
      },
    )

  program
    .command('find')
    .description(
      'Finds the loops that lie in clips: GIF, APNG, WebP, MP4, MOV, WebM, folders of PNG files and ZIPs of them.',
    )
    .argument('<clip...>', 'files, folders of numbered PNG files, or ZIPs of either')
    .option('--min <frames>', 'of a loop, at least', within(2, 100_000))
    .option('--max <frames>', 'of a loop, at most', within(2, 100_000))
    .option('--from <frame>', 'the first frame that may be in it', within(0, 1_000_000))
    .option('--to <frame>', 'the first frame that may not be in it any more', within(1, 1_000_000))
    .option('--top <k>', 'so many at the most', within(1, 100), 8)
    .option('--rate <rate>', 'frames per second of PNG sequences', rateOf, rateOf('25'))
    .option('--json', 'one array on standard output, one entry per clip')
    .action(
      attempt(
        async (
          clips: string[],
          own: { min?: number; max?: number; from?: number; to?: number; top: number; rate: Fraction; json?: boolean },
        ) => {
          const { findAt, findExitCode, findTable } = await import('./find')
          const { min = null, max = null, from = null, to = null, top, rate, json } = own
          const entries = []
          for (const clip of clips) entries.push(...(await findAt(clip, toNumber(rate), { min, max, from, to, top })))
          say(json ? asJson(entries) : findTable(entries))
          process.exitCode = findExitCode(entries)
        },
      ),
    )

  program
    .command('loop')
    .description(
      'Cuts a loop out of a clip, joins its ends and writes it, proven; without a cut, the best that is found.',
    )
    .argument('<clip>', 'a file, a folder of numbered PNG files, or a ZIP of either')
    .requiredOption('-o, --out <file>', '.gif, .apng, .webp or .zip (numbered PNG files)')
    .option('--start <frame>', 'the first frame of the loop', within(0, 1_000_000))
    .option('--length <frames>', 'frames of the loop', within(2, 100_000))
    .addOption(new Option('--mend <way>', 'how its ends are joined').choices([...JOINS]))
    .option('--overlap <frames>', 'frames over which they overlap', within(1, 500))
    .addOption(
      new Option('--steady <how>', 'how the camera’s own movement is taken out')
        .choices(['none', ...CAMERA_MODELS])
        .default('none'),
    )
    .option(
      '--amount <share>',
      'of `--mend parts`: from 0, all stands still, to 1, all that moves does',
      within(0, 1, false),
      0.5,
    )
    .option('--rate <rate>', 'frames per second of a PNG sequence', rateOf, rateOf('25'))
    .action(
      attempt(async (clip: string, own: LoopFlags) => {
        const { loopFrom } = await import('./cut-loop')
        const { out, start = null, length = null, mend: join = null, overlap = null, amount, rate } = own
        const steady = own.steady === 'none' ? null : own.steady
        const wanted = { out, start, length, join, overlap, steady, amount }
        for (const line of await loopFrom(clip, toNumber(rate), wanted)) say(line)
      }),
    )

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
    .command('heal')
    .description('Mends the edges of a picture that is to be a tile; what closes already is left as it is.')
    .argument('<file>', 'a picture')
    .requiredOption('-o, --out <file>', 'a .png')
    .addOption(new Option('--by <way>', 'the one that leaves least of an edge where this is left out').choices(HEALS))
    .option(
      '--band <px>',
      'so much about the edge is mended; an eighth of the side where this is left out',
      within(2, 8192),
    )
    .addOption(new Option('--axis <which>', 'the directions').choices(['x', 'y', 'both']).default('both'))
    .action(
      attempt(async (path: string, own: HealOptions) => {
        const { healTile } = await import('./tile')
        say(await healTile(path, own))
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
        const { planOf } = await import('./plan')
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
    .action(
      attempt(async (path: string, own: { task?: number }) => {
        const named = process.env.SLURM_ARRAY_TASK_ID ?? process.env.JOB_COMPLETION_INDEX
        const task = own.task ?? (named === undefined ? Number.NaN : Number(named))
        if (!Number.isInteger(task))
          throw new RangeError(
            'Say which task: --task 0, or let a scheduler do so (SLURM_ARRAY_TASK_ID, JOB_COMPLETION_INDEX).',
          )
        const { doTask } = await import('./work')
        await doTask(path, task, say)
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
    .action(
      attempt(async (paths: string[], own: { out?: string; repeats: number; quality?: number }) => {
        const { out, quality: wanted = null } = own
        if (out === undefined) {
          const [plan] = paths
          if (paths.length !== 1 || !plan?.endsWith('.json'))
            throw new RangeError('Say where parts are to be written: -o loop.gif; or name one plan.')
          const { joinPlan } = await import('./work')
          if (!(await joinPlan(plan, say))) process.exitCode = 2
          return
        }
        const { joinParts } = await import('./join')
        say(await joinParts(paths, { out, repeats: own.repeats, quality: wanted }))
      }),
    )

  program
    .command('fit')
    .description('Finds the lengths at which wanted periods come home together.')
    .requiredOption('--rate <rate>', 'frames per second, such as 30000/1001', rateOf)
    .requiredOption('--periods <list>', 'such as 1.5s,20f,0.7s')
    .option('--folds <list>', 'of each period, such as 1,8,1', reading(foldsOf))
    .option('--max <n>', 'frames at most', within(1, MAX_LENGTH), 600)
    .option('--json', '{ "exact", "front": [ { "length", "cycles", "worstError" } ] }')
    .action(
      attempt(async (own: { rate: Fraction; periods: string; folds?: number[]; max: number; json?: boolean }) => {
        const periods = own.periods.split(',').map((each) => periodOf(each, own.rate))
        if (own.folds && own.folds.length !== periods.length)
          throw new RangeError(`There are ${periods.length} periods and ${own.folds.length} folds: say one for each.`)
        const answer = fitPeriods(periods, own.folds ?? [], own.rate, own.max)
        say(own.json ? asJson(answer) : fitTable(answer, own.rate))
      }),
    )
  await program.parseAsync(argv as string[])
}
