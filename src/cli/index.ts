import { Command, InvalidArgumentError } from 'commander'
import { parseRate, toNumber } from '@/core/clock'
import { checkPath, exitCode, tableOf } from './check'

function rateOf(text: string): number {
  try {
    return toNumber(parseRate(text))
  } catch {
    throw new InvalidArgumentError('It is not a rate such as 25 or 30000/1001.')
  }
}

/** Runs the command line: `cyclon check FILE…`. */
export async function run(argv: readonly string[]): Promise<void> {
  const program = new Command('cyclon').description('Loops that provably repeat without a jump.')
  program
    .command('check')
    .description('Says of GIF, APNG and WebP files, folders of PNG files and ZIPs of them whether they close.')
    .argument('<file...>', 'files, folders of numbered PNG files, or ZIPs of either')
    .option('--json', 'one array on standard output, one entry per file')
    .option('--rate <rate>', 'frames per second of PNG sequences', rateOf, 25)
    .action(async (files: string[], { json, rate }: { json?: boolean; rate: number }) => {
      const checked = []
      for (const file of files) checked.push(...(await checkPath(file, rate)))
      process.stdout.write(
        `${
          json
            ? JSON.stringify(
                checked.map(({ entry }) => entry),
                null,
                2,
              )
            : tableOf(checked)
        }\n`,
      )
      process.exitCode = exitCode(checked)
    })
  await program.parseAsync(argv as string[])
}
