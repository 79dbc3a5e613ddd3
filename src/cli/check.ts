import { ClipError } from '@/codecs/claims'
import { LoopFileError } from '@/core/document'
import { describeFrame, type Ground, type JudgedFrame, judgeClip, judgedSide } from '@/core/seam'
import { type Checked, checkEntry } from './check-entry'
import { checkLoop } from './check-loop'
import { isLoopPath, loopAt, type Source, sourcesAt } from './sources'

/**
 * Checks what a path holds, one entry for each file: a loop by its motions and its pictures, anything else by its pictures.
 * @param ground on which what is transparent is judged
 */
export async function checkPath(path: string, rate: number, ground?: Ground): Promise<Checked[]> {
  try {
    if (isLoopPath(path)) return [await checkLoop(path, await loopAt(path), ground)]
    const checked: Checked[] = []
    for (const source of await sourcesAt(path, rate)) checked.push(await checkSource(source, ground))
    return checked
  } catch (error) {
    return [failed(path, error)]
  }
}

const failed = (file: string, error: unknown): Checked => ({
  entry: { file, error: reasonOf(error) },
  sound: null,
  notes: [],
})

export function reasonOf(error: unknown): string {
  if (error instanceof ClipError) return error.message
  if (error instanceof LoopFileError) return `${error.message} ${error.advice}`
  const { code, message } = error as NodeJS.ErrnoException
  if (code === 'ENOENT') return 'There is no such file.'
  if (code === 'EACCES') return 'The file may not be read.'
  return message
}

async function checkSource({ file, format, claims, frames }: Source, ground?: Ground): Promise<Checked> {
  const { width, height, delaysMs, plays, notes } = claims
  try {
    const described: JudgedFrame[] = []
    const side = judgedSide(delaysMs.length)
    for await (const picture of frames()) described.push(describeFrame(picture, side))
    if (described.length !== delaysMs.length)
      throw new ClipError(`The file claims ${delaysMs.length} frames, and ${described.length} can be decoded.`)
    const playsForever = plays === 0
    const { seam, findings, sound } = judgeClip(described, { delaysMs, playsForever }, ground)
    return {
      entry: checkEntry(file, format, { width, height, delaysMs, playsForever }, seam, findings),
      sound: sound && (seam.verdict === 'closes' || seam.verdict === 'still'),
      notes,
    }
  } catch (error) {
    return failed(file, error)
  }
}

/** 0 where every file closes, 1 where something must be mended, 2 where one cannot be read. */
export const exitCode = (checked: readonly Checked[]): 0 | 1 | 2 =>
  checked.some(({ sound }) => sound === null) ? 2 : checked.some(({ sound }) => !sound) ? 1 : 0

/** The entries as lines for people: one for each file, and below it what was found. */
export function checkTable(checked: readonly Checked[]): string {
  const rows = checked.map(({ entry }) =>
    'error' in entry
      ? [entry.file, 'cannot be read', '', '', '']
      : [
          entry.file,
          entry.seam.verdict.replaceAll('-', ' '),
          `${entry.frames} f`,
          `${(entry.durationMs / 1000).toFixed(2)} s`,
          `${entry.width} × ${entry.height} ${entry.format}`,
        ],
  )
  const widths = [0, 1, 2, 3].map((column) => Math.max(...rows.map((row) => (row[column] ?? '').length)))
  const lines = rows.map((row) =>
    row
      .map((cell, i) => cell.padEnd(widths[i] ?? 0))
      .join('  ')
      .trimEnd(),
  )
  return checked
    .flatMap(({ entry, notes }, i) => [
      lines[i] as string,
      ...('error' in entry
        ? [`  ${entry.error}`]
        : entry.findings.map(({ kind, message, remedy }) => `  ${kind.replaceAll('-', ' ')}: ${message} ${remedy}`)),
      ...notes.map((note) => `  note: ${note}`),
    ])
    .join('\n')
}
