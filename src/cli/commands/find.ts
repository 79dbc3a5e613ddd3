import type { Command } from 'commander'
import { type Fraction, toNumber } from '@/core/clock'
import { asJson, attempt, rateArgument, say, within } from '../arguments'

interface FindFlags {
  readonly min?: number
  readonly max?: number
  readonly from?: number
  readonly to?: number
  readonly top: number
  readonly rate: Fraction
  readonly json?: boolean
}

async function find(clips: readonly string[], flags: FindFlags): Promise<void> {
  const { findAt, findExitCode, findTable } = await import('../find')
  const { min = null, max = null, from = null, to = null, top, rate, json } = flags
  const entries = []
  for (const clip of clips) entries.push(...(await findAt(clip, toNumber(rate), { min, max, from, to, top })))
  say(json ? asJson(entries) : findTable(entries))
  process.exitCode = findExitCode(entries)
}

export function findCommand(program: Command): void {
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
    .option('--top <k>', 'list at most this many', within(1, 100), 8)
    .option('--rate <rate>', 'frames per second of PNG sequences', rateArgument, rateArgument('25'))
    .option('--json', 'one array on standard output, one entry per clip')
    .action(attempt(find))
}
