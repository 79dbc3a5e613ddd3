import { decodeFrames } from '../../src/cli/decode'
import { readClaims } from '../../src/codecs/claims'
import { type ClipReport, describeFrame, type JudgedFrame, judgeClip, judgedSide } from '../../src/core/seam'
import type { Case } from './faults'

export interface Outcome {
  /** The fault was named, at its frame; of a sound case, that nothing had to be mended. */
  readonly right: boolean
  /** Faults that were named and are not there. */
  readonly alarms: readonly string[]
  readonly report: ClipReport
}

/** Decodes a file and judges it, as `cyclon check` does, against what is known of it. */
export async function outcomeOf(file: Uint8Array, { expected }: Case): Promise<Outcome> {
  const claims = readClaims(file)
  const frames: JudgedFrame[] = []
  for await (const picture of decodeFrames(file, claims))
    frames.push(describeFrame(picture, judgedSide(claims.delaysMs.length)))
  const report = judgeClip(frames, { delaysMs: claims.delaysMs, playsForever: claims.plays === 0 })
  const faults = report.findings.filter(({ hint }) => !hint)
  const meant = faults.filter(({ kind }) => kind === expected?.kind)
  const right = expected
    ? meant.some(({ frame }) => expected.frames === null || expected.frames.includes(frame ?? -1))
    : faults.length === 0
  const besides = faults.filter(
    ({ kind, frame }) =>
      kind !== expected?.kind || (expected.frames !== null && !expected.frames.includes(frame ?? -1)),
  )
  // A whole picture that drifts jumps back at its seam, too; both are true.
  const alarms = besides.filter(({ kind }) => !(expected?.kind === 'drift' && kind === 'jumps'))
  return { right, alarms: alarms.map(({ kind, frame }) => `${kind} ${frame ?? ''}`.trim()), report }
}
