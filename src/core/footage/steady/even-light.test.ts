import { describe, expect, it } from 'vitest'
import { LINEAR_LIGHT, type Picture } from '../../image'
import { field, filmed, wall } from '../../testing/footage'
import { inLight, lightFactors } from '..'

const N = 24
const clipWith = (light: (n: number, row: number) => number) =>
  Array.from({ length: N }, (_, n) =>
    filmed(
      {
        ...{ width: 120, height: 68, frames: N, seed: 4, grain: 2, looks: 1, light },
        scene(x, y, at, into) {
          wall(x, y, into)
          if (Math.hypot(x - 0.3 * Math.cos(at / 4), y) < 0.1) into.fill(220)
        },
      },
      n,
    ),
  )
/** Mean light of the upper left, where nothing moves, in bands of rows. */
const bandsOf = ({ width, data }: Picture) =>
  [0, 7, 14].map((top) => {
    let sum = 0
    for (let y = top; y < top + 7; y++) for (let x = 0; x < 20; x++) sum += LINEAR_LIGHT[data[4 * (y * width + x) + 1]]
    return sum / 140
  })
/** How much bands change over a clip, against their mean. */
const sway = (pictures: readonly Picture[]) =>
  Math.max(
    ...[0, 1, 2].map((band) => {
      const light = pictures.map((picture) => bandsOf(picture)[band])
      const mean = light.reduce((a, b) => a + b, 0) / light.length
      return Math.max(...light.map((each) => Math.abs(each / mean - 1)))
    }),
  )
const evened = (pictures: readonly Picture[]) => {
  const factors = lightFactors(pictures)
  return pictures.map((picture, n) => inLight(picture, factors[n] ?? []))
}

describe('light that is evened out', () => {
  it.each([
    ['a drift', (n: number) => 0.85 + (0.3 * n) / N],
    ['an exposure that breathes', (n: number) => 1 + 0.12 * Math.sin(n / 3)],
    ['the flicker of lamps', (n: number) => (n % 2 === 0 ? 1.1 : 0.9)],
    ['a flicker that runs through in bands', (n: number, row: number) => 1 + 0.1 * Math.sin(6 * row + 2.1 * n)],
    ['what jumps as it likes', (n: number) => 1 + 0.12 * field(9, n * 0.9, 0.5)],
  ])('takes out %s, whatever moves before it', (_, light) => {
    const pictures = clipWith(light)
    expect(sway(pictures)).toBeGreaterThan(0.12)
    expect(sway(evened(pictures))).toBeLessThan(0.25 * sway(pictures))
  })
  it('leaves what is even as it is', () => {
    const pictures = clipWith(() => 1)
    for (const [n, { data }] of evened(pictures).entries())
      for (let i = 0; i < data.length; i += 97) expect(Math.abs(data[i] - pictures[n].data[i])).toBeLessThanOrEqual(3)
  })
})
