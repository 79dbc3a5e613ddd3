import type { Picture } from '../../src/core/image'
import type { FindingKind } from '../../src/core/seam'
import { type Scene, scenePictures } from './scenes'

/** A loop as it comes to be written: its pictures, its timing, and what must be found in it. */
export interface Case {
  readonly scene: string
  readonly fault: string
  readonly pictures: readonly Picture[]
  readonly delaysMs: readonly number[]
  readonly plays: number
  /** null where it is sound. */
  readonly expected: { readonly kind: FindingKind; readonly frames: readonly number[] | null } | null
}

export interface CorpusShape {
  readonly size: number
  readonly frames: number
  readonly delayMs: number
}
/** Three sizes and rates. */
export const SHAPES: readonly CorpusShape[] = [
  { size: 64, frames: 24, delayMs: 40 },
  { size: 128, frames: 36, delayMs: 30 },
  { size: 240, frames: 48, delayMs: 20 },
]

const clamp = (share: number) => share - Math.floor(share)

/** The cases of a scene in one shape: without a fault, and with each that it can have. */
export function* casesOf(scene: Scene, shape: CorpusShape): Generator<Case> {
  const N = scene.fixed?.frames ?? shape.frames
  const size = scene.fixed?.size(shape.size) ?? shape.size
  const times = Array.from({ length: N }, (_, n) => n / N)
  const sound = scenePictures(scene, size, times, N)
  const make = (
    fault: string,
    pictures: readonly Picture[],
    expected: Case['expected'],
    more: Partial<Case> = {},
  ): Case => ({
    scene: scene.name,
    fault,
    pictures,
    delaysMs: pictures.map(() => shape.delayMs),
    plays: 0,
    expected,
    ...more,
  })
  const at = (n: number) => sound[n] as Picture
  yield make('none', sound, null)

  if (!scene.emptyFirst)
    yield make('repeats its first frame at the end', [...sound, at(0)], { kind: 'repeats-a-frame', frames: [N] })
  const middle = Math.round(N * 0.3)
  // In a hold the frame too many is any of those that show the picture.
  const alike = sound.flatMap((picture, n) => (same(picture, at(middle)) ? [n + 1] : []))
  yield make('repeats a frame inside', [...sound.slice(0, middle + 1), ...sound.slice(middle)], {
    kind: 'repeats-a-frame',
    frames: [middle + 1, ...alike],
  })

  if (!scene.blinks) {
    const empty = { ...at(0), data: new Uint8ClampedArray(at(0).data.length) }
    if (scene.name !== 'transparent')
      for (let i = 0; i < empty.data.length; i += 4) empty.data.set(at(0).data.subarray(0, 4), i)
    const replaced = (n: number, by: Picture) => sound.map((picture, i) => (i === n ? by : picture))
    const blanked = (n: number) => replaced(n, empty)
    if (!scene.emptyFirst) yield make('last frame blank', blanked(N - 1), { kind: 'blank-frame', frames: [N - 1] })
    if (!scene.emptyFirst) yield make('first frame blank', blanked(0), { kind: 'blank-frame', frames: [0] })
    yield make('a frame blank inside', blanked(middle), { kind: 'blank-frame', frames: [middle] })
    yield make('a black frame first', replaced(0, filled(at(0), 0)), { kind: 'blank-frame', frames: [0] })
    yield make('a black frame last', replaced(N - 1, filled(at(0), 0)), { kind: 'blank-frame', frames: [N - 1] })
    if (N > 8 && !scene.holds) {
      yield make('a negative inside', replaced(middle, negative(at(middle))), { kind: 'stray-frame', frames: [middle] })
      const foreign = scenePictures(scene, size, [0.5], 1)[0] as Picture
      yield make('a negative of another time first', replaced(0, negative(foreign)), {
        kind: 'stray-frame',
        frames: [0],
      })
    }
    if (scene.emptyFirst) {
      const early = Math.round(N / 7)
      yield make('a blank frame beside nearly empty ones', blanked(early), { kind: 'blank-frame', frames: [early] })
    } else yield make('an empty frame after the last', [...sound, empty], { kind: 'blank-frame', frames: [N] })
    const kept = N - Math.max(2, Math.round(N / 6))
    if (kept > 5) yield make('its end is missing', sound.slice(0, kept), { kind: 'jumps', frames: [kept - 1] })
  }
  if (scene.carriesOn && N > 12 && !scene.holds) {
    const eased = times.map((t) => (t < 0.5 ? 2 * t * t : 1 - 2 * (1 - t) * (1 - t)))
    const strong = times.map((t) => (t < 0.5 ? 16 * t ** 5 : 1 - 16 * (1 - t) ** 5))
    // Two colours have no half steps: what moves by less than a pixel holds and ticks.
    if (scene.name !== 'two colours')
      yield make('eased to a full stop', scenePictures(scene, size, strong.map(clamp), N), {
        kind: 'hesitates',
        frames: [N - 1],
      })
    yield make('eased as if it stopped', scenePictures(scene, size, eased.map(clamp), N), {
      kind: 'hesitates',
      frames: [N - 1],
    })
  }
  if (N > 12 && scene.name !== 'transparent' && scene.name !== 'two colours' && !scene.blinks)
    yield make(
      'gets darker',
      sound.map((picture, n) => darker(picture, 1 - (0.16 * n) / N)),
      { kind: 'drift', frames: [N - 1] },
    )
  if (scene.name === 'transparent')
    yield make(
      'its edge grows and is reset',
      sound.map((picture, n) => fringed(picture, n / N)),
      { kind: 'fringe', frames: null },
    )
  yield make('plays once', sound, { kind: 'plays-once', frames: null }, { plays: 1 })
  yield make('plays three times', sound, { kind: 'plays-once', frames: null }, { plays: 3 })
  yield make(
    'one delay is twice as long',
    sound,
    { kind: 'uneven-delays', frames: [middle] },
    {
      delaysMs: sound.map((_, n) => (n === middle ? 2 : 1) * shape.delayMs),
    },
  )
  yield make(
    'delays that viewers replace',
    sound,
    { kind: 'delay-too-short', frames: [0] },
    {
      delaysMs: sound.map(() => 10),
    },
  )
}

const same = (a: Picture, b: Picture): boolean => a.data.every((value, i) => value === b.data[i])

const filled = ({ width, height, data }: Picture, value: number): Picture => ({
  width,
  height,
  data: data.map((_, i) => (i % 4 === 3 ? 255 : value)),
})

const negative = ({ width, height, data }: Picture): Picture => ({
  width,
  height,
  data: data.map((value, i) => (i % 4 === 3 ? value : 255 - value)),
})

/** White that lies about what is drawn, more and more of it: nobody sees it on white. */
function fringed({ width, height, data }: Picture, share: number): Picture {
  const reach = Math.max(1, Math.round(width / 24))
  const out = new Uint8ClampedArray(data)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const p = (y * width + x) * 4
      if ((data[p + 3] as number) > 0) continue
      const near = [-reach, 0, reach].some((dy) =>
        [-reach, 0, reach].some((dx) => {
          const u = x + dx
          const v = y + dy
          return u >= 0 && v >= 0 && u < width && v < height && (data[(v * width + u) * 4 + 3] as number) > 200
        }),
      )
      if (near) out.set([255, 255, 255, Math.round(220 * share)], p)
    }
  return { width, height, data: out }
}

const darker = ({ width, height, data }: Picture, factor: number): Picture => ({
  width,
  height,
  data: data.map((value, i) => (i % 4 === 3 ? value : value * factor)),
})
