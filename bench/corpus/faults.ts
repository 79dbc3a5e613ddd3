import type { Picture } from '../../src/core/image'
import type { FindingKind } from '../../src/core/seam'
import { picturesOf, type Scene } from './scenes'

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

export interface Shape {
  readonly size: number
  readonly frames: number
  readonly delayMs: number
}
/** Three sizes and rates. */
export const SHAPES: readonly Shape[] = [
  { size: 64, frames: 24, delayMs: 40 },
  { size: 128, frames: 36, delayMs: 30 },
  { size: 240, frames: 48, delayMs: 20 },
]

const clamp = (share: number) => share - Math.floor(share)

/** The cases of a scene in one shape: without a fault, and with each that it can have. */
export function* casesOf(scene: Scene, shape: Shape): Generator<Case> {
  const N = scene.fixed?.frames ?? shape.frames
  const size = scene.fixed?.size(shape.size) ?? shape.size
  const times = Array.from({ length: N }, (_, n) => n / N)
  const sound = picturesOf(scene, size, times, N)
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
    const blanked = (n: number) => sound.map((picture, i) => (i === n ? empty : picture))
    yield make('last frame blank', blanked(N - 1), { kind: 'blank-frame', frames: [N - 1] })
    yield make('first frame blank', blanked(0), { kind: 'blank-frame', frames: [0] })
    yield make('a frame blank inside', blanked(middle), { kind: 'blank-frame', frames: [middle] })
    yield make('an empty frame after the last', [...sound, empty], { kind: 'blank-frame', frames: [N] })
    const kept = N - Math.max(2, Math.round(N / 6))
    yield make('its end is missing', sound.slice(0, kept), { kind: 'jumps', frames: [kept - 1] })
  }
  if (scene.carriesOn && N > 12 && !scene.holds) {
    const eased = times.map((t) => (t < 0.5 ? 2 * t * t : 1 - 2 * (1 - t) * (1 - t)))
    yield make('eased as if it stopped', picturesOf(scene, size, eased.map(clamp), N), {
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

const darker = ({ width, height, data }: Picture, factor: number): Picture => ({
  width,
  height,
  data: data.map((value, i) => (i % 4 === 3 ? value : value * factor)),
})
