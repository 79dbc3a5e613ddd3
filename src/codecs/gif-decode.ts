import { decompressFrame, type ParsedFrameWithoutPatch, type ParsedGif, parseGIF } from 'gifuct-js'
import { MAX_PIXELS, type Picture } from '@/core/image'

/** A GIF that cannot be read, and why. */
export class GifError extends Error {
  override readonly name = 'GifError'
  constructor(what: string) {
    super(`${what} Fetch or export it again.`)
  }
}

/** A GIF's claims; its frames are decoded one after the other as they are asked for. */
export interface DecodedGif {
  readonly width: number
  readonly height: number
  readonly delaysCs: readonly number[]
  readonly playsForever: boolean
  /** Whether the place of some frame is cleared before the next one. */
  readonly clears: boolean
  /** The frames as a viewer shows them, disposal applied. Each is a copy of its own. */
  readonly frames: () => Generator<Picture>
}

type ImageBlock = Extract<ParsedGif['frames'][number], { image: unknown }>

/**
 * Reads a GIF as viewers do. Made for the proof of files written here: headers, tables and blocks may be damaged in
 * any way, but the compressed picture data themselves go to gifuct-js as they are.
 * @throws GifError when the bytes are no GIF, break off, or claim a picture that is too large.
 */
export function decodeGif(bytes: Uint8Array): DecodedGif {
  const parsed = parse(bytes)
  const { width, height } = parsed.lsd
  const images = parsed.frames.filter((block): block is ImageBlock => 'image' in block && block.image !== undefined)
  if (images.length === 0) throw new GifError('The GIF holds no picture.')
  for (const [n, { image }] of images.entries()) {
    const { left, top, width: w, height: h } = image.descriptor
    if (w === 0 || h === 0 || left + w > width || top + h > height)
      throw new GifError(`Frame ${n} of the GIF lies outside its picture.`)
    if (image.data.minCodeSize < 1 || image.data.minCodeSize > 8)
      throw new GifError(`Frame ${n} of the GIF is damaged: code size ${image.data.minCodeSize}.`)
  }
  return {
    width,
    height,
    delaysCs: images.map(({ gce }) => (gce as ImageBlock['gce'] | undefined)?.delay ?? 0),
    playsForever: loopCount(parsed) === 0,
    clears: images.some(({ gce }) => ((gce as ImageBlock['gce'] | undefined)?.extras.disposal ?? 0) === 2),
    frames: () => composeFrames(parsed, images),
  }
}

function parse(bytes: Uint8Array): ParsedGif {
  const signature = String.fromCharCode(...bytes.subarray(0, 6))
  if (signature !== 'GIF89a' && signature !== 'GIF87a') throw new GifError('The file does not begin as a GIF does.')
  const width = (bytes[6] ?? 0) | ((bytes[7] ?? 0) << 8)
  const height = (bytes[8] ?? 0) | ((bytes[9] ?? 0) << 8)
  if (width * height === 0 || width * height > MAX_PIXELS)
    throw new GifError(`The GIF claims ${width} × ${height} px, which is not a picture that can be shown.`)
  checkBlocks(bytes)
  try {
    return parseGIF(bytes.slice().buffer)
  } catch (error) {
    throw new GifError(`The GIF is damaged: ${(error as Error).message}.`)
  }
}

/** First sub-block sizes of the extensions that GIF89a §23–26 defines; a comment's may be any. */
const EXTENSION_SIZES: Readonly<Record<number, number | null>> = { 249: 4, 255: 11, 1: 12, 254: null }

/**
 * Walks over the blocks, whose lengths the standard states (GIF89a §15–27), to the trailer: what gifuct-js parses
 * without looking is made sure of here, since it does not end on blocks that the standard does not have.
 * @throws GifError when the blocks break off or are none that the standard has.
 */
function checkBlocks(bytes: Uint8Array): void {
  const table = (packed: number) => (packed & 0x80 ? 3 << ((packed & 7) + 1) : 0)
  let at = 13 + table(bytes[10] ?? 0)
  while (at < bytes.length) {
    const block = bytes[at++]
    if (block === 0x3b) return
    if (block === 0x2c) at += 10 + table(bytes[at + 8] ?? 0)
    else if (block === 0x21) {
      const label = bytes[at++] as number
      const size = EXTENSION_SIZES[label]
      if (size === undefined || (size !== null && bytes[at] !== size))
        throw new GifError(`The GIF is damaged: an extension that GIF does not have at byte ${at - 2}.`)
      if (label === 249 && bytes[at + 5] !== 0) throw new GifError(`The GIF is damaged at byte ${at + 5}.`)
    } else throw new GifError(`The GIF is damaged: no block begins at byte ${at - 1}.`)
    while (at < bytes.length && bytes[at] !== 0) at += (bytes[at] as number) + 1
    at++
  }
  throw new GifError('The GIF breaks off before its end.')
}

/** How often the file asks to be repeated, 0 being for ever; null where it does not ask. */
function loopCount(parsed: ParsedGif): number | null {
  for (const block of parsed.frames)
    if ('application' in block && block.application?.id.startsWith('NETSCAPE2.0')) {
      const [id, low, high] = block.application.blocks
      if (id === 1 && low !== undefined && high !== undefined) return low | (high << 8)
    }
  return null
}

/** Colours as words, red the least; black where the table ends before an index, 0 for what is not drawn. */
function wordsOfTable(table: ParsedFrameWithoutPatch['colorTable'], transparentIndex: number | undefined): Int32Array {
  const words = new Int32Array(256).fill(0xff000000)
  for (const [i, [r, g, b]] of table.entries()) words[i] = 0xff000000 | (b << 16) | (g << 8) | r
  if (transparentIndex !== undefined) words[transparentIndex] = 0
  return words
}

function* composeFrames(parsed: ParsedGif, images: readonly ImageBlock[]): Generator<Picture> {
  const { width, height } = parsed.lsd
  const canvas = new Int32Array(width * height)
  for (const [n, image] of images.entries()) {
    let frame: ParsedFrameWithoutPatch
    let words: Int32Array
    try {
      frame = decompressFrame(image, parsed.gct, false)
      words = wordsOfTable(frame.colorTable, frame.transparentIndex)
    } catch (error) {
      throw new GifError(`Frame ${n} of the GIF is damaged: ${(error as Error).message}.`)
    }
    const { pixels, disposalType, dims } = frame
    const before = disposalType === 3 ? canvas.slice() : null
    for (let y = 0, i = 0; y < dims.height; y++)
      for (let x = 0, to = (dims.top + y) * width + dims.left; x < dims.width; x++, i++, to++) {
        const word = words[pixels[i] as number] as number
        if (word !== 0) canvas[to] = word
      }
    yield { width, height, data: new Uint8ClampedArray(canvas.slice().buffer) }
    if (before) canvas.set(before)
    else if (disposalType === 2)
      for (let y = dims.top; y < dims.top + dims.height; y++)
        canvas.fill(0, y * width + dims.left, y * width + dims.left + dims.width)
  }
}
