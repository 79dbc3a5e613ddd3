import type { Command } from 'commander'
import { type Fraction, MAX_LENGTH } from '@/core/clock'
import { asJson, attempt, rateArgument, reading, say, within } from '../arguments'
import { fitPeriods, fitTable, foldsArgument, periodArgument } from '../fit'

interface FitFlags {
  readonly rate: Fraction
  readonly periods: string
  readonly folds?: number[]
  readonly max: number
  readonly json?: boolean
}

async function fit({ rate, periods: list, folds = [], max, json }: FitFlags): Promise<void> {
  const periods = list.split(',').map((period) => periodArgument(period, rate))
  if (folds.length > 0 && folds.length !== periods.length)
    throw new RangeError(`There are ${periods.length} periods and ${folds.length} folds: say one for each.`)
  const answer = fitPeriods(periods, folds, rate, max)
  say(json ? asJson(answer) : fitTable(answer, rate))
}

export function fitCommand(program: Command): void {
  program
    .command('fit')
    .description('Finds the lengths at which wanted periods come home together.')
    .requiredOption('--rate <rate>', 'frames per second, such as 30000/1001', rateArgument)
    .requiredOption('--periods <list>', 'such as 1.5s,20f,0.7s')
    .option('--folds <list>', 'of each period, such as 1,8,1', reading(foldsArgument))
    .option('--max <n>', 'frames at most', within(1, MAX_LENGTH), 600)
    .option('--json', '{ "exact", "front": [ { "length", "cycles", "worstError" } ] }')
    .action(attempt(fit))
}
