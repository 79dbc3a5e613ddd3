import { createCanvas } from '@napi-rs/canvas'
import { decodeFrames } from '../src/cli/decode'
import { readClaims } from '../src/codecs/claims'
import { applyPalette, GIFEncoder } from '../src/codecs/gifenc'
import type { Picture } from '../src/core/image'
import { describeFrame, type JudgedFrame, judgeClip, judgedSide, seriesOf } from '../src/core/seam'

const WIDTH = 1280
const HEIGHT = 720
const FRAMES = 300

/** A loop of 300 frames as a GIF: a lamp that goes round before bands, in a few colours. */
export function busyGif(): Uint8Array {
  const palette = [
    [11, 34, 48],
    [18, 58, 76],
    [242, 181, 74],
    [247, 233, 208],
  ]
  const encoder = GIFEncoder()
  const context = createCanvas(WIDTH, HEIGHT).getContext('2d')
  for (let n = 0; n < FRAMES; n++) {
    context.fillStyle = '#0b2230'
    context.fillRect(0, 0, WIDTH, HEIGHT)
    context.fillStyle = '#123a4c'
    for (let i = 0; i < 12; i++) context.fillRect(((i + n / FRAMES) * WIDTH) / 12 - 40, 0, 40, HEIGHT)
    context.fillStyle = '#f2b54a'
    const angle = (2 * Math.PI * n) / FRAMES
    context.beginPath()
    context.arc(WIDTH / 2 + 240 * Math.cos(angle), HEIGHT / 2 + 240 * Math.sin(angle), 70, 0, 7)
    context.fill()
    const { data } = context.getImageData(0, 0, WIDTH, HEIGHT)
    encoder.writeFrame(applyPalette(data, palette), WIDTH, HEIGHT, { palette, delay: 20, repeat: 0 })
  }
  encoder.finish()
  return encoder.bytes()
}

export interface JudgingFigures {
  /** ms for all frames */
  readonly decode: number
  readonly judge: number
  readonly series: number
  readonly allPixels: number
  /** bytes */
  readonly held: number
}

/** Time of judging against decoding, and of the step series against one pass over all pixels. */
export async function measureJudging(file: Uint8Array): Promise<JudgingFigures> {
  const claims = readClaims(file)
  const side = judgedSide(FRAMES)
  const described: JudgedFrame[] = []
  let decode = 0
  let judge = 0
  let allPixels = 0
  let before: Picture | null = null
  let mark = performance.now()
  const lap = () => {
    const now = performance.now()
    const passed = now - mark
    mark = now
    return passed
  }
  for await (const picture of decodeFrames(file, claims)) {
    decode += lap()
    described.push(describeFrame(picture, side))
    judge += lap()
    if (before) plainStep(before, picture)
    before = picture
    allPixels += lap()
  }
  lap()
  seriesOf(described.map(({ overWhite }) => overWhite))
  const series = lap()
  judgeClip(described, { delaysMs: claims.delaysMs, playsForever: true })
  judge += lap()
  const held = described.reduce(
    (sum, { overWhite }) => sum + overWhite.reduce((bytes, { values }) => bytes + values.byteLength, 0),
    0,
  )
  return { decode, judge, series, allPixels, held }
}

/** Root mean square difference over all pixels of two frames, in sRGB. */
function plainStep(a: Picture, b: Picture): number {
  let sum = 0
  for (let i = 0; i < a.data.length; i += 4)
    for (let c = 0; c < 3; c++) sum += ((a.data[i + c] as number) - (b.data[i + c] as number)) ** 2
  return Math.sqrt(sum / (a.data.length / 4))
}
