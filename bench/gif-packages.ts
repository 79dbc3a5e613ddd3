import { readFileSync } from 'node:fs'
import { decompressFrames, parseGIF } from 'gifuct-js'
import * as modern from 'modern-gif'
import { GifReader, GifWriter as OmgWriter } from 'omggif'
import { PLAIN_COLOURS, paletteOf, writeGif } from '../src/codecs'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { ColourCount, type Picture, paletteMapper } from '../src/core/image'
import { renderInNode } from '../src/render/node'

/** Compares GIF packages on the demo loops: the figures in docs/dependencies.md. Run with `npm run bench:gif`. */
const time = async <T>(work: () => T | Promise<T>): Promise<[T, number]> => {
  const start = performance.now()
  const result = await work()
  return [result, performance.now() - start]
}

function meanError(frames: readonly Picture[], decoded: readonly Uint8ClampedArray[]): number {
  let sum = 0
  let count = 0
  for (const [n, { data }] of frames.entries())
    for (let i = 0; i < data.length; i += 4) {
      if ((data[i + 3] as number) < 128) continue
      for (let c = 0; c < 3; c++) sum += Math.abs((data[i + c] as number) - (decoded[n]?.[i + c] ?? 0))
      count += 3
    }
  return sum / count
}

const log = (line: string) => process.stdout.write(`${line}\n`)
log('| loop | package | encode ms | size kB | mean error of 255 |\n|---|---|--:|--:|--:|')
const files: [string, Uint8Array][] = []
for (const name of ['beacon-loader', 'boarding-buoys']) {
  const loop = parseLoop(readFileSync(new URL(`../demo/loops/${name}.cyclon.json`, import.meta.url), 'utf8'))
  const { width, height } = loop
  const transparent = loop.background === null
  const frames = Array.from({ length: loop.length }, (_, n) => renderInNode(evaluate(loop, n)))
  const colours = { ...PLAIN_COLOURS, transparent } as const
  const delaysCs = frames.map(() => 4)
  const palette = () => {
    const counted = new ColourCount()
    for (const [n, frame] of frames.entries()) if (n % 8 === 0) counted.add(frame, transparent)
    return paletteOf(counted, colours.colours)
  }

  const encoders: Record<string, () => Promise<Uint8Array> | Uint8Array> = {
    'gifenc 1.0.3': async () => {
      const draw = async (n: number) => frames[n] as Picture
      const { bytes } = await writeGif({ width, height, delaysCs, colours, draw, mostKept: 0, progress: () => {} })
      return bytes
    },
    'omggif 1.0.10 (palette of gifenc)': () => {
      const entries = palette()
      const map = paletteMapper(entries, 'none', transparent)
      const padded = Array.from({ length: 256 }, (_, i) => {
        const [r = 0, g = 0, b = 0] = entries[i] ?? []
        return (r << 16) | (g << 8) | b
      })
      const buffer = new Uint8Array(width * height * frames.length + 4096)
      const writer = new OmgWriter(buffer, width, height, { loop: 0, palette: padded })
      for (const frame of frames)
        writer.addFrame(0, 0, width, height, map(frame) as unknown as number[], {
          delay: 4,
          ...(transparent ? { transparent: 0, disposal: 2 } : {}),
        })
      return buffer.subarray(0, writer.end())
    },
    'modern-gif 2.1.0': async () =>
      new Uint8Array(
        await modern.encode({
          width,
          height,
          maxColors: 255,
          frames: frames.map(({ data }) => ({ data: data.slice(), delay: 40 })),
        }),
      ),
  }
  for (const [label, encode] of Object.entries(encoders)) {
    try {
      await encode()
      const [bytes, ms] = await time(encode)
      const decoded = modern.decodeFrames(bytes.slice()).map((frame) => frame.data)
      log(
        `| ${name} | ${label} | ${ms.toFixed(0)} | ${(bytes.length / 1000).toFixed(0)} | ${meanError(frames, decoded).toFixed(3)} |`,
      )
      if (label.startsWith('gifenc')) files.push([name, bytes])
    } catch (error) {
      log(`| ${name} | ${label} | fails in Node: ${(error as Error).message} | | |`)
    }
  }
}

log('\n| loop | package | decode ms |\n|---|---|--:|')
for (const [name, bytes] of files) {
  const decoders: Record<string, () => unknown> = {
    'gifuct-js 2.1.2': () => decompressFrames(parseGIF(bytes.slice().buffer), true).length,
    'omggif 1.0.10': () => {
      const reader = new GifReader(bytes)
      const pixels = new Uint8ClampedArray(reader.width * reader.height * 4)
      for (let n = 0; n < reader.numFrames(); n++) reader.decodeAndBlitFrameRGBA(n, pixels)
    },
    'modern-gif 2.1.0': () => modern.decodeFrames(bytes.slice()).length,
  }
  for (const [label, decode] of Object.entries(decoders)) {
    decode()
    const [, ms] = await time(decode)
    log(`| ${name} | ${label} | ${ms.toFixed(0)} |`)
  }
}
