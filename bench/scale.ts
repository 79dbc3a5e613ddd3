import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { formatLoop, parseLoop } from '../src/core/document'

/** The example of docs/scale.md, tried: variants of a loop, and one loop in parts, on one worker and on two. */
const COUNT = Number(process.argv[2] ?? 24)
const SOURCE = 'demo/loops/beacon-loader.cyclon.json'
const folder = mkdtempSync(join(tmpdir(), 'cyclon-scale-'))
const seconds = (work: () => void): number => {
  const start = performance.now()
  work()
  return (performance.now() - start) / 1000
}
/** Runs a line for each word, so many at a time: `xargs` stands for any job runner. */
const runner = (workers: number, words: readonly string[], line: string) =>
  execFileSync('xargs', ['-P', String(workers), '-I', '{}', 'sh', '-c', line], {
    input: words.join('\n'),
    stdio: ['pipe', 'ignore', 'inherit'],
  })

try {
  for (const name of ['variants', 'one', 'two', 'parts']) mkdirSync(join(folder, name))
  const loop = parseLoop(readFileSync(SOURCE, 'utf8'))
  for (let i = 0; i < COUNT; i++) {
    const background = `hsl(${Math.round((360 * i) / COUNT)} 60% 12%)`
    writeFileSync(
      join(folder, 'variants', `loader-${i}.cyclon.json`),
      formatLoop({ ...loop, id: `loader-${i}`, background }),
    )
  }
  const names = readdirSync(join(folder, 'variants')).map((file) => file.replace('.cyclon.json', ''))
  const render = (out: string) =>
    `node bin/cyclon.mjs render ${folder}/variants/{}.cyclon.json -o ${folder}/${out}/{}.webp --scale 0.5`
  const [one, two] = [seconds(() => runner(1, names, render('one'))), seconds(() => runner(2, names, render('two')))]
  const same = names.every((name) =>
    readFileSync(join(folder, 'one', `${name}.webp`)).equals(readFileSync(join(folder, 'two', `${name}.webp`))),
  )
  process.stdout.write(
    `${COUNT} variants: ${one.toFixed(1)} s on one worker, ${two.toFixed(1)} s on two (${(two / one).toFixed(2)}); ${same ? 'the same files' : 'other files'}\n`,
  )

  const large = 'demo/loops/pier-sheet.cyclon.json'
  const whole = seconds(() => runner(1, ['whole'], `node bin/cyclon.mjs render ${large} -o ${folder}/{}.apng`))
  const parts = seconds(() => {
    const ranges = ['0-74', '75-149', '150-224', '225-299']
    runner(2, ranges, `node bin/cyclon.mjs render ${large} --frames {} -o ${folder}/parts/{}.zip`)
    execFileSync('sh', ['-c', `node bin/cyclon.mjs join ${folder}/parts/*.zip -o ${folder}/joined.apng`])
  })
  const joined = readFileSync(join(folder, 'whole.apng')).equals(readFileSync(join(folder, 'joined.apng')))
  process.stdout.write(
    `one loop of 300 frames, 960 × 640 px: ${whole.toFixed(1)} s at once, ${parts.toFixed(1)} s in four parts on two workers (${(parts / whole).toFixed(2)}); ${joined ? 'the same file' : 'another file'}\n`,
  )
} finally {
  rmSync(folder, { recursive: true })
}
