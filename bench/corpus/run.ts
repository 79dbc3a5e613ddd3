import { CORPUS_ENCODERS, type Encoder, encodeCase } from './encode'
import { casesOf, SHAPES } from './faults'
import { outcomeOf } from './judge'
import { SCENES } from './scenes'

/**
 * Judges the corpus and prints how often each fault was found at its frame, and what was named that is not there:
 * `npx tsx bench/corpus/run.ts [shape …]`, all three shapes by default. In the smallest shape every case is written by
 * every encoder, in the larger ones by one of them in turn.
 */
const wanted = process.argv.slice(2).map(Number)
const shapes = SHAPES.filter((_, i) => wanted.length === 0 || wanted.includes(i))
let turn = 0
const rows = new Map<string, { files: number; right: number; alarms: number }>()
const problems: string[] = []
for (const shape of shapes)
  for (const scene of SCENES)
    for (const each of casesOf(scene, shape))
      for (const encoder of shape === SHAPES[0]
        ? CORPUS_ENCODERS
        : [CORPUS_ENCODERS[turn++ % CORPUS_ENCODERS.length] as Encoder]) {
        // GIF knows clear and opaque: it cannot hold this fault.
        if (each.expected?.kind === 'fringe' && encoder.startsWith('gif')) continue
        const { right, alarms, report } = await outcomeOf(await encodeCase(each, encoder), each)
        const row = rows.get(each.fault) ?? { files: 0, right: 0, alarms: 0 }
        rows.set(each.fault, {
          files: row.files + 1,
          right: row.right + (right ? 1 : 0),
          alarms: row.alarms + (alarms.length > 0 ? 1 : 0),
        })
        if (!right || alarms.length > 0)
          problems.push(
            `${each.scene}, ${each.fault}, ${shape.size} px, ${encoder}: ${right ? 'found' : 'MISSED'}${alarms.length > 0 ? `, also ${alarms.join(', ')}` : ''} (${report.seam.verdict} ${report.seam.ratio.toFixed(2)})`,
          )
      }
const print = (line: string) => process.stdout.write(`${line}\n`)
print('| fault | files | found at its frame | named besides |\n|---|--:|--:|--:|')
for (const [fault, { files, right, alarms }] of rows) print(`| ${fault} | ${files} | ${right} | ${alarms} |`)
for (const problem of problems) print(problem)
