import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas'
import type { Picture } from '../../src/core/image'
import { seeded } from '../../src/core/random'

/** A kind of motion, as a function of the share of the loop that has passed; sound by construction. */
export interface Scene {
  readonly name: string
  readonly draw: (context: SKRSContext2D, size: number, time: number, frame: number, frames: number) => void
  /** Frames and px of its own, whatever is asked for. */
  readonly fixed?: { readonly frames: number; readonly size: (wanted: number) => number }
  /** Motion that carries on, so that an ease makes it hesitate. */
  readonly carriesOn?: boolean
  /** Pictures held for several frames: a range without its end may be taken for another cadence. */
  readonly holds?: boolean
  /** The light goes off now and then on purpose. */
  readonly blinks?: boolean
  /** Nothing is drawn in its first frame, and hardly anything beside it: what is blank there is not out of place. */
  readonly emptyFirst?: boolean
  /** It runs there and back by nature. */
  readonly thereAndBack?: boolean
}

const TURN = 2 * Math.PI
const SEA = '#0b2230'
const LAMP = '#f2b54a'
const GLASS = '#79c9b4'
const CREAM = '#f7e9d0'
const CORAL = '#e86f5a'

const ground = (c: SKRSContext2D, size: number, colour: string = SEA) => {
  c.fillStyle = colour
  c.fillRect(0, 0, size, size)
}
const disc = (c: SKRSContext2D, x: number, y: number, r: number, colour: string = LAMP) => {
  c.fillStyle = colour
  c.beginPath()
  c.arc(x, y, r, 0, TURN)
  c.fill()
}
function beam(c: SKRSContext2D, size: number, time: number) {
  c.save()
  c.translate(size / 2, size / 2)
  c.rotate(TURN * time)
  c.fillStyle = LAMP
  c.fillRect(0, -size * 0.07, size * 0.42, size * 0.14)
  c.restore()
  disc(c, size / 2, size / 2, size * 0.12, CREAM)
}

/** Waves of whole cycles with places and directions of their own: their sum is noise that repeats in time. */
const WAVES = Array.from({ length: 7 }, (_, i) => {
  const own = (k: number) => seeded(7, 10 * i + k)
  const angle = TURN * own(1)
  const pitch = 2 * (2 + 5 * own(2))
  return {
    across: pitch * Math.cos(angle),
    down: pitch * Math.sin(angle),
    from: TURN * own(3),
    cycles: 1 + Math.floor(2 * own(0)),
  }
})
const swell = (x: number, y: number, time: number): number =>
  WAVES.reduce(
    (sum, { across, down, from, cycles }) => sum + Math.sin(across * x + down * y + from + TURN * cycles * time),
    0,
  ) / WAVES.length

function pixels(c: SKRSContext2D, size: number, at: (x: number, y: number) => readonly [number, number, number]) {
  const image = c.createImageData(size, size)
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const [r, g, b] = at(x / size, y / size)
      const p = (y * size + x) * 4
      image.data[p] = r
      image.data[p + 1] = g
      image.data[p + 2] = b
      image.data[p + 3] = 255
    }
  c.putImageData(image, 0, 0)
}

export const SCENES: readonly Scene[] = [
  {
    name: 'turning',
    carriesOn: true,
    draw: (c, size, time) => {
      ground(c, size)
      beam(c, size, time)
    },
  },
  {
    name: 'sliding',
    carriesOn: true,
    draw: (c, size, time) => {
      ground(c, size, CREAM)
      const pitch = size / 2
      for (let i = -1; i < 3; i++)
        for (const [k, colour] of [SEA, CORAL].entries()) {
          c.fillStyle = colour
          c.fillRect((i + time) * pitch + k * pitch * 0.4, size * 0.2, pitch * 0.3, size * 0.6)
        }
    },
  },
  {
    name: 'bobbing',
    thereAndBack: true,
    draw: (c, size, time) => {
      ground(c, size)
      disc(c, size / 2, size * (0.5 - 0.25 * Math.cos(TURN * time)), size * 0.15)
    },
  },
  {
    name: 'growing arc',
    draw: (c, size, time) => {
      ground(c, size)
      const start = TURN * (time + 0.25 * (1 - Math.cos(TURN * time)) * 0.5)
      const way = TURN * (0.1 + 0.3 * (1 - Math.cos(TURN * time)))
      c.strokeStyle = GLASS
      c.lineWidth = size * 0.09
      c.beginPath()
      c.arc(size / 2, size / 2, size * 0.33, start, start + way)
      c.stroke()
    },
  },
  {
    name: 'arc from nothing',
    emptyFirst: true,
    draw: (c, size, time) => {
      ground(c, size, CREAM)
      const way = TURN * (0.5 - 0.5 * Math.cos(TURN * time))
      const start = TURN * time
      if (way <= 0) return
      c.strokeStyle = CORAL
      c.lineWidth = size * 0.09
      c.beginPath()
      c.arc(size / 2, size / 2, size * 0.33, start, start + way * 0.9)
      c.stroke()
    },
  },
  {
    name: 'wheel of five',
    fixed: { frames: 5, size: (wanted) => wanted },
    draw: (c, size, time) => {
      ground(c, size, CREAM)
      for (let i = 0; i < 3; i++) {
        c.save()
        c.translate(size / 2, size / 2)
        c.rotate((TURN * (i + time)) / 3)
        c.fillStyle = SEA
        c.fillRect(0, -size * 0.05, size * 0.4, size * 0.1)
        c.restore()
      }
    },
  },
  {
    name: 'drifting noise',
    draw: (c, size, time) =>
      pixels(c, size, (x, y) => {
        const v = swell(x, y, time)
        return [40 + 30 * v, 90 + 60 * v, 110 + 70 * v]
      }),
  },
  {
    name: 'footage with grain',
    draw: (c, size, time, frame) =>
      pixels(c, size, (x, y) => {
        const grain = 14 * (seeded(frame + 1, Math.round(x * 977) + 31 * Math.round(y * 991)) - 0.5)
        const away = Math.hypot(x - 0.5 - 0.25 * Math.cos(TURN * time), y - 0.45 - 0.15 * Math.sin(TURN * time))
        const light = 130 * Math.exp(-40 * away * away)
        return [50 + 60 * y + light + grain, 60 + 50 * y + 0.8 * light + grain, 80 + 40 * y + 0.4 * light + grain]
      }),
  },
  {
    name: 'tiny spinner',
    fixed: { frames: 8, size: (wanted) => (wanted < 100 ? 16 : wanted < 200 ? 24 : 32) },
    draw: (c, size, time) => {
      ground(c, size, CREAM)
      for (let i = 0; i < 8; i++) {
        const angle = TURN * (time - i / 8)
        c.globalAlpha = 1 - i / 8
        disc(c, size / 2 + size * 0.34 * Math.cos(angle), size / 2 + size * 0.34 * Math.sin(angle), size * 0.1, SEA)
      }
      c.globalAlpha = 1
    },
  },
  {
    name: 'ticking',
    holds: true,
    draw: (c, size, time) => {
      ground(c, size)
      beam(c, size, Math.floor(time * 6 + 1e-9) / 6)
    },
  },
  {
    name: 'on twos',
    holds: true,
    carriesOn: true,
    draw: (c, size, time, _frame, frames) => {
      ground(c, size)
      beam(c, size, Math.floor((time * frames) / 2 + 1e-9) / (frames / 2))
    },
  },
  { name: 'transparent', carriesOn: true, draw: (c, size, time) => beam(c, size, time) },
  {
    name: 'many small movers',
    draw: (c, size, time) => {
      ground(c, size)
      c.fillStyle = '#123a4c'
      for (let i = 0; i < 8; i++) c.fillRect(0, (i * size) / 8, size, size / 40)
      for (let i = 0; i < 14; i++) {
        const own = (k: number) => seeded(3, 10 * i + k)
        const angle = TURN * (own(0) + (own(1) < 0.5 ? 1 : -1) * time)
        const r = size * (0.05 + 0.06 * own(2))
        disc(
          c,
          size * (0.15 + 0.7 * own(3)) + r * Math.cos(angle),
          size * (0.15 + 0.7 * own(4)) + r * Math.sin(angle),
          Math.max(1.2, size * 0.014),
          CREAM,
        )
      }
    },
  },
  {
    name: 'breathing',
    thereAndBack: true,
    draw: (c, size, time) => {
      ground(c, size)
      disc(c, size / 2, size / 2, size * (0.25 - 0.1 * Math.cos(TURN * time)), CORAL)
    },
  },
  {
    name: 'blinking light',
    holds: true,
    blinks: true,
    draw: (c, size, time) => {
      ground(c, size)
      if ((time * 3 + 1e-9) % 1 < 0.6) disc(c, size / 2, size / 2, size * 0.3)
    },
  },
  {
    name: 'two colours',
    carriesOn: true,
    draw: (c, size, time) => {
      ground(c, size, '#000000')
      beam(c, size, time)
      const image = c.getImageData(0, 0, size, size)
      for (let i = 0; i < image.data.length; i += 4)
        image.data.fill((image.data[i] as number) > 120 ? 255 : 0, i, i + 3)
      c.putImageData(image, 0, 0)
    },
  },
]

/** The pictures of a scene at the shares of the loop that are given. */
export function scenePictures(scene: Scene, size: number, times: readonly number[], frames: number): Picture[] {
  return times.map((time, frame) => {
    const context = createCanvas(size, size).getContext('2d')
    scene.draw(context, size, time, frame, frames)
    const { width, height, data } = context.getImageData(0, 0, size, size)
    return { width, height, data: new Uint8ClampedArray(data) }
  })
}
