import { type Command, Option } from 'commander'
import { HEALS } from '@/core/texture/heal'
import { attempt, say, within } from '../arguments'
import type { HealOptions } from '../tile'
import { force } from './flags'

async function heal(path: string, options: HealOptions): Promise<void> {
  const { healTile } = await import('../tile')
  say(await healTile(path, options))
}

export function healCommand(program: Command): void {
  program
    .command('heal')
    .description('Mends the edges of a picture that is to be a tile; what closes already is left as it is.')
    .argument('<file>', 'a picture')
    .requiredOption('-o, --out <file>', 'a .png')
    .addOption(new Option('--by <way>', 'the one that leaves least of an edge where this is left out').choices(HEALS))
    .option(
      '--band <px>',
      'the width about the edge that is mended; an eighth of the side where this is left out',
      within(2, 8192),
    )
    .addOption(new Option('--axis <which>', 'the directions').choices(['x', 'y', 'both']).default('both'))
    .addOption(force())
    .action(attempt(heal))
}
