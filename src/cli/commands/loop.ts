import { type Command, Option } from 'commander'
import { type Fraction, toNumber } from '@/core/clock'
import { CAMERA_MODELS, type CameraModel } from '@/core/footage/steady/camera'
import { attempt, rateArgument, say, within } from '../arguments'
import { JOINS, type Join } from '../joins'
import { force } from './flags'

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

async function loop(clip: string, flags: LoopFlags): Promise<void> {
  const { loopFrom } = await import('../cut-loop')
  const { out, start = null, length = null, mend: join = null, overlap = null, amount, rate } = flags
  const steady = flags.steady === 'none' ? null : flags.steady
  const wanted = { out, start, length, join, overlap, steady, amount, force: flags.force ?? false }
  for (const line of await loopFrom(clip, toNumber(rate), wanted)) say(line)
}

export function loopCommand(program: Command): void {
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
    .action(attempt(loop))
}
