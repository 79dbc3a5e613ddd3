import { Command, Option } from 'commander'
import { type Fraction, MAX_LENGTH, toNumber } from '@/core/clock'
import { CAMERA_MODELS, type CameraModel } from '@/core/footage/camera'
import type { Ground } from '@/core/seam/grounds'
import { HEALS } from '@/core/texture/heal'
import { asJson, attempt, groundOf, rateArgument, reading, say, within } from './arguments'
import { ASSETS_FOLDER } from './assets-folder'
import { fitPeriods, fitTable, foldsArgument, periodArgument } from './fit'
import { JOINS, type Join } from './joins'
import { force, rendering } from './rendering'
import type { HealOptions } from './tile'

/** Flags for a loop that is cut out of a clip. */
interface LoopFlags {
  readonly out: string
  readonly start?: number
  readonly length?: number
  readonly mend?: Join
  readonly overlap?: number
  readonly steady: CameraModel | 'none'
  readonly amount: number
  readonly rate: Fraction
  readonly force?: boolean
}

/** Runs the command line: `cyclon check`, `render`, `plan`, `work`, `join` and the others. */
export async function run(argv: readonly string[]): Promise<void> {
  const program = new Command('cyclon')
    .description('Loops that provably repeat without a jump.')
    .option('--assets <folder>', 'where files lie that loops name and do not hold, whatever they are called')
    .hook('preAction', (command) => {
      const { assets } = command.opts<{ assets?: string }>()
      if (assets) process.env[ASSETS_FOLDER] = assets
    })
  program
    .command('check')
    .description('Says of loops, GIF, APNG and WebP files, folders of PNG files and ZIPs of them whether they close.')
    .argument('<file...>', '.cyclon.json, .cyclon.zip, files, folders of numbered PNG files, or ZIPs of either')
    .option('--json', 'one array on standard output, one entry per file')
    .option('--rate <rate>', 'frames per second of PNG sequences', rateArgument, rateArgument('25'))
    .option('--tile', 'pictures that are laid beside themselves: whether an edge shows, across and down')
    .option('--model', 'models that are to turn (.glb, .gltf, .obj, .stl, .ply): parts, centre, fold, faults')
    .option('--ground <colour>', 'judged on white, black, grey or #rrggbb where transparent', reading(groundOf))
    .action(
      attempt(
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
          const { checkPath, exitCode, checkTable: tableOf } = await import('./check')
          const checked = []
          for (const file of files) checked.push(...(await checkPath(file, toNumber(rate), ground)))
          say(json ? asJson(checked.map(({ entry }) => entry)) : tableOf(checked))
          process.exitCode = exitCode(checked)
        },
      ),
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
    .option('--rate <rate>', 'frames per second of PNG sequences', rateArgument, rateArgument('25'))
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
    .option('--rate <rate>', 'frames per second of a PNG sequence', rateArgument, rateArgument('25'))
    .addOption(force())
    .action(
      attempt(async (clip: string, own: LoopFlags) => {
        const { loopFrom } = await import('./cut-loop')
        const { out, start = null, length = null, mend: join = null, overlap = null, amount, rate, force = false } = own
        const steady = own.steady === 'none' ? null : own.steady
        const wanted = { out, start, length, join, overlap, steady, amount, force }
        for (const line of await loopFrom(clip, toNumber(rate), wanted)) say(line)
      }),
    )

  rendering(program)

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
    .addOption(force())
    .action(
      attempt(async (path: string, own: HealOptions) => {
        const { healTile } = await import('./tile')
        say(await healTile(path, own))
      }),
    )

  program
    .command('fit')
    .description('Finds the lengths at which wanted periods come home together.')
    .requiredOption('--rate <rate>', 'frames per second, such as 30000/1001', rateArgument)
    .requiredOption('--periods <list>', 'such as 1.5s,20f,0.7s')
    .option('--folds <list>', 'of each period, such as 1,8,1', reading(foldsArgument))
    .option('--max <n>', 'frames at most', within(1, MAX_LENGTH), 600)
    .option('--json', '{ "exact", "front": [ { "length", "cycles", "worstError" } ] }')
    .action(
      attempt(async (own: { rate: Fraction; periods: string; folds?: number[]; max: number; json?: boolean }) => {
        const periods = own.periods.split(',').map((each) => periodArgument(each, own.rate))
        if (own.folds && own.folds.length !== periods.length)
          throw new RangeError(`There are ${periods.length} periods and ${own.folds.length} folds: say one for each.`)
        const answer = fitPeriods(periods, own.folds ?? [], own.rate, own.max)
        say(own.json ? asJson(answer) : fitTable(answer, own.rate))
      }),
    )
  await program.parseAsync(argv as string[])
}
