import { ClipError } from '@/codecs/claims'
import { reducePicture } from '@/core/image'
import { type ClipReport, type Descriptor, descriptorOf, judgeClip, judgedSide } from '@/core/seam'
import { type Source, sourcesAt } from './sources'

/** The entry of one file, as `--json` gives it. */
export type CheckEntry =
  | { readonly file: string; readonly error: string }
  | {
      readonly file: string
      readonly format: string
      readonly width: number
      readonly height: number
      readonly frames: number
      readonly durationMs: number
      readonly delaysMs: readonly number[]
      readonly playsForever: boolean
      readonly seam: {
        readonly verdict: ClipReport['seam']['verdict']
        readonly step: number
        readonly expected: number
        readonly ratio: number | null
      }
      readonly findings: readonly {
        readonly kind: string
        readonly frame: number | null
        readonly message: string
        readonly remedy: string
      }[]
    }

interface Checked {
  readonly entry: CheckEntry
  /** Whether nothing must be mended; null where the file cannot be read. */
  readonly sound: boolean | null
  readonly notes: readonly string[]
}

/** Checks what a path holds, one entry for each file. */
export async function checkPath(path: string, rate: number): Promise<Checked[]> {
  try {
    const checked: Checked[] = []
    for (const source of await sourcesAt(path, rate)) checked.push(await checkSource(source))
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

function reasonOf(error: unknown): string {
  if (error instanceof ClipError) return error.message
  const { code, message } = error as NodeJS.ErrnoException
  if (code === 'ENOENT') return 'There is no such file.'
  if (code === 'EACCES') return 'The file may not be read.'
  return message
}

async function checkSource({ file, format, claims, frames }: Source): Promise<Checked> {
  const { width, height, delaysMs, plays, notes } = claims
  try {
    const described: Descriptor[] = []
    const side = judgedSide(delaysMs.length)
    for await (const picture of frames()) described.push(descriptorOf(reducePicture(picture, side)))
    if (described.length !== delaysMs.length)
      throw new ClipError(`The file claims ${delaysMs.length} frames, and ${described.length} can be decoded.`)
    const playsForever = plays === 0
    const { seam, findings, sound } = judgeClip(described, { delaysMs, playsForever })
    return {
      entry: {
        ...{ file, format, width, height, frames: described.length },
        durationMs: round(delaysMs.reduce((a, b) => a + b, 0)),
        delaysMs: delaysMs.map(round),
        playsForever,
        seam: {
          verdict: seam.verdict,
          step: seam.seamStep,
          expected: seam.expected,
          ratio: Number.isFinite(seam.ratio) ? seam.ratio : null,
        },
        findings: findings.map(({ kind, frame, message, remedy }) => ({ kind, frame, message, remedy })),
      },
      sound: sound && (seam.verdict === 'closes' || seam.verdict === 'still'),
      notes,
    }
  } catch (error) {
    return failed(file, error)
  }
}

const round = (ms: number) => Number(ms.toFixed(4))

/** 0 where every file closes, 1 where something must be mended, 2 where one cannot be read. */
export const exitCode = (checked: readonly Checked[]): 0 | 1 | 2 =>
  checked.some(({ sound }) => sound === null) ? 2 : checked.some(({ sound }) => !sound) ? 1 : 0

/** The entries as lines for people: one for each file, and below it what was found. */
export function tableOf(checked: readonly Checked[]): string {
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
