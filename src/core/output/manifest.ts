import { type Fraction, formatRate } from '../clock'
import type { FileSettings } from './settings'

/** One promise of a file, and how it was kept. */
interface ProvenLine {
  readonly what: string
  readonly expected: string
  readonly found: string
  readonly holds: boolean
}

/** Record of a file beside it: how it was made, and its proof. */
export interface FileRecord {
  readonly file: string
  readonly loop: string
  readonly rate: Fraction
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly seconds: number
  readonly bytes: number
  readonly settings: FileSettings
  readonly note: string | null
  readonly proof: {
    readonly holds: boolean
    readonly lines: readonly ProvenLine[]
    readonly seam: { readonly verdict: string }
    readonly meanError: number
    readonly worstError: number
    readonly alphaError: number
  }
}

const rounded = (x: number) => Number(x.toFixed(4))

/** The record of a file as JSON has it. */
export function fileRecord(record: FileRecord) {
  const { proof, rate, seconds, ...rest } = record
  return {
    format: 'cyclon-proof',
    ...rest,
    rate: formatRate(rate),
    seconds: rounded(seconds),
    proof: {
      holds: proof.holds,
      seam: proof.seam.verdict,
      checked: proof.lines.map(({ what, expected, found, holds }) => ({ what, expected, found, holds })),
      meanError: rounded(proof.meanError),
      worstError: proof.worstError,
      alphaError: rounded(proof.alphaError),
    },
  }
}

/** Result of a run: the files that keep their promise, and those that are missing, with the reason. */
export const manifestOf = (files: readonly FileRecord[], left: readonly { file: string; reason: string }[]) => ({
  format: 'cyclon-manifest',
  files: files.map(fileRecord),
  left,
})
