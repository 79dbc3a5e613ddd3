import type { Command } from 'commander'
import { attempt, say, within } from '../arguments'
import type { Allowed } from '../open-plan'
import { force, outside } from './flags'

async function work(path: string, flags: Allowed & { readonly task?: number }): Promise<void> {
  const named = process.env.SLURM_ARRAY_TASK_ID ?? process.env.JOB_COMPLETION_INDEX
  const task = flags.task ?? (named === undefined ? Number.NaN : Number(named))
  if (!Number.isInteger(task))
    throw new RangeError(
      'Say which task: --task 0, or let a scheduler do so (SLURM_ARRAY_TASK_ID, JOB_COMPLETION_INDEX).',
    )
  const { doTask } = await import('../work')
  await doTask(path, task, say, flags)
}

export function workCommand(program: Command): void {
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
    .action(attempt(work))
}
