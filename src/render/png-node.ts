import { PNG } from 'pngjs'
import type { Picture } from '@/core/image'
import type { Box } from '@/core/path'

/** How a picture is put into a PNG file. */
export interface PngOptions {
  /** The part of the picture that is meant; all of it where this is left out. */
  readonly part?: Box
  /** True to write without alpha; worked out from the picture if left out. */
  readonly opaque?: boolean
  /** The colour, 0xRRGGBB, that is written in place of clear pixels, so that there is no alpha. */
  readonly clearAs?: number
  /** True for a file that is read again at once, whose size does not matter. */
  readonly passing?: boolean
}

/** Filters of PNG (3rd edition, § 9.2) that win: none for flat drawings, the difference to the left for gradients. */
const FILTERS = [0, 1] as const
/** Rows by which the filter is chosen. */
const TRIED_ROWS = 48

const isOpaque = (rgba: Uint8Array): boolean => {
  for (let i = 3; i < rgba.length; i += 4) if (rgba[i] !== 255) return false
  return true
}

function cut({ width, data }: Picture, part: Box): Buffer {
  const rgba = Buffer.alloc(part.width * part.height * 4)
  for (let y = 0; y < part.height; y++) {
    const from = 4 * ((part.y + y) * width + part.x)
    rgba.set(data.subarray(from, from + 4 * part.width), 4 * y * part.width)
  }
  return rgba
}

function packed(rgba: Buffer, width: number, height: number, colourType: 2 | 6, filter: number, level: number): Buffer {
  const png = new PNG({ width, height })
  png.data = rgba
  const options = { colorType: colourType, inputColorType: 6, filterType: filter, deflateLevel: level } as const
  return PNG.sync.write(png, { ...options, deflateStrategy: 0 })
}

/**
 * A picture, or a part of it, as a PNG file: without alpha where it is opaque, by the filter that packs the rows in its middle
 * best, and packed as tightly as zlib can.
 */
export async function pngInNode(
  picture: Picture,
  { part, opaque, clearAs, passing }: PngOptions = {},
): Promise<Uint8Array<ArrayBuffer>> {
  const { x, y, width, height } = part ?? { x: 0, y: 0, width: picture.width, height: picture.height }
  const rgba = cut(picture, { x, y, width, height })
  if (clearAs !== undefined)
    for (let i = 0; i < rgba.length; i += 4) if (rgba[i + 3] === 0) rgba.writeUInt32BE(((clearAs << 8) | 255) >>> 0, i)
  const colourType = clearAs !== undefined || (opaque ?? isOpaque(rgba)) ? 2 : 6
  if (passing) return new Uint8Array(packed(rgba, width, height, colourType, 0, 1))
  const rows = Math.min(TRIED_ROWS, height)
  const from = 4 * width * ((height - rows) >> 1)
  const middle = rgba.subarray(from, from + 4 * width * rows)
  const sizes = FILTERS.map((filter) => packed(middle, width, rows, colourType, filter, 6).length)
  const best = FILTERS[sizes.indexOf(Math.min(...sizes))] ?? 0
  return new Uint8Array(packed(rgba, width, height, colourType, best, 9))
}
