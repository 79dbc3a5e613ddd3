import type { Command } from 'commander'
import { type Fraction, toNumber } from '@/core/clock'
import type { Ground } from '@/core/seam/grounds'
import { asJson, attempt, groundOf, rateArgument, reading, say } from '../arguments'

interface CheckFlags {
  readonly json?: boolean
  readonly rate: Fraction
  readonly ground?: Ground
  readonly tile?: boolean
  readonly model?: boolean
}

/** Checks files one after the other, and says what was found: as JSON, or as a table. */
async function checkEach<T>(
  files: readonly string[],
  json: boolean,
  entryOf: (file: string) => Promise<T>,
  tableOf: (entries: T[]) => string,
  exitCodeOf: (entries: T[]) => number,
): Promise<void> {
  const entries: T[] = []
  for (const file of files) entries.push(await entryOf(file))
  say(json ? asJson(entries) : tableOf(entries))
  process.exitCode = exitCodeOf(entries)
}

async function check(files: readonly string[], { json = false, rate, ground, tile, model }: CheckFlags): Promise<void> {
  if (model) {
    const { checkModel, modelTable, modelsExitCode } = await import('../model')
    return checkEach(files, json, checkModel, modelTable, modelsExitCode)
  }
  if (tile) {
    const { checkTile, tileTable, tilesExitCode } = await import('../tile')
    return checkEach(files, json, checkTile, tileTable, tilesExitCode)
  }
  const { checkPath, exitCode, checkTable } = await import('../check')
  const checked = []
  for (const file of files) checked.push(...(await checkPath(file, toNumber(rate), ground)))
  say(json ? asJson(checked.map(({ entry }) => entry)) : checkTable(checked))
  process.exitCode = exitCode(checked)
}

export function checkCommand(program: Command): void {
  program
    .command('check')
    .description('Says of loops, GIF, APNG and WebP files, folders of PNG files and ZIPs of them whether they close.')
    .argument('<file...>', '.cyclon.json, .cyclon.zip, files, folders of numbered PNG files, or ZIPs of either')
    .option('--json', 'one array on standard output, one entry per file')
    .option('--rate <rate>', 'frames per second of PNG sequences', rateArgument, rateArgument('25'))
    .option('--tile', 'pictures that are laid beside themselves: whether an edge shows, across and down')
    .option('--model', 'models that are to turn (.glb, .gltf, .obj, .stl, .ply): parts, centre, fold, faults')
    .option('--ground <colour>', 'judged on white, black, grey or #rrggbb where transparent', reading(groundOf))
    .action(attempt(check))
}
