import { toNumber } from '@/core/clock'
import { checkMotions, type MotionReport, motionRemedies } from '@/core/closing'
import { type Loop, tooMuchToDraw } from '@/core/document'
import { mixingOf } from '@/core/layers'
import {
  describeFrame,
  type Ground,
  type JudgedFrame,
  judgeClip,
  judgedSide,
  judgeLoop,
  withJudgedClips,
} from '@/core/seam'
import { type CheckEntry, type Checked, checkEntry } from './check-entry'
import { drawerOf, seamInNode } from './drawer'

/** A motion of a loop in an entry. */
type MotionEntry = NonNullable<Extract<CheckEntry, { format: string }>['motions']>[number]

const motionEntry = (report: MotionReport): MotionEntry => ({
  layer: report.layer.name,
  property: report.property.label,
  home: report.home,
  gap: report.gap,
  unit: mixingOf(report.property).unit(report.property),
  ...(report.inside ? { inside: report.inside.name } : {}),
})

/** Names of what a verdict alone says of a loop, as findings have them. */
const isFault = (verdict: string): boolean => verdict !== 'closes' && verdict !== 'still'

/**
 * Checks a document as Compose does: its frames are drawn at their full size and judged by the rules for any file, its motions explain.
 * @param ground on which a transparent loop is judged
 * @throws Error where a picture in it cannot be decoded
 */
export async function checkLoop(file: string, stored: Loop, ground?: Ground): Promise<Checked> {
  const problem = tooMuchToDraw(stored)
  if (problem) throw new RangeError(problem)
  const loop = await withJudgedClips(stored, seamInNode)
  const { width, height, length } = loop
  const drawer = await drawerOf(loop, width, height)
  const side = judgedSide(length)
  const described: JudgedFrame[] = []
  try {
    for (let n = 0; n < length; n++) described.push(describeFrame(await drawer.draw(n), side))
  } finally {
    await drawer.end()
  }
  const delaysMs = new Array<number>(length).fill(1000 / toNumber(loop.rate))
  const report = judgeClip(described, { delaysMs, playsForever: true }, ground)
  const motions = checkMotions(loop)
  const { verdict, sentence, fault } = judgeLoop(loop, motions, report.seam)
  // How long frames are shown is a matter of the file that is written.
  const ofPictures = report.findings.filter(({ kind }) => kind !== 'delay-too-short' && kind !== 'uneven-delays')
  const known = ofPictures.find(
    ({ kind }) => kind === verdict || (verdict === 'jumps' && (kind === 'stray-frame' || kind === 'jumps-inside')),
  )
  const remedies = fault && !fault.inside ? motionRemedies(loop, fault.layer.id, fault.name) : []
  const remedy =
    remedies[0]?.label ?? known?.remedy ?? 'Open it in Compose, where the remedies can be seen before they are taken.'
  const said = { frame: known?.frame ?? null, message: sentence, remedy, hint: false }
  const findings = [
    ...(isFault(verdict) ? [{ kind: known?.kind ?? verdict, ...said }] : []),
    ...ofPictures.filter((each) => each !== known),
  ]
  return {
    entry: {
      ...checkEntry(
        file,
        'loop',
        { width, height, delaysMs, playsForever: true },
        { ...report.seam, verdict },
        findings,
      ),
      motions: motions.filter(({ visible }) => visible).map(motionEntry),
    },
    sound: !isFault(verdict) && findings.every(({ hint }) => hint),
    notes: drawer.said ? [drawer.said] : [],
  }
}
