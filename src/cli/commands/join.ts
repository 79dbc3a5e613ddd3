import type { Command } from 'commander'
import { attempt, say } from '../arguments'
import type { Allowed } from '../open-plan'
import { force, outside, quality, repeats } from './flags'

interface JoinFlags extends Allowed {
  readonly out?: string
  readonly repeats: number
  readonly quality?: number
}

async function join(paths: readonly string[], flags: JoinFlags): Promise<void> {
  const { out, repeats: times, quality: wanted = null, force: replaces = false } = flags
  if (out === undefined) {
    const [plan] = paths
    if (paths.length !== 1 || !plan?.endsWith('.json'))
      throw new RangeError('Say where parts are to be written: -o loop.gif; or name one plan.')
    const { joinPlan } = await import('../join-plan')
    if (!(await joinPlan(plan, say, flags))) process.exitCode = 2
    return
  }
  const { joinParts } = await import('../join')
  say(await joinParts(paths, { out, repeats: times, quality: wanted, force: replaces }))
}

export function joinCommand(program: Command): void {
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
    .action(attempt(join))
}
