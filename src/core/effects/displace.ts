import type { Picture } from '../image'
import { addNoise, emptyField, type Field, sampled } from '../texture'
import type { Edges } from './blur'

/** How far each pixel is taken from, px across and down: out(p) = in(p + shift(p)). */
export type Shift = (x: number, y: number, into: Float32Array) => void

/** A picture whose pixels are taken from elsewhere in it, mixed between pixels (linear). */
export function displaced(picture: Picture, shift: Shift, edges: Edges): Picture {
  const { width, height, data } = picture
  const out = new Uint8ClampedArray(data.length)
  const by = new Float32Array(2)
  const wraps = edges === 'wrap'
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      shift(x, y, by)
      const [px, py] = [x + (by[0] as number), y + (by[1] as number)]
      const at = 4 * (y * width + x)
      let [i, j] = [Math.floor(px), Math.floor(py)]
      const [u, v] = [px - i, py - j]
      let [right, below] = [i + 1, j + 1]
      if (wraps) {
        i = ((i % width) + width) % width
        j = ((j % height) + height) % height
        right = i + 1 === width ? 0 : i + 1
        below = j + 1 === height ? 0 : j + 1
      } else {
        i = i < 0 ? 0 : i >= width ? width - 1 : i
        j = j < 0 ? 0 : j >= height ? height - 1 : j
        right = right < 0 ? 0 : right >= width ? width - 1 : right
        below = below < 0 ? 0 : below >= height ? height - 1 : below
      }
      const [a, b] = [4 * (j * width + i), 4 * (j * width + right)]
      const [c, d] = [4 * (below * width + i), 4 * (below * width + right)]
      const wa = (1 - u) * (1 - v) * (data[a + 3] as number)
      const wb = u * (1 - v) * (data[b + 3] as number)
      const wc = (1 - u) * v * (data[c + 3] as number)
      const wd = u * v * (data[d + 3] as number)
      const alpha = wa + wb + wc + wd
      if (alpha <= 0) continue
      const gain = 1 / alpha
      for (let k = 0; k < 3; k++)
        out[at + k] =
          (wa * (data[a + k] as number) +
            wb * (data[b + k] as number) +
            wc * (data[c + k] as number) +
            wd * (data[d + k] as number)) *
          gain
      out[at + 3] = alpha
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
const fitted = (side: number, size: number) => Math.max(1, Math.round(side / Math.max(1, size)))

/** Waves that run down the picture and move it across, turned by the angle in the direction of the moving; a whole number fits. */
export function waves(width: number, height: number, { amount, size, angle, time }: Bend): Shift {
  const [dx, dy] = [Math.cos(angle) * amount, Math.sin(angle) * amount]
  // They run square to the direction in which they move.
  const [kx, ky] = [
    Math.round((width / Math.max(1, size)) * Math.sin(angle)),
    Math.round((height / Math.max(1, size)) * Math.cos(angle)),
  ]
  const still = kx === 0 && ky === 0
  return (x, y, into) => {
    const wave = Math.sin(TURN * ((kx * x) / width + ((still ? 1 : ky) * y) / height - time))
    into[0] = dx * wave
    into[1] = dy * wave
  }
}

/** A swirl about the centre: turned by the angle there, not at all `size` away; it sways with time. */
export function swirl({ size, angle, time, centre }: Bend): Shift {
  const most = angle * Math.cos(TURN * time)
  return (x, y, into) => {
    const [dx, dy] = [x + 0.5 - centre.x, y + 0.5 - centre.y]
    const away = Math.hypot(dx, dy) / Math.max(1, size)
    if (away >= 1) {
      into[0] = 0
      into[1] = 0
      return
    }
    const turn = most * (1 - away) * (1 - away)
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
    into[0] = dx * cos - dy * sin - dx
    into[1] = dx * sin + dy * cos - dy
  }
}

/** So many times coarser smooth fields are computed than they are used. */
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

/** Hot air: flat bends that rise by whole tiles and change on their way. */
export function heatHaze(width: number, height: number, { amount, size, time, seed }: Bend): Shift {
  const field = noise(width, height, fitted(width, size), fitted(height, size / 2), time, seed)
  return (x, y, into) => {
    const [u, v] = [(x / width) * field.width, (y / height + time) * field.height]
    into[0] = amount * sampled(field, u, v)
    into[1] = 0.35 * amount * sampled(field, u + field.width / 2, v + field.height / 3)
  }
}

/** Bends as of glass or water, which change with time. */
export function cloudy(width: number, height: number, { amount, size, time, seed }: Bend): Shift {
  const cells = [fitted(width, size), fitted(height, size)] as const
  const across = noise(width, height, ...cells, time, seed)
  const down = noise(width, height, ...cells, time, seed + 6101)
  return (x, y, into) => {
    const [u, v] = [(x / width) * across.width, (y / height) * across.height]
    into[0] = amount * sampled(across, u, v)
    into[1] = amount * sampled(down, u, v)
  }
}

/** By the brightness of a map of the same size, along the angle: out(p) = in(p + a·(m(p) − ½)); where the map is clear, nothing moves. */
export function byMap({ data, width }: Picture, { amount, angle }: Bend): Shift {
  const [dx, dy] = [Math.cos(angle) * amount, Math.sin(angle) * amount]
  return (x, y, into) => {
    const i = 4 * (y * width + x)
    const luma = 0.2126 * (data[i] as number) + 0.7152 * (data[i + 1] as number) + 0.0722 * (data[i + 2] as number)
    const share = (luma / 255 - 0.5) * ((data[i + 3] as number) / 255)
    into[0] = dx * share
    into[1] = dy * share
  }
}
