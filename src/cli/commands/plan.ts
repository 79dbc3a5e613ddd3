import { extname } from 'node:path'
import type { Command } from 'commander'
import { asJson, attempt, listOf, say, scalesOf, within } from '../arguments'
import { background, quality, repeats } from './flags'
import type { RenderFlags } from './render'

async function plan(paths: readonly string[], flags: RenderFlags & { readonly tasks?: number }): Promise<void> {
  const { clusterPlan } = await import('../plan')
  const { scale, formats, tasks = null, quality: wanted = null, ...rest } = flags
  const many = { ...rest, quality: wanted, scales: scale, formats: formats ?? [extname(rest.out).slice(1)] }
  say(asJson(await clusterPlan(paths, { ...many, resume: false, keepGoing: false, manifest: null }, tasks)))
}

export function planCommand(program: Command): void {
  program
    .command('plan')
    .description(
      'Divides loops, formats, sizes and ranges of frames into tasks of even cost, for `work` on many machines.',
    )
    .argument('<loop...>', ".cyclon.json or .cyclon.zip, or patterns such as '*.cyclon.json'")
    .requiredOption('-o, --out <names>', "such as 'out/{name}-{width}.{format}'")
    .option('--formats <list>', 'such as gif,webp,mp4: each of them', listOf)
    .option('--scale <list>', 'size against the loop’s, such as 1 or 0.5,1,2', scalesOf, [1])
    .option('--tasks <k>', 'at most this many; of about a minute each where this is left out', within(1, 100_000))
    .addOption(repeats())
    .addOption(background())
    .addOption(quality())
    .action(attempt(plan))
}
