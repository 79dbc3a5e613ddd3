import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { unzipSync } from 'fflate'

/** Files of the command line: how long it takes on all cores, and what they weigh beside those of the media encoder. */
const FORMATS = ['gif', 'apng', 'webp'] as const
type Format = (typeof FORMATS)[number]
/** Sizes against the loop's at which files are weighed. */
const SCALES = [0.5, 1] as const

const run = (...args: string[]) => execFileSync(process.execPath, ['bin/cyclon.mjs', ...args], { stdio: 'ignore' })

function secondsOf(work: () => void): number {
  const start = performance.now()
  work()
  return (performance.now() - start) / 1000
}

const loopAt = (name: string) => join('demo/loops', name)
const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0)

/** Size of the media encoder's lossless file of the same frames, bytes. */
function mediaEncoded(frames: string, rate: string, format: Exclude<Format, 'gif'>, out: string): number {
  const how =
    format === 'apng'
      ? ['-f', 'apng', '-plays', '0', '-pred', 'none']
      : ['-c:v', 'libwebp_anim', '-lossless', '1', '-loop', '0', '-compression_level', '4']
  const input = ['-v', 'error', '-y', '-framerate', rate, '-i', join(frames, '%04d.png')]
  execFileSync('ffmpeg', [...input, ...how, out])
  return statSync(out).size
}

/** The rows of the table about the command line. */
export function commandLineRows(): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'cyclon-bench-'))
  try {
    const cores = availableParallelism()
    const rows = FORMATS.map((format) => {
      const render = (of: number) => () =>
        run(
          'render',
          loopAt('lens-sweep.cyclon.json'),
          '-o',
          join(folder, `a.${format}`),
          '--scale',
          '2',
          '--cores',
          String(of),
        )
      // In turns, the least of two: what else a machine does only ever adds to it.
      const [one, all]: [number[], number[]] = [[], []]
      for (let time = 0; time < 2; time++) {
        one.push(secondsOf(render(1)))
        all.push(secondsOf(render(cores)))
      }
      const a = Math.min(...all)
      const b = Math.min(...one)
      return `| command line: Lens sweep at 960×720, 100 frames, drawn, written and proven, ${format} | on one core | ${a.toFixed(1)} s on ${cores} cores against ${b.toFixed(1)} s | ${(a / b).toFixed(2)} | ≤ 0.6 |`
    })
    for (const format of ['apng', 'webp'] as const)
      for (const scale of SCALES) {
        const [ours, theirs]: [number[], number[]] = [[], []]
        for (const name of readdirSync('demo/loops').filter((file) => file.endsWith('.json'))) {
          const { rate, background } = JSON.parse(readFileSync(loopAt(name), 'utf8'))
          if (background === null) continue
          const frames = join(folder, `frames-${scale}-${name}`)
          const zip = join(folder, 'frames.zip')
          const out = join(folder, `b.${format}`)
          run('render', loopAt(name), '-o', zip, '--scale', String(scale))
          mkdirSync(frames, { recursive: true })
          const files = Object.entries(unzipSync(readFileSync(zip))).sort(([a], [b]) => (a < b ? -1 : 1))
          for (const [n, [, bytes]] of files.entries())
            writeFileSync(join(frames, `${String(n).padStart(4, '0')}.png`), bytes)
          run('render', loopAt(name), '-o', out, '--scale', String(scale))
          ours.push(statSync(out).size)
          theirs.push(mediaEncoded(frames, `${rate.num}/${rate.den}`, format, join(folder, `c.${format}`)))
        }
        const larger = ours.filter((bytes, i) => bytes > (theirs[i] as number)).length
        const kB = (bytes: number) => `${(bytes / 1000).toFixed(0)} kB`
        rows.push(
          `| ${format} of ${ours.length} demo loops at ${scale} of their size, without loss | the media encoder, the same pixels | ${kB(sum(ours))} against ${kB(sum(theirs))}; ${larger} of them larger | ${(sum(ours) / sum(theirs)).toFixed(2)} | ≤ 1 |`,
        )
      }
    return rows
  } finally {
    rmSync(folder, { recursive: true })
  }
}
