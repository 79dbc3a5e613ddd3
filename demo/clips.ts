import { spawn } from 'node:child_process'
import { once } from 'node:events'
import type { SceneView } from '../src/core/footage/steady/view'
import { type Filmed, field, filmed, wall } from '../src/core/testing/footage'

/**
 * Clips as someone at Saltmere Light would have filmed them by hand: grain, a camera that shakes, an exposure that breathes or drifts. `npm run demo:make` writes them to
 * WebM files.
 */
const WIDTH = 960
const HEIGHT = 540
const RATE = 25

/** A hand-held camera: its direction shakes by a share of the width. */
const held =
  (seed: number, by: number) =>
  (n: number): SceneView => {
    const at = (k: number) => field(seed + k, n * 0.23 + 7, 3.5) + 0.4 * field(seed + k, n * 0.9, 8.5)
    const turn = 0.6 * by * at(2)
    const zoom = 1 + 0.5 * by * at(3)
    return [zoom, -turn, by * at(0), turn, zoom, by * at(1), 0, 0, 1]
  }

const mix = (a: number, b: number, w: number) => a + w * (b - a)
const clamp = (value: number) => Math.max(0, Math.min(1, value))
/** 0 up to one place, 1 from another on. */
const rise = (from: number, to: number, value: number) => {
  const t = clamp((value - from) / (to - from))
  return t * t * (3 - 2 * t)
}
const set = (into: Float64Array, r: number, g: number, b: number) => {
  into[0] = r
  into[1] = g
  into[2] = b
}

/** The turn of the lamp, frames. */
export const LAMP_FRAMES = 72

/** Water runs down a window of the lamp room; behind it the lamp turns. */
export const lampRoomGlass: Filmed = {
  width: WIDTH,
  height: HEIGHT,
  frames: 8 * RATE,
  seed: 21,
  grain: 4,
  looks: 1,
  view: held(31, 0.002),
  light: (n) => 1 + 0.03 * Math.sin(n / 19),
  scene(x, y, n, into) {
    const angle = (2 * Math.PI * n) / LAMP_FRAMES
    // Rivulets wander a little and run down, each at its own pace.
    const lane = x * 34 + 0.8 * field(41, x * 8, y * 5)
    const run = field(42, lane, y * 7 - n * (0.1 + 0.03 * Math.floor(field(43, Math.floor(lane), 0.5) * 2)))
    const sheet = field(44, x * 12, y * 9 - n * 0.16, n * 0.03)
    const drops = rise(0.25, 0.7, run)
    const bend = 0.035 * run + 0.012 * sheet
    const lx = x + bend
    const ly = y + 0.5 * bend
    const facing = Math.max(0, Math.cos(angle))
    const lamp = Math.exp(-((lx - 0.3 * Math.sin(angle)) ** 2 * 30 + ly * ly * 14)) * (0.2 + 0.8 * facing)
    const core = Math.exp(-((lx - 0.3 * Math.sin(angle)) ** 2 * 700 + ly * ly * 300)) * (0.3 + 0.7 * facing)
    const glow = 0.1 + 0.75 * lamp + 0.5 * core
    const shine = 0.05 * drops + 0.1 * drops * lamp
    let r = 18 + 235 * (glow + shine)
    let g = 34 + 190 * glow + 180 * shine
    let b = 52 + 118 * glow + 150 * shine
    // The frame of the window, of wood.
    const bar = Math.min(Math.abs(Math.abs(x) - 0.17), Math.abs(y + 0.02), 0.5 - Math.abs(x), 0.28 - Math.abs(y))
    const wood = 1 - rise(0.008, 0.012, bar)
    const grainOfWood = 22 + 7 * field(45, x * 20, y * 90) + 4 * field(46, x * 120, y * 30) + 20 * lamp
    r = mix(r, grainOfWood * 1.3, wood)
    g = mix(g, grainOfWood, wood)
    b = mix(b, grainOfWood * 0.8, wood)
    set(into, r, g, b)
  },
}

/** Foam behind the ferry, seen over her rail: nothing in it ever comes back. */
export const ferryWake: Filmed = {
  width: WIDTH,
  height: HEIGHT,
  frames: 9 * RATE,
  seed: 22,
  grain: 4,
  looks: 1,
  view: held(51, 0.004),
  light: (n) => 1 + 0.0005 * n,
  scene(x, y, n, into) {
    const horizon = -0.17
    if (y < horizon) {
      const haze = rise(-0.3, horizon, y)
      const cloud = 8 * field(61, x * 5 + 0.002 * n, y * 16)
      set(into, 118 + 70 * haze + cloud, 146 + 56 * haze + cloud, 168 + 38 * haze + cloud)
    } else {
      const depth = 0.05 / (y - horizon + 0.03)
      const u = x * depth * 20
      const v = depth * 60 + n * 0.11
      const wave = field(62, u * 0.9 + 0.02 * n, v * 0.6, n * 0.05)
      const fine = field(63, u * 3, v * 2.2, n * 0.11)
      const wake = Math.exp(-((x / (0.12 + 0.3 / (1 + depth * 1.2))) ** 2) * 2)
      const foam = rise(0.15, 0.75, 0.62 * wake + 0.42 * wave * wake + 0.36 * fine * wake)
      const sea = 0.5 + 0.22 * wave + 0.1 * fine
      set(into, mix(22 + 40 * sea, 226, foam), mix(66 + 62 * sea, 234, foam), mix(88 + 62 * sea, 232, foam))
    }
    // Her rail: two bars and posts, which stand still.
    const rail = Math.min(
      Math.abs(y - 0.19) - 0.012,
      Math.abs(y - 0.25) - 0.006,
      y > 0.19 ? Math.abs(((x + 0.6) % 0.2) - 0.1) - 0.006 : 1,
    )
    const paint = 1 - rise(0, 0.002, rail)
    const worn = 210 + 14 * field(64, x * 60, y * 200)
    for (const c of [0, 1, 2]) into[c] = mix(into[c] as number, worn * ([1, 0.97, 0.9][c] as number), paint)
  },
}

/** The sway of the awning, frames. */
export const AWNING = 56

/** An awning sways over the ticket window; two gulls fly through once. */
export const awningAndGulls: Filmed = {
  width: WIDTH,
  height: HEIGHT,
  frames: 9 * RATE,
  seed: 23,
  grain: 4,
  looks: 1,
  view: held(71, 0.005),
  light: (n) => 1 + 0.02 * Math.sin(n / 31) + 0.0003 * n,
  scene(x, y, n, into) {
    wall(x, y, into)
    for (const c of [0, 1, 2]) into[c] = (into[c] as number) * ([1.25, 1.2, 1.08][c] as number) + 40
    // The ticket window, dark, with a sill.
    if (Math.abs(x) < 0.16 && y > 0.03 && y < 0.2) set(into, 38 + 10 * field(81, x * 9, y * 9), 52, 60)
    if (Math.abs(x) < 0.19 && y >= 0.2 && y < 0.22) set(into, 200, 192, 170)
    const angle = (2 * Math.PI * n) / AWNING
    const reach = clamp((y + 0.16) / 0.16)
    const sway = reach * reach * 0.014 * Math.sin(angle + 5 * x)
    const lift = reach * (0.008 * Math.sin(angle + 9 * x) + 0.003 * Math.sin(2 * angle + 21 * x))
    const ax = x + sway
    const ay = y + lift
    const hem = 0.018 + 0.012 * Math.abs(Math.sin(ax * Math.PI * 16))
    if (Math.abs(ax) < 0.34 + 0.05 * reach && ay > -0.16 && ay < hem) {
      const stripe = rise(-0.12, 0.12, Math.sin(ax * 2 * Math.PI * 8 * (1 - 0.12 * reach)))
      const fold = 1 - 0.14 * reach * (0.5 + 0.5 * Math.sin(angle + 14 * x)) + 0.03 * field(82, ax * 200, ay * 200)
      set(into, mix(200, 247, stripe) * fold, mix(85, 233, stripe) * fold, mix(61, 208, stripe) * fold)
    } else if (ay >= hem && ay < hem + 0.04 && Math.abs(x) < 0.4) {
      const shade = 0.72 + 0.28 * rise(hem, hem + 0.04, ay)
      for (const c of [0, 1, 2]) into[c] = (into[c] as number) * shade
    }
    gull(into, x, y, n, 40, 66, 1, -0.2)
    gull(into, x, y, n, 150, 182, -1, -0.06)
  },
}

/** A gull that crosses from one frame to another. */
function gull(
  into: Float64Array,
  x: number,
  y: number,
  n: number,
  from: number,
  to: number,
  way: number,
  height: number,
): void {
  const t = (n - from) / (to - from)
  if (t < 0 || t > 1) return
  const cx = way * mix(-0.6, 0.6, t)
  const cy = height + 0.03 * Math.sin(7 * t)
  const beat = Math.sin(n * 0.9)
  const dx = Math.abs(x - cx)
  const dy = y - cy
  const wing = Math.abs(dy + beat * (dx * 0.5 - 4 * dx * dx)) - 0.011 * (1 - dx / 0.085)
  const body = Math.hypot(dx / 2.4, dy) - 0.01
  const bird = 1 - rise(-0.002, 0.002, Math.min(dx < 0.085 ? wing : 1, body))
  const tint = dx > 0.06 ? 80 : 236
  for (const c of [0, 1, 2]) into[c] = mix(into[c] as number, tint, bird)
}

export const DEMO_CLIPS = {
  'lamp-room-glass': lampRoomGlass,
  'ferry-wake': ferryWake,
  'awning-and-gulls': awningAndGulls,
} as const

/** Writes a clip as a WebM file through an installed media program. @throws Error where there is none */
export async function writeClip(clip: Filmed, path: string): Promise<void> {
  const { width, height, frames } = clip
  const raw = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${width}x${height}`, '-r', String(RATE), '-i', '-']
  const coded = ['-c:v', 'libvpx-vp9', '-pix_fmt', 'yuv420p', '-crf', '38', '-b:v', '0', '-g', '125', '-row-mt', '1']
  const child = spawn('ffmpeg', ['-v', 'error', '-y', ...raw, ...coded, path], {
    stdio: ['pipe', 'inherit', 'inherit'],
  })
  const ended = once(child, 'close')
  for (let n = 0; n < frames; n++) if (!child.stdin.write(filmed(clip, n).data)) await once(child.stdin, 'drain')
  child.stdin.end()
  const [code] = await ended
  if (code !== 0) throw new Error(`${path} could not be written.`)
}
