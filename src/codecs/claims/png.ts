import { MAX_DEFLATE_RATIO } from '../unzip'
import { Bytes, ClipError, checkFrames, checkSize, type FileClaims, unbacked } from './claims'

/** A frame of an APNG: its part of the picture, and what is done with it (PNG 3rd edition, § 11.3.6.2). */
export interface PngFrame {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly delayMs: number
  /** 0: left as it is; 1: cleared; 2: back to what was there before. */
  readonly dispose: number
  /** True where it is laid over what is there instead of replacing it. */
  readonly over: boolean
  /** Compressed picture data, as IDAT chunks hold it. */
  readonly data: Uint8Array[]
}
export interface PngFile extends FileClaims {
  readonly header: Uint8Array
  /** Chunks that every picture needs: palette, transparency, colour space. */
  readonly shared: readonly { readonly type: string; readonly data: Uint8Array }[]
  readonly frames: readonly PngFrame[]
}

const SHARED = ['PLTE', 'tRNS', 'gAMA', 'cHRM', 'sRGB', 'iCCP', 'cICP', 'sBIT']

/** A PNG or APNG taken apart. A still PNG is one frame. */
export function readPng(file: Uint8Array): PngFile {
  const bytes = new Bytes(file, 'PNG')
  const width = bytes.u32be(16)
  const height = bytes.u32be(20)
  checkSize(width, height, 'PNG')
  const frames: PngFrame[] = []
  const shared: { type: string; data: Uint8Array }[] = []
  const still: Uint8Array[] = []
  const notes: string[] = []
  let plays = 1
  let claimed = 0
  let at = 8
  for (;;) {
    // Viewers do without the mark of the end, as long as everything before it is there.
    if (bytes.length - at < 12 && (still.length > 0 || frames.length > 0) && frames.length >= claimed) {
      notes.push('the mark of its end is missing')
      at = bytes.length
      break
    }
    const size = bytes.u32be(at)
    const type = bytes.text(at + 4, 4)
    if (!/^[A-Za-z]{4}$/.test(type))
      throw new ClipError(`The PNG file is damaged at byte ${at}. Fetch or export it again.`)
    if (at + 12 + size > bytes.length) throw bytes.brokenOff()
    const data = file.subarray(at + 8, at + 8 + size)
    if (type === 'acTL') {
      claimed = bytes.u32be(at + 8)
      plays = bytes.u32be(at + 12)
    } else if (type === 'fcTL') frames.push(frameOf(bytes, at + 8, width, height, frames.length))
    else if (type === 'IDAT') (frames.at(-1)?.data ?? still).push(data)
    else if (type === 'fdAT') {
      const frame = frames.at(-1)
      if (!frame || size < 4)
        throw new ClipError('The PNG file is damaged: picture data belong to no frame. Fetch or export it again.')
      frame.data.push(data.subarray(4))
    } else if (SHARED.includes(type) && frames.every(({ data: parts }) => parts.length === 0))
      shared.push({ type, data })
    at += 12 + size
    if (type === 'IEND') break
  }
  const header = file.subarray(16, 29)
  if (at < bytes.length) notes.push(`${bytes.length - at} bytes follow the end of the PNG`)
  if (claimed === 0 || frames.length === 0) {
    const whole: PngFrame = { x: 0, y: 0, width, height, delayMs: 0, dispose: 0, over: false, data: still }
    const parts = still.length > 0 ? whole : frames[0]
    if (!parts) throw new ClipError('The PNG file holds no picture. Fetch or export it again.')
    if (!isBacked(parts, header)) throw unbacked(0, width * height, 'PNG')
    return { format: 'png', width, height, delaysMs: [0], plays: 0, notes, header, shared, frames: [parts] }
  }
  checkFrames(frames.length, 'APNG')
  const empty = frames.findIndex(({ data }) => data.length === 0)
  if (empty >= 0) throw new ClipError(`Frame ${empty} of the APNG file has no picture data. Export it again.`)
  const short = frames.findIndex((frame) => !isBacked(frame, header))
  if (short >= 0) throw unbacked(short, (frames[short]?.width ?? 0) * (frames[short]?.height ?? 0), 'APNG')
  if (claimed !== frames.length) notes.push(`the file claims ${claimed} frames and holds ${frames.length}`)
  const delaysMs = frames.map(({ delayMs }) => delayMs)
  return { format: 'apng', width, height, delaysMs, plays, notes, header, shared, frames }
}

/** Samples of a pixel, by the type of its colours (PNG 3rd edition, § 11.2.1). */
const SAMPLES: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 }

/** Whether the compressed data of a frame are long enough for its rows. */
function isBacked({ width, height, data }: PngFrame, header: Uint8Array): boolean {
  const bits = (header[8] ?? 8) * (SAMPLES[header[9] ?? 6] ?? 1)
  const rows = (height * width * bits) / 8
  return rows <= MAX_DEFLATE_RATIO * data.reduce((sum, part) => sum + part.length, 0)
}

function frameOf(bytes: Bytes, at: number, width: number, height: number, n: number): PngFrame {
  const w = bytes.u32be(at + 4)
  const h = bytes.u32be(at + 8)
  const x = bytes.u32be(at + 12)
  const y = bytes.u32be(at + 16)
  if (w === 0 || h === 0 || x + w > width || y + h > height)
    throw new ClipError(
      `Frame ${n} of the APNG file lies outside its picture: the file is damaged. Fetch or export it again.`,
    )
  const num = bytes.u16be(at + 20)
  const den = bytes.u16be(at + 22)
  return {
    x,
    y,
    width: w,
    height: h,
    delayMs: (1000 * num) / (den || 100),
    dispose: bytes.u8(at + 24),
    over: bytes.u8(at + 25) === 1,
    data: [],
  }
}
