import { describeFrame, judgeClip, judgedSide } from '../../src/core/seam'
import { type BusyPair, busyPairs, tremblings } from './busy'

/** Judges the busy pairs and prints how many leaps are seen and how many sound halves are accused: `npx tsx bench/corpus/busy-run.ts`. */
const reportOf = (pictures: BusyPair['sound']) =>
  judgeClip(
    pictures.map((picture) => describeFrame(picture, judgedSide(pictures.length))),
    { delaysMs: pictures.map(() => 40), playsForever: true },
  )
const rows = new Map<string, { pairs: number; seen: number; placed: number; accused: number }>()
const problems: string[] = []
for (const { ground, mover, size, sound, leaping } of busyPairs()) {
  const { seam } = reportOf(leaping)
  const faults = reportOf(sound).findings.filter(({ hint }) => !hint)
  const seen = seam.verdict === 'jumps' && seam.frame === leaping.length - 1
  const row = rows.get(ground) ?? { pairs: 0, seen: 0, placed: 0, accused: 0 }
  rows.set(ground, {
    pairs: row.pairs + 1,
    seen: row.seen + (seen ? 1 : 0),
    placed: row.placed + (seen && seam.leap ? 1 : 0),
    accused: row.accused + (faults.length > 0 ? 1 : 0),
  })
  if (!seen) problems.push(`${ground}, ${mover}, ${size}: MISSED (${seam.verdict} ${seam.frame ?? ''})`)
  if (faults.length > 0) problems.push(`${ground}, ${mover}, ${size}: ACCUSED (${faults.map(({ kind }) => kind)})`)
}
const shaken = new Map<string, { scenes: number; accused: number }>()
for (const { ground, what, detail, pictures } of tremblings()) {
  const { verdict, frame, leap } = reportOf(pictures).seam
  const row = shaken.get(ground) ?? { scenes: 0, accused: 0 }
  const accused = verdict !== 'closes'
  shaken.set(ground, { scenes: row.scenes + 1, accused: row.accused + (accused ? 1 : 0) })
  if (accused)
    problems.push(
      `${ground}, trembles in ${what}, ${detail}: ACCUSED (${verdict} ${frame}, leap ${leap?.ratio.toFixed(2)})`,
    )
}
const print = (line: string) => process.stdout.write(`${line}\n`)
print('| ground | pairs | leaps seen | and their place | sound halves accused |\n|---|--:|--:|--:|--:|')
for (const [ground, { pairs, seen, placed, accused }] of rows)
  print(`| ${ground} | ${pairs} | ${seen} | ${placed} | ${accused} |`)
print('\n| ground | scenes that tremble | accused |\n|---|--:|--:|')
for (const [ground, { scenes, accused }] of shaken) print(`| ${ground} | ${scenes} | ${accused} |`)
for (const problem of problems) print(problem)
