import { createCanvas, ImageData, type SKRSContext2D } from '@napi-rs/canvas'
import type { Picture } from '../../src/core/image'
import { trembleValue } from '../../src/core/motion'
import { seeded } from '../../src/core/random'

/**
 * Busy scenes: a picture that lives, and something small on it. Each pair differs in one thing alone: in one half the small thing comes home,
 * in the other it leaps.
 */
export interface BusyPair {
  readonly ground: string
  readonly mover: string
  /** Width of what moves, as a share of the width of the frame. */
  readonly size: number
  readonly sound: readonly Picture[]
  readonly leaping: readonly Picture[]
}

const WIDTH = 384
const HEIGHT = 216
const FRAMES = 32
const TURN = 2 * Math.PI

/** Colour of a ground at a place (shares of the frame) and a share of the loop. */
type Ground = (x: number, y: number, time: number, frame: number) => readonly [number, number, number]

const wave = (x: number, y: number, time: number, seed: number, pitch: number, cycles: number): number => {
  const angle = TURN * seeded(seed, 1)
  return Math.sin(
    TURN * (pitch * (x * Math.cos(angle) + y * Math.sin(angle)) + cycles * time + seeded(seed, 2)) +
      0.8 * Math.sin(TURN * (1.7 * y - 0.9 * x + seeded(seed, 3))),
  )
}
const waves = (x: number, y: number, time: number, seed: number, pitch: number, cycles: number, count = 5): number => {
  let sum = 0
  for (let i = 0; i < count; i++)
    sum += wave(x, y, time, 10 * seed + i, pitch * (0.6 + 0.8 * seeded(seed, i)), cycles * (1 + (i % 2))) / count
  return sum
}
/** Detail that stands still: steps and speckles of several sizes. */
const still = (x: number, y: number): number => {
  const cells = [9, 23, 61].map((pitch, i) => seeded(i + 5, Math.floor(x * pitch), Math.floor(y * pitch * 0.56)))
  return cells.reduce((sum, value, i) => sum + (value - 0.5) * (0.6 - 0.15 * i), 0)
}

const GROUNDS: Readonly<Record<string, Ground>> = {
  plain: () => [18, 58, 76],
  still: (x, y) => {
    const v = still(x, y)
    return [90 + 90 * v, 110 + 80 * v + 30 * y, 120 + 70 * v + 40 * x]
  },
  ripples: (x, y, time) => {
    const v = waves(x, y, time, 1, 11, 3)
    return [60 + 80 * v, 112 + 110 * v, 132 + 120 * v]
  },
  clouds: (x, y, time) => {
    const v = waves(x, y, time, 2, 3, 2)
    return [160 + 90 * v, 170 + 80 * v, 185 + 64 * v]
  },
  grain: (x, y, _time, frame) => {
    const v = 60 * (seeded(frame + 1, Math.round(x * WIDTH), Math.round(y * HEIGHT)) - 0.5)
    return [70 + 60 * y + v, 84 + 40 * y + v, 96 + 30 * x + v]
  },
  bands: (x, y, time) => {
    const share = (x * 6 + y * 2 + 3 * time) % 1
    const v = Math.min(1, Math.max(0, 8 * Math.min(share, 1 - share) - 1.2))
    return [12 + 200 * v, 50 + 150 * v, 70 + 110 * v]
  },
}

interface Mover {
  /** Draws what moves: at `time`, sound; `leaps` where it does not come home. Lengths in px of the frame. */
  readonly draw: (context: SKRSContext2D, size: number, time: number, leaps: boolean) => void
}

const disc = (c: SKRSContext2D, x: number, y: number, r: number, colour: string, alpha = 1) => {
  c.globalAlpha = alpha
  c.fillStyle = colour
  c.beginPath()
  c.arc(x, y, r, 0, TURN)
  c.fill()
  c.globalAlpha = 1
}
/** A share that goes up and is reset, or up and down again. */
const ramp = (time: number, leaps: boolean): number => (leaps ? time : 0.5 - 0.5 * Math.cos(TURN * time))
const mixed = (share: number): string =>
  `rgb(${Math.round(242 - 150 * share)} ${Math.round(181 - 60 * share)} ${Math.round(74 + 130 * share)})`

const MOVERS: Readonly<Record<string, Mover>> = {
  'crosses and snaps back': {
    draw: (c, size, time, leaps) => {
      const along = leaps ? time : 0.5 - 0.5 * Math.cos(TURN * time)
      disc(c, WIDTH * (0.2 + 0.58 * along), HEIGHT * 0.55, size / 2, '#f2b54a')
    },
  },
  'is reset in tint': {
    draw: (c, size, time, leaps) => disc(c, WIDTH * 0.6, HEIGHT * 0.4, size / 2, mixed(ramp(time, leaps))),
  },
  'is reset in size': {
    draw: (c, size, time, leaps) =>
      disc(c, WIDTH * 0.4, HEIGHT * 0.6, (size / 2) * (0.5 + 0.5 * ramp(time, leaps)), '#e86f5a'),
  },
  'is reset in opacity': {
    draw: (c, size, time, leaps) => disc(c, WIDTH * 0.7, HEIGHT * 0.3, size / 2, '#f7e9d0', ramp(time, leaps)),
  },
  'is one of six movers': {
    draw: (c, size, time, leaps) => {
      for (let i = 0; i < 6; i++) {
        const angle = TURN * (seeded(8, i) + (leaps && i === 3 ? 0.6 : 1) * time * (i % 2 ? 1 : -1))
        const x = 0.2 + 0.12 * i
        const y = 0.35 + 0.3 * seeded(9, i)
        disc(c, WIDTH * (x + 0.09 * Math.cos(angle)), HEIGHT * (y + 0.22 * Math.sin(angle)), size / 2, mixed(i / 6))
      }
    },
  },
}

/** Widths of what moves, shares of the width of the frame. */
const SIZES = [0.24, 0.11, 0.05] as const
/** The same where six stand side by side. */
const SIZES_OF_SIX = [0.1, 0.07, 0.04] as const

/** The frames of a ground, row by row from the top. */
const groundFrames = (ground: Ground): Uint8ClampedArray<ArrayBuffer>[] =>
  Array.from({ length: FRAMES }, (_, frame) => {
    const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
    for (let y = 0, p = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++, p += 4) {
        data.set(ground(x / WIDTH, y / HEIGHT, frame / FRAMES, frame), p)
        data[p + 3] = 255
      }
    return data
  })

const drawn = (
  grounds: readonly Uint8ClampedArray<ArrayBuffer>[],
  mover: Mover,
  size: number,
  leaps: boolean,
): Picture[] =>
  grounds.map((ground, frame) => {
    const context = createCanvas(WIDTH, HEIGHT).getContext('2d')
    context.putImageData(new ImageData(ground, WIDTH, HEIGHT), 0, 0)
    mover.draw(context, size * WIDTH, frame / FRAMES, leaps)
    const { width, height, data } = context.getImageData(0, 0, WIDTH, HEIGHT)
    return { width, height, data: new Uint8ClampedArray(data) }
  })

/** All pairs: six grounds, five movers, three sizes. @param only grounds that are drawn; all of them unless said */
export function* busyPairs(only: readonly string[] = Object.keys(GROUNDS)): Generator<BusyPair> {
  for (const [groundName, ground] of Object.entries(GROUNDS)) {
    if (!only.includes(groundName)) continue
    const grounds = groundFrames(ground)
    for (const [moverName, mover] of Object.entries(MOVERS))
      for (const size of moverName === 'is one of six movers' ? SIZES_OF_SIX : SIZES)
        yield {
          ground: groundName,
          mover: moverName,
          size,
          sound: drawn(grounds, mover, size, false),
          leaping: drawn(grounds, mover, size, true),
        }
  }
}

/** Something that trembles on a ground, and comes home however fast it does. */
export interface Trembling {
  readonly ground: string
  readonly what: string
  /** Changes of direction in the loop, about. */
  readonly detail: number
  readonly pictures: readonly Picture[]
}

const TREMBLERS: Readonly<Record<string, (c: SKRSContext2D, value: number) => void>> = {
  place: (c, value) => disc(c, WIDTH * (0.5 + 0.06 * value), HEIGHT * 0.5, 0.07 * WIDTH, '#f2b54a'),
  opacity: (c, value) => disc(c, WIDTH * 0.6, HEIGHT * 0.4, 0.08 * WIDTH, '#f7e9d0', 0.55 + 0.4 * value),
  size: (c, value) => disc(c, WIDTH * 0.4, HEIGHT * 0.6, 0.08 * WIDTH * (1 + 0.4 * value), '#e86f5a'),
}
/** From a slow sway to a flicker in every other frame. */
const DETAILS = [3, 6, 10, 16] as const
const SEEDS = [1, 2, 3] as const

/** All that tremble: on each ground, three properties, four paces, three courses. None of them leaps. */
export function* tremblings(only: readonly string[] = Object.keys(GROUNDS)): Generator<Trembling> {
  for (const [groundName, ground] of Object.entries(GROUNDS)) {
    if (!only.includes(groundName)) continue
    const grounds = groundFrames(ground)
    for (const [what, draw] of Object.entries(TREMBLERS))
      for (const detail of DETAILS)
        for (const seed of SEEDS) {
          const tremble = { amount: 1, detail, cycles: 1, seed, phase: 0 }
          const mover: Mover = {
            draw: (c, _size, time) => draw(c, trembleValue(tremble, Math.round(time * FRAMES), FRAMES)),
          }
          yield { ground: groundName, what, detail, pictures: drawn(grounds, mover, 0, false) }
        }
  }
}
