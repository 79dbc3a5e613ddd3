import type { Proof } from '@/codecs'
import { pngChunk } from '@/codecs/png-chunk'
import type { EncodeJob, Tools } from '@/codecs/write'
import { type FileFormat, fraction } from '@/core/clock'
import { newLoop } from '@/core/edit'
import type { Picture } from '@/core/image'
import { PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { ENCODERS } from '@/workers/inside/encoders'
import { prove } from '@/workers/inside/encoders/prove'
import { browserTools } from '@/workers/inside/encoders/tools'

/** Ways in which a file can be other than it was meant. */
export const FILE_FAULTS = ['none', 'drop', 'repeat', 'delay', 'once', 'blank', 'pixel'] as const
export type Fault = (typeof FILE_FAULTS)[number]

const WIDTH = 128
const HEIGHT = 96
const COUNT = 18
const RATE = fraction(25)

/** A lamp that goes round before a slope of tones; opaque. */
function lamp(n: number, blank = false): Picture {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  const turn = (2 * Math.PI * n) / COUNT
  const cx = WIDTH / 2 + 40 * Math.cos(turn)
  const cy = HEIGHT / 2 + 28 * Math.sin(turn)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const inside = !blank && Math.hypot(x - cx, y - cy) < 12
      data.set(
        inside ? [246, 184, 75, 255] : blank ? [10, 34, 49, 255] : [10 + x, 34 + y, 90, 255],
        4 * (y * WIDTH + x),
      )
    }
  return { width: WIDTH, height: HEIGHT, data }
}

/** Has a file say that it is played once: as each format says it. */
function playOnce(format: FileFormat, bytes: Uint8Array): void {
  if (format === 'gif') {
    const at = new TextDecoder('latin1').decode(bytes).indexOf('NETSCAPE2.0')
    bytes[at + 13] = 1
  }
  if (format === 'apng') {
    const at = new TextDecoder('latin1').decode(bytes).indexOf('acTL') - 4
    bytes[at + 15] = 1
    // Its check sum is worked out anew.
    bytes.set(pngChunk('acTL', bytes.slice(at + 8, at + 16)), at)
  }
  if (format === 'webp') {
    const at = new TextDecoder('latin1').decode(bytes).indexOf('ANIM') + 8 + 4
    bytes[at] = 1
  }
  if (format === 'avif') {
    // The edit no longer repeats.
    const at = new TextDecoder('latin1').decode(bytes).indexOf('elst') + 4
    bytes[at + 3] = 0
  }
}

export interface Asked {
  readonly format: FileFormat
  readonly fault: Fault
  readonly lossless: boolean
}

/** Writes a file with a fault in it, and proves it against what it should have been. */
export async function proveFaulty(
  { format, fault, lossless }: Asked,
  tools: Tools,
): Promise<Proof | { error: string }> {
  const settings = { ...withFormat(PLAIN_SETTINGS, format), lossless, quality: 95 }
  const loop = newLoop(
    { name: 'Lamp', kind: 'loader', width: WIDTH, height: HEIGHT, background: '#0a2231', rate: RATE, length: COUNT },
    'lamp',
  )
  const timing = timingIn(loop, settings)
  const job: EncodeJob = {
    loop,
    name: 'lamp',
    width: WIDTH,
    height: HEIGHT,
    timing,
    rate: RATE,
    settings,
    transparent: false,
    tools,
    mostKept: 0,
    progress: async () => {},
    draw: async (n: number) => lamp(n),
  }
  const drawn: Record<Fault, (n: number) => Picture> = {
    none: lamp,
    drop: (n) => lamp(n < 11 ? n : n + 1),
    repeat: (n) => lamp(n === 12 ? 11 : n),
    delay: lamp,
    once: lamp,
    blank: (n) => lamp(n, n === COUNT - 1),
    pixel: (n) => {
      const picture = lamp(n)
      if (n === 5) for (let i = 0; i < 4 * WIDTH * 20; i += 4) picture.data[i] = 255 - (picture.data[i] as number)
      return picture
    },
  }
  const wrong = {
    ...timing,
    frames: fault === 'drop' ? timing.frames.slice(0, -1) : timing.frames,
    delays: (fault === 'drop' ? timing.delays.slice(0, -1) : timing.delays).map((delay, n) =>
      fault === 'delay' && n >= 7 ? fraction(delay.num * 2, delay.den) : delay,
    ),
  }
  // Video says times by its rate: another one is another delay.
  const faulty = { ...job, timing: wrong, draw: async (n: number) => drawn[fault](n) }
  if (fault === 'delay' && (format === 'mp4' || format === 'webm' || format === 'avif'))
    faulty.timing = { ...wrong, delays: timing.delays.map(() => fraction(1, 20)) }
  const encoded = await ENCODERS[format](faulty)
  if (fault === 'once') playOnce(format, encoded.bytes)
  try {
    return await prove(encoded, job)
  } catch (error) {
    return { error: (error as Error).message }
  }
}

const asBase64 = (bytes: Uint8Array) => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))
const fromBase64 = (text: string) => Uint8Array.from(atob(text), (c) => c.charCodeAt(0))

Object.assign(globalThis, {
  async faultyProof(asked: Asked) {
    // The writer of WebP runs in Node, as in the application.
    const { writeStill } = globalThis as unknown as { writeStill: (png: string, how: object) => Promise<string> }
    // This bundle has no worker beside it: frames are coded here.
    const { gif: _elsewhere, ...here } = browserTools
    const tools: Tools = {
      ...here,
      webpStill: async (png, { lossless, quality, exact }) =>
        fromBase64(await writeStill(asBase64(png), { lossless, quality, exact })) as Uint8Array<ArrayBuffer>,
    }
    const proof = await proveFaulty(asked, tools)
    return 'error' in proof
      ? { failed: [`unreadable: ${proof.error}`], lines: [] }
      : { failed: proof.lines.filter(({ holds }) => !holds).map(({ what }) => what), lines: proof.lines }
  },
})
