import type { Picture } from '../image'
import { modulo } from '../modulo'
import { addNoise, emptyField, type Field } from '../texture'
import type { Edges } from './blur'
import { lumaAt } from './colours'
import { wholeCounts } from './whole-counts'

/** How far the pixels of a row are taken from, px across and down: out(p) = in(p + shift(p)). Not moved unless said. */
export type Shift = (y: number, across: Float32Array, down: Float32Array) => void

/** A picture whose pixels are taken from elsewhere in it, mixed between pixels (linear). */
export function displaced(picture: Picture, shift: Shift, edges: Edges): Picture {
  const { width, height, data } = picture
  const out = new Uint8ClampedArray(data.length)
  const across = new Float32Array(width)
  const down = new Float32Array(width)
  const wraps = edges === 'wrap'
  for (let y = 0; y < height; y++) {
    shift(y, across, down)
    for (let x = 0; x < width; x++) {
      const px = x + across[x]
      const py = y + down[x]
      const at = 4 * (y * width + x)
      let i = Math.floor(px)
      let j = Math.floor(py)
      const u = px - i
      const v = py - j
      let right = i + 1
      let below = j + 1
      if (wraps) {
        i = modulo(i, width)
        j = modulo(j, height)
        right = i + 1 === width ? 0 : i + 1
        below = j + 1 === height ? 0 : j + 1
      } else {
        i = i < 0 ? 0 : i >= width ? width - 1 : i
        j = j < 0 ? 0 : j >= height ? height - 1 : j
        right = right < 0 ? 0 : right >= width ? width - 1 : right
        below = below < 0 ? 0 : below >= height ? height - 1 : below
      }
      const a = 4 * (j * width + i)
      const b = 4 * (j * width + right)
      const c = 4 * (below * width + i)
      const d = 4 * (below * width + right)
      // Most of what is displaced is clear.
      if (!data[a + 3] && !data[b + 3] && !data[c + 3] && !data[d + 3]) continue
      const wa = (1 - u) * (1 - v) * data[a + 3]
      const wb = u * (1 - v) * data[b + 3]
      const wc = (1 - u) * v * data[c + 3]
      const wd = u * v * data[d + 3]
      const alpha = wa + wb + wc + wd
      if (alpha <= 0) continue
      const gain = 1 / alpha
      for (let k = 0; k < 3; k++)
        out[at + k] = (wa * data[a + k] + wb * data[b + k] + wc * data[c + k] + wd * data[d + k]) * gain
      out[at + 3] = alpha
    }
  }
  return { width, height, data: out }
}

export interface Bend {
  /** px: how far pixels are moved at the most. */
  readonly amount: number
  /** px: the length of a wave, the size of a bend. */
  readonly size: number
  /** Radians: the direction in which they are moved. */
  readonly angle: number
  /** In cycles: whole ones look the same. */
  readonly time: number
  readonly seed: number
  /** px */
  readonly centre: { readonly x: number; readonly y: number }
}

const TURN = 2 * Math.PI
/** How many bends of a size fit along a side: at least one; where that is not whole, two whole numbers are mixed. */
const fitted = (side: number, size: number) => Math.max(1, side / Math.max(1, size))

/** A shift that needs whole numbers along both sides, of numbers that may lie between: it goes over from one whole number to the next. */
function betweenCounts(across: number, down: number, shiftOf: (across: number, down: number) => Shift): Shift {
  const shifts = wholeCounts(across).flatMap((x) =>
    wholeCounts(down).map((y) => ({ share: x.share * y.share, shift: shiftOf(x.count, y.count) })),
  )
  const [only] = shifts
  if (only && shifts.length === 1) return only.shift
  return (y, xs, ys) => {
    const sumX = new Float32Array(xs.length)
    const sumY = new Float32Array(ys.length)
    for (const { share, shift } of shifts) {
      xs.fill(0)
      ys.fill(0)
      shift(y, xs, ys)
      for (let x = 0; x < xs.length; x++) {
        sumX[x] += share * xs[x]
        sumY[x] += share * ys[x]
      }
    }
    xs.set(sumX)
    ys.set(sumY)
  }
}

/** Waves that run down the picture and move it across, turned by the angle in the direction of the moving; a whole number fits. */
export function waves(width: number, height: number, { amount, size, angle, time }: Bend): Shift {
  const dx = Math.cos(angle) * amount
  const dy = Math.sin(angle) * amount
  // They run square to the direction in which they move.
  const sidewards = (width / Math.max(1, size)) * Math.sin(angle)
  const upwards = (height / Math.max(1, size)) * Math.cos(angle)
  return betweenCounts(sidewards, upwards, (kx, ky) => {
    const still = kx === 0 && ky === 0
    return (y, across, down) => {
      for (let x = 0; x < width; x++) {
        const wave = Math.sin(TURN * ((kx * x) / width + ((still ? 1 : ky) * y) / height - time))
        across[x] = dx * wave
        down[x] = dy * wave
      }
    }
  })
}

/** A swirl about the centre: turned by the angle there, not at all `size` away; it sways with time. */
export function swirl({ size, angle, time, centre }: Bend): Shift {
  const most = angle * Math.cos(TURN * time)
  const reach = Math.max(1, size)
  return (y, across, down) => {
    const dy = y + 0.5 - centre.y
    for (let x = 0; x < across.length; x++) {
      const dx = x + 0.5 - centre.x
      const away = Math.sqrt(dx * dx + dy * dy) / reach
      if (away >= 1) {
        across[x] = 0
        down[x] = 0
        continue
      }
      const turn = most * (1 - away) * (1 - away)
      const cos = Math.cos(turn)
      const sin = Math.sin(turn)
      across[x] = dx * cos - dy * sin - dx
      down[x] = dx * sin + dy * cos - dy
    }
  }
}

/** Smooth fields are computed at this fraction of their size. */
const COARSE = 4
/** Changes of a bend in a cycle of its time. */
const STEPS = 2

/** Noise over a tile, about −1 … 1, computed coarse where it is smooth. */
function noise(width: number, height: number, cellsX: number, cellsY: number, time: number, seed: number): Field {
  const fine = (side: number, cells: number) =>
    Math.max(1, Math.min(side, Math.max(8 * cells, Math.ceil(side / COARSE))))
  const field = emptyField(fine(width, cellsX), fine(height, cellsY))
  addNoise(field, time, { cellsX, cellsY, steps: STEPS, seed }, 1)
  return field
}

/** A row of a field at a height, from a place on, as wide as it is to be filled: linear between its pixels, wrapping. */
function rowOf(field: Field, from: number, v: number, gain: number, into: Float32Array): void {
  const row = Math.floor(v)
  const below = v - row
  const { width, height, data } = field
  const top = modulo(row, height) * width
  const bottom = modulo(row + 1, height) * width
  const line = new Float32Array(width + 1)
  for (let i = 0; i <= width; i++) {
    const at = i === width ? 0 : i
    line[i] = gain * (data[top + at] * (1 - below) + data[bottom + at] * below)
  }
  const step = width / into.length
  for (let x = 0; x < into.length; x++) {
    const u = (from + x * step) % width
    const i = Math.floor(u)
    const left = line[i]
    into[x] = left + (u - i) * (line[i + 1] - left)
  }
}

/** Hot air: flat bends that rise by whole tiles and change on their way. */
export function heatHaze(width: number, height: number, { amount, size, time, seed }: Bend): Shift {
  return betweenCounts(fitted(width, size), fitted(height, size / 2), (cellsX, cellsY) => {
    const field = noise(width, height, cellsX, cellsY, time, seed)
    return (y, across, down) => {
      const v = (y / height + time) * field.height
      rowOf(field, 0, v, amount, across)
      rowOf(field, field.width / 2, v + field.height / 3, 0.35 * amount, down)
    }
  })
}

/** Bends as of glass or water, which change with time. */
export function cloudy(width: number, height: number, { amount, size, time, seed }: Bend): Shift {
  return betweenCounts(fitted(width, size), fitted(height, size), (cellsX, cellsY) => {
    const sideways = noise(width, height, cellsX, cellsY, time, seed)
    const upwards = noise(width, height, cellsX, cellsY, time, seed + 6101)
    return (y, across, down) => {
      const v = (y / height) * sideways.height
      rowOf(sideways, 0, v, amount, across)
      rowOf(upwards, 0, v, amount, down)
    }
  })
}

/** By the brightness of a map of the same size, along the angle: out(p) = in(p + a·(m(p) − ½)); where the map is clear, nothing moves. */
export function byMap({ data, width }: Picture, { amount, angle }: Bend): Shift {
  const dx = Math.cos(angle) * amount
  const dy = Math.sin(angle) * amount
  return (y, across, down) => {
    for (let x = 0; x < width; x++) {
      const i = 4 * (y * width + x)
      const share = (lumaAt(data, i) / 255 - 0.5) * (data[i + 3] / 255)
      across[x] = dx * share
      down[x] = dy * share
    }
  }
}
