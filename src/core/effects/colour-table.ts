import type { Picture } from '../image'

/** A table of colours: what colours of red, green and blue become, `size` steps of each; red runs fastest. */
export interface ColourTable {
  readonly size: number
  /** 0 … 1, three to a colour. */
  readonly data: Float32Array
}

/** Sides of tables that are read: below there is nothing to mix between, above they are larger than any in use. */
const MIN_TABLE_SIZE = 2
export const MAX_TABLE_SIZE = 65

/** A `.cube` file cannot be used; the message says why and what can be done. */
export class ColourTableError extends Error {
  override readonly name = 'ColourTableError'
}

const NUMBER = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i

function three(words: readonly string[], line: number): [number, number, number] {
  if (words.length !== 3 || !words.every((word) => NUMBER.test(word)))
    throw new ColourTableError(
      `Line ${line} of the table is “${words.join(' ').slice(0, 40)}”; three numbers such as 0.5 0.5 0.5 are expected there.`,
    )
  return words.map(Number) as [number, number, number]
}

/**
 * Reads a table of colours from the text of a `.cube` file (Cube LUT Specification 1.0): one of three dimensions, or one of one
 * dimension, which is spread to three. @throws ColourTableError
 */
export function readColourTable(text: string): ColourTable {
  let size = 0
  let dimensions = 0
  let [low, high]: [readonly number[], readonly number[]] = [
    [0, 0, 0],
    [1, 1, 1],
  ]
  const rows: number[] = []
  let wanted = 0
  for (const [n, whole] of text.split(/\r\n|\r|\n/).entries()) {
    const line = whole.trim()
    if (line === '' || line.startsWith('#')) continue
    const words = line.split(/\s+/)
    const [key = '', ...rest] = words
    if (key === 'TITLE') continue
    if (key === 'DOMAIN_MIN') low = three(rest, n + 1)
    else if (key === 'DOMAIN_MAX') high = three(rest, n + 1)
    else if (key === 'LUT_3D_SIZE' || key === 'LUT_1D_SIZE') {
      dimensions = key === 'LUT_3D_SIZE' ? 3 : 1
      size = Number(rest[0])
      const most = dimensions === 3 ? MAX_TABLE_SIZE : 65536
      if (!Number.isInteger(size) || size < MIN_TABLE_SIZE || size > most)
        throw new ColourTableError(
          `The table says that it has ${rest[0] ?? 'no number of'} steps; from ${MIN_TABLE_SIZE} to ${most} can be read.`,
        )
      wanted = dimensions === 3 ? size ** 3 : size
    } else if (/^[A-Z_0-9]+$/.test(key) && /[A-Z]/.test(key)) continue
    else {
      if (dimensions === 0)
        throw new ColourTableError(
          'The file has numbers before it says how many: a line such as LUT_3D_SIZE 17 is missing. It may not be a .cube file.',
        )
      if (rows.length >= 3 * wanted)
        throw new ColourTableError(`The table holds more than the ${wanted} colours that it says it has.`)
      rows.push(...three(words, n + 1))
    }
  }
  if (dimensions === 0)
    throw new ColourTableError(
      'The file says nowhere how large its table is (LUT_3D_SIZE). It may not be a .cube file.',
    )
  if (rows.length < 3 * wanted)
    throw new ColourTableError(
      `The table breaks off: it says that it has ${wanted} colours and holds ${rows.length / 3}. Bring in the whole file.`,
    )
  if (low.some((value, c) => !(high[c] > value)))
    throw new ColourTableError('The table says that it begins above where it ends (DOMAIN_MIN, DOMAIN_MAX).')
  const own = dimensions === 3 ? { size, data: Float32Array.from(rows) } : spreadOf(rows, size)
  return low.every((value) => value === 0) && high.every((value) => value === 1) ? own : overWhole(own, low, high)
}

const STEPS_OF_SPREAD = 33

/** A table of one dimension as one of three. */
function spreadOf(rows: readonly number[], size: number): ColourTable {
  const at = (share: number, c: number) => {
    const place = share * (size - 1)
    const i = Math.min(size - 2, Math.floor(place))
    const a = rows[3 * i + c]
    const b = rows[3 * i + 3 + c]
    return a + (b - a) * (place - i)
  }
  return tableOf(STEPS_OF_SPREAD, (rgb) => rgb.map((share, c) => at(share, c)))
}

/** A table for another range as one for 0 … 1; beyond its range colours stay as at its edge. */
const overWhole = (table: ColourTable, low: readonly number[], high: readonly number[]): ColourTable =>
  tableOf(Math.max(table.size, STEPS_OF_SPREAD), (rgb) => {
    const into = [0, 0, 0]
    const [r, g, b] = rgb.map((share, c) => {
      const least = low[c]
      const most = high[c]
      return Math.min(1, Math.max(0, (share - least) / (most - least)))
    }) as [number, number, number]
    lookUp(table, r, g, b, into)
    return into
  })

/** A table by what its colours become. */
export function tableOf(size: number, become: (rgb: readonly number[]) => readonly number[]): ColourTable {
  const data = new Float32Array(3 * size ** 3)
  let at = 0
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) {
        const colour = become([r / (size - 1), g / (size - 1), b / (size - 1)])
        for (let c = 0; c < 3; c++) data[at++] = colour[c]
      }
  return { size, data }
}

/** Looks up a colour between the grid points of a table, by tetrahedral interpolation as in colour management. */
function lookUp({ size, data }: ColourTable, r: number, g: number, b: number, into: number[]): void {
  const last = size - 1
  const x = r * last
  const y = g * last
  const z = b * last
  const i = Math.min(last - 1, x | 0)
  const j = Math.min(last - 1, y | 0)
  const k = Math.min(last - 1, z | 0)
  const u = x - i
  const v = y - j
  const w = z - k
  const right = 3
  const below = 3 * size
  const behind = 3 * size * size
  const first = i * right + j * below + k * behind
  // From one corner of the cell to the opposite one: along the axis that goes farthest, then the second, then the third.
  const firstAxis = u >= v ? (u >= w ? right : behind) : w > v ? behind : below
  const lastAxis = u >= v ? (v >= w ? behind : below) : w > u ? right : behind
  const far = Math.max(u, v, w)
  const middle = Math.max(Math.min(u, v), Math.min(Math.max(u, v), w))
  const near = Math.min(u, v, w)
  const opposite = first + right + below + behind
  const one = first + firstAxis
  const two = opposite - lastAxis
  for (let c = 0; c < 3; c++) {
    const start = data[first + c]
    const p = data[one + c]
    const q = data[two + c]
    into[c] = start + far * (p - start) + middle * (q - p) + near * (data[opposite + c] - q)
  }
}

/** A picture whose colours are looked up in a table. */
export function throughTable(picture: Picture, table: ColourTable): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const into = [0, 0, 0]
  for (let i = 0; i < data.length; i += 4) {
    lookUp(table, data[i] / 255, data[i + 1] / 255, data[i + 2] / 255, into)
    for (let c = 0; c < 3; c++) data[i + c] = 255 * into[c]
  }
  return { width, height, data }
}

/** A table as a picture: its slices of blue one below the other, so that it is kept, sent and decoded as pictures are. */
export function pictureOfTable({ size, data }: ColourTable): Picture {
  const out = new Uint8ClampedArray(4 * size ** 3)
  for (let i = 0; i < size ** 3; i++) {
    for (let c = 0; c < 3; c++) out[4 * i + c] = 255 * data[3 * i + c]
    out[4 * i + 3] = 255
  }
  return { width: size, height: size * size, data: out }
}

/** The table that a picture is; null where it is none. */
export function tableOfPicture({ width, height, data }: Picture): ColourTable | null {
  if (width < MIN_TABLE_SIZE || width > MAX_TABLE_SIZE || height !== width * width) return null
  const table = new Float32Array(3 * width ** 3)
  for (let i = 0; i < width ** 3; i++) for (let c = 0; c < 3; c++) table[3 * i + c] = data[4 * i + c] / 255
  return { size: width, data: table }
}
