import type { GroundName, SeamReport, Verdict } from '@/core/seam'

/** The entry of one file or loop, as `--json` gives it. */
export type CheckEntry =
  | { readonly file: string; readonly error: string }
  | {
      readonly file: string
      /** `loop` for a document. */
      readonly format: string
      readonly width: number
      readonly height: number
      readonly frames: number
      readonly durationMs: number
      readonly delaysMs: readonly number[]
      readonly playsForever: boolean
      readonly seam: {
        readonly verdict: Verdict
        readonly step: number
        readonly expected: number
        readonly ratio: number | null
      }
      /** The verdict of the pictures over each ground that a page may have. */
      readonly grounds: Readonly<Record<GroundName, Verdict>>
      readonly findings: readonly {
        readonly kind: string
        readonly frame: number | null
        readonly message: string
        readonly remedy: string
      }[]
      /** Of a document: its motions that are seen. */
      readonly motions?: readonly {
        readonly layer: string
        readonly property: string
        readonly home: boolean
        readonly gap: number
        readonly unit: string
        /** The placed loop that it is in. */
        readonly inside?: string
      }[]
    }

export interface Checked {
  readonly entry: CheckEntry
  /** Whether nothing must be mended; null where the file cannot be read. */
  readonly sound: boolean | null
  readonly notes: readonly string[]
}

const round = (ms: number) => Number(ms.toFixed(4))

/** Entry for a file that could be read. */
export const checkEntry = (
  file: string,
  format: string,
  about: {
    readonly width: number
    readonly height: number
    readonly delaysMs: readonly number[]
    readonly playsForever: boolean
  },
  seam: SeamReport,
  findings: readonly SaidFinding[],
): Extract<CheckEntry, { format: string }> => ({
  file,
  format,
  width: about.width,
  height: about.height,
  frames: about.delaysMs.length,
  durationMs: round(about.delaysMs.reduce((a, b) => a + b, 0)),
  delaysMs: about.delaysMs.map(round),
  playsForever: about.playsForever,
  seam: {
    verdict: seam.verdict,
    step: seam.seamStep,
    expected: seam.expected,
    ratio: Number.isFinite(seam.ratio) ? seam.ratio : null,
  },
  grounds: seam.grounds,
  findings: findings.map(({ kind, frame, message, remedy }) => ({ kind, frame, message, remedy })),
})

interface SaidFinding {
  readonly kind: string
  readonly frame: number | null
  readonly message: string
  readonly remedy: string
}
