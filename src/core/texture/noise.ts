import { modulo } from '../modulo'
import { hash } from '../random'

/** A field of numbers over a tile, row by row: what lies at its right edge goes on at its left, and below above. */
export interface Field {
  readonly width: number
  readonly height: number
  readonly data: Float32Array
}

export const emptyField = (width: number, height: number): Field => ({
  width,
  height,
  data: new Float32Array(width * height),
})

/** How a lattice of gradients lies over a tile: whole numbers of cells, so that it wraps; `steps` of them in time. */
export interface Lattice {
  readonly cellsX: number
  readonly cellsY: number
  readonly steps: number
  readonly seed: number
}

/** 6t⁵ − 15t⁴ + 10t³: no kink in value, slope or bend where cells meet (Perlin 2002). */
const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10)

/** The twelve directions to the middles of a cube's edges (Perlin 2002). */
const GRADIENTS = [
  [1, 1, 0],
  [-1, 1, 0],
  [1, -1, 0],
  [-1, -1, 0],
  [1, 0, 1],
  [-1, 0, 1],
  [1, 0, -1],
  [-1, 0, -1],
  [0, 1, 1],
  [0, -1, 1],
  [0, 1, -1],
  [0, -1, -1],
] as const

const gradientAt = (i: number, j: number, k: number, { cellsX, cellsY, steps, seed }: Lattice) =>
  GRADIENTS[hash(seed, modulo(i, cellsX), modulo(j, cellsY), modulo(k, steps)) % 12]

const mix = (a: number, b: number, t: number): number => a + t * (b - a)

/**
 * Gradient noise at one place (Perlin 2002) on a lattice whose indices wrap: about −1 … 1.
 * @param u, v shares of the tile
 * @param time in cycles, each of `steps` cells
 */
export function noiseAt(u: number, v: number, time: number, lattice: Lattice): number {
  const x = u * lattice.cellsX
  const y = v * lattice.cellsY
  const z = time * lattice.steps
  const i = Math.floor(x)
  const j = Math.floor(y)
  const k = Math.floor(z)
  const fx = x - i
  const fy = y - j
  const fz = z - k
  const corner = (a: number, b: number, c: number) => {
    const [gx, gy, gz] = gradientAt(i + a, j + b, k + c, lattice)
    return gx * (fx - a) + gy * (fy - b) + gz * (fz - c)
  }
  const row = (b: number, c: number) => mix(corner(0, b, c), corner(1, b, c), fade(fx))
  const plane = (c: number) => mix(row(0, c), row(1, c), fade(fy))
  return mix(plane(0), plane(1), fade(fz))
}

/** Where the pixels of one side of a tile lie on a lattice: cell, place in it, and its fade. */
function along(pixels: number, cells: number) {
  const at = new Int32Array(pixels)
  const place = new Float32Array(pixels)
  const faded = new Float32Array(pixels)
  for (let p = 0; p < pixels; p++) {
    const x = (p / pixels) * cells
    const cell = Math.min(cells - 1, Math.floor(x))
    at[p] = cell
    place[p] = x - cell
    faded[p] = fade(x - cell)
  }
  return { at, place, faded }
}

/**
 * Gradients of a lattice at one moment: at a fixed time the noise around a corner is a plane, so a third dimension
 * costs no more than a second one.
 */
function planesAt(time: number, lattice: Lattice) {
  const { cellsX, cellsY, steps } = lattice
  const z = time * steps
  const k = Math.floor(z)
  const f = z - k
  const w = fade(f)
  const [height, slopeX, slopeY] = [0, 0, 0].map(() => new Float32Array(cellsX * cellsY)) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ]
  for (let j = 0; j < cellsY; j++)
    for (let i = 0; i < cellsX; i++) {
      const [ax, ay, az] = gradientAt(i, j, k, lattice)
      const [bx, by, bz] = gradientAt(i, j, k + 1, lattice)
      const at = j * cellsX + i
      height[at] = mix(az * f, bz * (f - 1), w)
      slopeX[at] = mix(ax, bx, w)
      slopeY[at] = mix(ay, by, w)
    }
  return { height, slopeX, slopeY }
}

/** Adds `amount` times the noise to every place of a field. The values equal those of noiseAt, many times as fast. */
export function addNoise(field: Field, time: number, lattice: Lattice, amount: number, shape = Plain): void {
  const { width, height, data } = field
  const { cellsX, cellsY } = lattice
  const columns = along(width, cellsX)
  const rows = along(height, cellsY)
  const { height: base, slopeX, slopeY } = planesAt(time, lattice)
  const { place, faded } = columns
  for (let y = 0; y < height; y++) {
    const j = rows.at[y]
    const top = j * cellsX
    const bottom = (j + 1 === cellsY ? 0 : j + 1) * cellsX
    const fy = rows.place[y]
    const wy = rows.faded[y]
    const row = y * width
    for (let x = 0; x < width; ) {
      // Along a row of one cell the noise of each corner is a straight line.
      const i = columns.at[x]
      const next = i + 1 === cellsX ? 0 : i + 1
      const a = top + i
      const b = top + next
      const c = bottom + i
      const d = bottom + next
      const sa = slopeX[a]
      const sb = slopeX[b]
      const sc = slopeX[c]
      const sd = slopeX[d]
      const ka = base[a] + slopeY[a] * fy
      const kb = base[b] + slopeY[b] * fy - sb
      const kc = base[c] + slopeY[c] * (fy - 1)
      const kd = base[d] + slopeY[d] * (fy - 1) - sd
      // The two rows of corners mixed by how far down the pixel lies.
      const left = ka + wy * (kc - ka)
      const leftSlope = sa + wy * (sc - sa)
      const right = kb + wy * (kd - kb)
      const rightSlope = sb + wy * (sd - sb)
      for (; x < width && columns.at[x] === i; x++) {
        const fx = place[x]
        const near = left + leftSlope * fx
        const noise = near + faded[x] * (right + rightSlope * fx - near)
        const at = row + x
        data[at] += amount * (shape === Plain ? noise : 1 - 2 * Math.abs(noise))
      }
    }
  }
}

/** As noise is, or folded at its middle: creases where it changes its sign. */
export const Plain = 0
export const Folded = 1

/** A field at any place, between its pixels (linear), wrapping. */
export function sampled({ width, height, data }: Field, x: number, y: number): number {
  const i = Math.floor(x)
  const j = Math.floor(y)
  const fx = x - i
  const fy = y - j
  const x0 = modulo(i, width)
  const x1 = modulo(i + 1, width)
  const y0 = modulo(j, height) * width
  const y1 = modulo(j + 1, height) * width
  return mix(mix(data[y0 + x0], data[y0 + x1], fx), mix(data[y1 + x0], data[y1 + x1], fx), fy)
}
