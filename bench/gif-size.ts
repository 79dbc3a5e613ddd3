import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { decodeGif, type GifColours, PLAIN_COLOURS, writeGif } from '../src/codecs'
import { GIFEncoder, quantize } from '../src/codecs/gifenc'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { type Picture, paletteMapper } from '../src/core/image'
import { renderInNode } from '../src/render/node'

/** Weight of a GIF of a loop, and its error, root mean square, of 255. */
export interface WeighedGif {
  readonly how: string
  readonly bytes: number
  readonly error: number
}

const WIDTH = 480

/** The frames of a demo loop, opaque. */
export function demoFrames(name: string): Picture[] {
  const loop = parseLoop(readFileSync(`demo/loops/${name}`, 'utf8'))
  const opaque = { ...loop, background: loop.background ?? '#ffffff' }
  const height = Math.round((WIDTH * loop.height) / loop.width)
  return Array.from({ length: Math.min(48, loop.length) }, (_, n) => renderInNode(evaluate(opaque, n), WIDTH, height))
}

function weigh(how: string, bytes: Uint8Array, frames: readonly Picture[]): WeighedGif {
  let sum = 0
  let count = 0
  let n = 0
  for (const { data } of decodeGif(bytes).frames()) {
    const wanted = (frames[n++] as Picture).data
    for (let i = 0; i < data.length; i += 4)
      for (let c = 0; c < 3; c++) sum += ((data[i + c] as number) - (wanted[i + c] as number)) ** 2
    count += (data.length / 4) * 3
  }
  if (n !== frames.length) throw new Error(`${how}: ${n} of ${frames.length} frames`)
  return { how, bytes: bytes.length, error: Math.sqrt(sum / count) }
}

async function ours(frames: readonly Picture[], more: Partial<GifColours>): Promise<WeighedGif> {
  const [{ width, height }] = frames as [Picture]
  const { bytes } = await writeGif({
    width,
    height,
    delaysCs: frames.map(() => 4),
    colours: { ...PLAIN_COLOURS, ...more },
    mostKept: 48,
    draw: async (n) => frames[n] as Picture,
    progress: () => {},
  })
  return weigh(`ours ${JSON.stringify(more)}`, bytes, frames)
}

/** Every frame whole, one palette from the first twelve, as a plain use of the encoder writes it. */
function plain(frames: readonly Picture[]): WeighedGif {
  const [{ width, height }] = frames as [Picture]
  const every = Math.ceil(frames.length / 12)
  const pixels = frames.filter((_, n) => n % every === 0).map(({ data }) => Buffer.from(data))
  const palette = [[0, 0, 0], ...quantize(Buffer.concat(pixels), 255)]
  const map = paletteMapper(palette, 'none', false)
  const stream = GIFEncoder()
  for (const [n, frame] of frames.entries())
    stream.writeFrame(map(frame), width, height, { delay: 40, ...(n === 0 ? { palette, repeat: 0 } : {}) })
  stream.finish()
  return weigh('plain', stream.bytes(), frames)
}

/** The media encoder at every palette setting that it has, with the dithers that serve flat and graded pictures best. */
function mediaEncoder(frames: readonly Picture[]): WeighedGif[] {
  const [{ width, height }] = frames as [Picture]
  const folder = mkdtempSync(join(tmpdir(), 'gif-'))
  try {
    const raw = join(folder, 'frames.rgba')
    writeFileSync(raw, Buffer.concat(frames.map(({ data }) => Buffer.from(data))))
    return ['full', 'diff', 'single'].flatMap((stats) =>
      ['none', 'bayer:bayer_scale=3', 'sierra2_4a'].map((dither) => {
        const out = join(folder, 'out.gif')
        const perFrame = stats === 'single' ? ':new=1' : ''
        const graph = `split[a][b];[a]palettegen=stats_mode=${stats}:reserve_transparent=0[p];[b][p]paletteuse=dither=${dither}:diff_mode=rectangle${perFrame}`
        execFileSync('ffmpeg', [
          ...['-y', '-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${width}x${height}`, '-r', '25'],
          ...['-i', raw, '-vf', graph, '-loop', '0', out],
        ])
        return weigh(`media encoder ${stats} ${dither}`, readFileSync(out), frames)
      }),
    )
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** All ways for one demo loop. */
export async function weighAll(name: string) {
  const frames = demoFrames(name)
  const mine: WeighedGif[] = []
  for (const loss of [0, 1, 2, 4, 8]) mine.push(await ours(frames, { loss }))
  return { ours: mine, plain: plain(frames), media: mediaEncoder(frames) }
}

if (process.argv[1]?.endsWith('gif-size.ts'))
  void (async () => {
    for (const name of readdirSync('demo/loops').filter((file) => file.endsWith('.json'))) {
      const { ours: mine, plain: single, media } = await weighAll(name)
      const row = ({ how, bytes, error }: WeighedGif) =>
        `  ${(bytes / 1000).toFixed(1).padStart(8)} kB  ${error.toFixed(3)}  ${how}\n`
      process.stdout.write(`${name}\n${[...mine, single, ...media].map(row).join('')}`)
    }
  })()
