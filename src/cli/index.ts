import { Command } from 'commander'
import { ASSETS_FOLDER } from './assets-folder'
import { checkCommand } from './commands/check'
import { findCommand } from './commands/find'
import { fitCommand } from './commands/fit'
import { healCommand } from './commands/heal'
import { joinCommand } from './commands/join'
import { loopCommand } from './commands/loop'
import { planCommand } from './commands/plan'
import { renderCommand } from './commands/render'
import { workCommand } from './commands/work'

/** The commands, as the help lists them. Each declares its flags, and loads its work when it runs. */
const COMMANDS = [
  checkCommand,
  findCommand,
  loopCommand,
  renderCommand,
  planCommand,
  workCommand,
  joinCommand,
  healCommand,
  fitCommand,
]

/** Runs the command line: `cyclon check`, `render`, `plan`, `work`, `join` and the others. */
export async function run(argv: readonly string[]): Promise<void> {
  const program = new Command('cyclon')
    .description('Loops that provably repeat without a jump.')
    .option('--assets <folder>', 'where files lie that loops name and do not hold, whatever they are called')
    .hook('preAction', (command) => {
      const { assets } = command.opts<{ assets?: string }>()
      if (assets) process.env[ASSETS_FOLDER] = assets
    })
  for (const add of COMMANDS) add(program)
  await program.parseAsync(argv as string[])
}
