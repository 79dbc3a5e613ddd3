import { modulo } from '../modulo'
import { seeded } from '../random'
import { addNoise, emptyField, type Field, Folded, type Lattice, Plain, sampled } from './noise'

/** Parameters of a texture's shape at one moment; everything wraps in x, y and time by construction. */
export interface TextureShape {
  /** Features across and down the tile: whole, so that it tiles. */
  readonly cellsX: number
  readonly cellsY: number
  readonly octaves: number
  /** How much of each octave the next, finer one has, 0 … 1. */
  readonly roughness: number
  /** How far the texture is bent by noise, in features. */
  readonly warp: number
  /** How often it changes in a cycle of its time: whole, so that it comes home. */
  readonly steps: number
  readonly seed: number
  /** In cycles. */
  readonly time: number
}

/** A look of texture: numbers about 0 … 1 over a tile of a size in pixels. */
export interface TextureLook {
  readonly look: string
  readonly label: string
  readonly field: (shape: TextureShape, width: number, height: number) => Field
}

const TURN = 2 * Math.PI

const octaveOf = ({ cellsX, cellsY, steps, seed }: TextureShape, octave: number): Lattice => ({
  cellsX: cellsX * 2 ** octave,
  cellsY: cellsY * 2 ** octave,
  // Finer parts live faster, by whole numbers.
  steps: steps * (octave + 1),
  seed: seed + 101 * octave,
})

/** Octaves of noise over each other, in all about −1 … 1. Those that are finer than pixels are left out. */
function octavesOf(shape: TextureShape, width: number, height: number, kind = Plain): Field {
  const field = emptyField(width, height)
  const { octaves, roughness } = shape
  let whole = 0
  for (let octave = 0; octave < octaves; octave++) whole += roughness ** octave
  for (let octave = 0; octave < octaves; octave++) {
    const lattice = octaveOf(shape, octave)
    if (octave > 0 && (2 * lattice.cellsX > width || 2 * lattice.cellsY > height)) break
    addNoise(field, shape.time, lattice, roughness ** octave / whole, kind)
  }
  return field
}

/** A field displaced by two others (domain warp). */
function bent(field: Field, shape: TextureShape): Field {
  const { width, height } = field
  const { cellsX, cellsY, steps, seed, time, warp } = shape
  if (warp === 0) return field
  const across = emptyField(width, height)
  const down = emptyField(width, height)
  addNoise(across, time, { cellsX, cellsY, steps, seed: seed + 7919 }, (warp * width) / cellsX)
  addNoise(down, time, { cellsX, cellsY, steps, seed: seed + 6101 }, (warp * height) / cellsY)
  const out = emptyField(width, height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x
      out.data[at] = sampled(field, x + across.data[at], y + down.data[at])
    }
  return out
}

function mapped(field: Field, to: (value: number, x: number, y: number) => number): Field {
  const { width, height, data } = field
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * width + x] = to(data[y * width + x], x, y)
  return field
}

/** Noise is seldom further from its middle than this: stretched so that the whole range is used. */
const REACH = 1.6

const clouds: TextureLook = {
  look: 'clouds',
  label: 'clouds',
  field: (shape, width, height) => mapped(bent(octavesOf(shape, width, height), shape), (n) => 0.5 + 0.5 * REACH * n),
}

/** Stripes that stand upright and are bent: as many across the tile as there are features. */
const bands: TextureLook = {
  look: 'bands',
  label: 'bands',
  field: (shape, width, height) => {
    const bend = octavesOf(
      { ...shape, cellsX: Math.ceil(shape.cellsX / 3), cellsY: Math.ceil(shape.cellsY / 3) },
      width,
      height,
    )
    return mapped(bend, (n, x) => 0.5 + 0.5 * Math.sin(TURN * ((x / width) * shape.cellsX + 2 * shape.warp * n)))
  },
}

const ridges: TextureLook = {
  look: 'ridges',
  label: 'ridges',
  field: (shape, width, height) =>
    mapped(bent(octavesOf(shape, width, height, Folded), shape), (n) => Math.max(0, 0.5 + 0.5 * n) ** 2),
}

/** The distance to the nearest of points that wander round their cells (Worley 1996). */
const cells: TextureLook = {
  look: 'cells',
  label: 'cells',
  field: (shape, width, height) => {
    const { cellsX, cellsY, steps, seed, time } = shape
    const field = emptyField(width, height)
    const px = new Float32Array(cellsX * cellsY)
    const py = new Float32Array(cellsX * cellsY)
    for (let j = 0; j < cellsY; j++)
      for (let i = 0; i < cellsX; i++) {
        const at = j * cellsX + i
        const way = seeded(seed, i, j, 1) < 0.5 ? -1 : 1
        const angle = TURN * (way * steps * time + seeded(seed, i, j, 2))
        px[at] = 0.5 + 0.35 * Math.cos(angle) + 0.3 * (seeded(seed, i, j, 3) - 0.5)
        py[at] = 0.5 + 0.35 * Math.sin(angle) + 0.3 * (seeded(seed, i, j, 4) - 0.5)
      }
    for (let y = 0; y < height; y++) {
      const v = (y / height) * cellsY
      const j = Math.floor(v)
      for (let x = 0; x < width; x++) {
        const u = (x / width) * cellsX
        const i = Math.floor(u)
        let nearest = 9
        for (let b = -1; b <= 1; b++)
          for (let a = -1; a <= 1; a++) {
            const at = modulo(j + b, cellsY) * cellsX + modulo(i + a, cellsX)
            const dx = i + a + px[at] - u
            const dy = j + b + py[at] - v
            nearest = Math.min(nearest, dx * dx + dy * dy)
          }
        field.data[y * width + x] = Math.sqrt(nearest)
      }
    }
    return bent(field, shape)
  },
}

const WAVES = 14

/** Waves of whole numbers of crests in all directions, each as fast as waves of its length are. */
const ripples: TextureLook = {
  look: 'ripples',
  label: 'ripples',
  field: (shape, width, height) => {
    const { cellsX, cellsY, steps, seed, time, roughness } = shape
    const field = emptyField(width, height)
    for (let wave = 0; wave < WAVES; wave++) {
      const angle = TURN * ((wave + seeded(seed, wave, 1)) / WAVES)
      const size = 0.6 + 0.8 * seeded(seed, wave, 2)
      const kx = Math.round(cellsX * size * Math.cos(angle))
      const ky = Math.round(cellsY * size * Math.sin(angle)) || (kx === 0 ? 1 : 0)
      const turns = Math.max(1, Math.round(steps * Math.sqrt(size)))
      const phase = TURN * (seeded(seed, wave, 3) - turns * time)
      // The sine of a sum, from those of its parts: two of each column and row instead of one of each pixel.
      const sinX = new Float32Array(width)
      const cosX = new Float32Array(width)
      for (let x = 0; x < width; x++) {
        sinX[x] = Math.sin((TURN * kx * x) / width + phase)
        cosX[x] = Math.cos((TURN * kx * x) / width + phase)
      }
      for (let y = 0; y < height; y++) {
        const sinY = Math.sin((TURN * ky * y) / height)
        const cosY = Math.cos((TURN * ky * y) / height)
        const row = y * width
        for (let x = 0; x < width; x++) field.data[row + x] = field.data[row + x] + sinX[x] * cosY + cosX[x] * sinY
      }
    }
    const scale = 1 / Math.sqrt(WAVES * 2)
    // Rough water has sharp crests.
    return mapped(bent(field, shape), (n) => {
      const wave = 0.5 + 0.5 * Math.max(-1, Math.min(1, n * scale))
      return (1 - roughness) * wave + roughness * (1 - Math.abs(2 * wave - 1))
    })
  },
}

/** Ratio of length to width of a streak. */
const STREAK = 8

const streaks: TextureLook = {
  look: 'streaks',
  label: 'brushed streaks',
  field: (shape, width, height) => {
    const long = { ...shape, cellsX: Math.max(1, Math.round(shape.cellsX / STREAK)), cellsY: shape.cellsY * 2 }
    return mapped(bent(octavesOf(long, width, height), { ...shape, cellsX: long.cellsX }), (n) => 0.5 + 0.5 * REACH * n)
  },
}

/** Pictures of grain in one step of its time. */
const GRAINS = 8

/** A number of its own for each cell, another one several times a step. */
const grain: TextureLook = {
  look: 'grain',
  label: 'grain',
  field: ({ cellsX, cellsY, steps, seed, time }, width, height) => {
    const moments = GRAINS * steps
    const moment = modulo(Math.floor(time * moments + 1e-9), moments)
    return mapped(emptyField(width, height), (_, x, y) => {
      const i = Math.floor((x / width) * cellsX)
      const j = Math.floor((y / height) * cellsY)
      return (seeded(seed, i, j, moment, 1) + seeded(seed, i, j, moment, 2)) / 2
    })
  },
}

/** All looks of textures. A new one is an object here. */
export const LOOKS: readonly TextureLook[] = [clouds, bands, ridges, cells, ripples, streaks, grain]
export const LOOK_NAMES = LOOKS.map(({ look }) => look)
