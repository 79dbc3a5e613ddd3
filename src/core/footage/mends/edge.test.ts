import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../../render/node'
import type { Loop } from '../../document'
import { newLayer } from '../../edit'
import { evaluate } from '../../evaluate'
import { flattened, type Picture } from '../../image'
import { describeFrame, GROUNDS, type Ground, judgeClip } from '../../seam'
import { quay } from '../../testing/quay'
import { editBy, learn, mendsFor, type SourceMend } from '..'

const N = 24
const SIDE = 64
/** A float that swims round on nothing: it closes on every ground. */
const swimming = (fill: string) =>
  Array.from({ length: N }, (_, n): Picture => {
    const angle = (2 * Math.PI * n) / N
    const x = 32 + 14 * Math.cos(angle)
    const y = 32 + 14 * Math.sin(angle)
    const post = newLayer('rectangle', 'Post', { x: 32, y: 32, width: 10, height: 30, fill: '#c8553d' }, 'post')
    const float = newLayer('ellipse', 'Float', { x, y, width: 16, height: 16, fill }, 'float')
    const loop: Loop = { ...quay, width: SIDE, height: SIDE, background: null, layers: [post, float] }
    const { width, height, data } = renderInNode(evaluate(loop, 0), SIDE, SIDE)
    return { width, height, data: new Uint8ClampedArray(data) }
  })
/** The same with a frame of the ground's colour about it that grows until the seam. */
const fringed = (pictures: readonly Picture[], ground: Ground) =>
  pictures.map(({ width, height, data }, n): Picture => {
    const out = new Uint8ClampedArray(data)
    for (let y = 4; y < height - 4; y++)
      for (let x = 4; x < width - 4; x++) {
        const p = 4 * (y * width + x)
        const near = Math.abs(x - 32) < 26 && Math.abs(y - 32) < 26
        if (near && data[p + 3] === 0) out.set([...ground, Math.round((200 * n) / N)], p)
      }
    return { width, height, data: out }
  })
const edited = async (pictures: readonly Picture[], ...mends: readonly SourceMend[]) => {
  const edits = mends.map((mend) => ({ mend, from: 0, to: pictures.length - 1 }))
  const edit = editBy(await learn(edits, () => pictures.map((picture, n) => ({ n, picture }))))
  return pictures.map((picture, n) => edit(picture, n))
}
const report = (pictures: readonly Picture[]) =>
  judgeClip(
    pictures.map((picture) => describeFrame(picture)),
    { delaysMs: pictures.map(() => 40), playsForever: true },
  )

describe('the same edge in every frame', () => {
  it.each(['white', 'black'] as const)('mends a fringe that nobody sees over %s', async (name) => {
    const ground = GROUNDS[name]
    const source = fringed(swimming('#2f6f8f'), ground)
    const found = report(source).findings.find(({ kind }) => kind === 'fringe')
    // Judged over black alone, a fringe is only named where white closes; the mend is tried on both grounds all the
    // same.
    if (name === 'white') expect(found && mendsFor(found, N)[0]?.mend).toEqual({ kind: 'same-edge', ground })
    const { seam, findings } = report(await edited(source, { kind: 'same-edge', ground }))
    expect(seam.grounds).toEqual({ white: 'closes', black: 'closes', grey: 'closes' })
    expect(findings.filter(({ hint }) => !hint)).toEqual([])
  })
  it('takes away a fringe that moves with what it lies about', async () => {
    const still = swimming('#2f6f8f')
    const source = still.map(({ width, height, data }, n): Picture => {
      const out = new Uint8ClampedArray(data)
      for (let y = 3; y < height - 3; y++)
        for (let x = 3; x < width - 3; x++) {
          const p = 4 * (y * width + x)
          const near = [-3, 0, 3].some((dy) => [-3, 0, 3].some((dx) => data[p + 4 * (dy * width + dx) + 3] > 200))
          if (near && data[p + 3] === 0) out.set([255, 255, 255, Math.round((200 * n) / N)], p)
        }
      return { width, height, data: out }
    })
    const out = await edited(source, { kind: 'same-edge', ground: GROUNDS.white })
    // The result is the clip before the fringe was added, except for a few pixels that come into sight late.
    for (const [n, { data }] of out.entries()) {
      const before = still[n]?.data as Picture['data']
      const more = (of: Picture['data']) => of.filter((value, i) => i % 4 === 3 && value > before[i] + 12).length
      const fringe = more(source[n]?.data as Picture['data'])
      expect(more(data)).toBeLessThanOrEqual(0.05 * fringe)
    }
    expect(report(out).seam.grounds).toEqual({ white: 'closes', black: 'closes', grey: 'closes' })
  })
  it('changes nothing where alpha goes both ways: a white float on nothing stays', async () => {
    const source = swimming('#ffffff')
    expect(await edited(source, { kind: 'same-edge', ground: GROUNDS.white })).toEqual(source)
  })
  it('never changes what is seen over its ground', async () => {
    const pixel = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.constantFrom(0, 0, 60, 128, 200, 255))
    const picture = fc
      .array(pixel, { minLength: 9, maxLength: 9 })
      .map((pixels): Picture => ({ width: 3, height: 3, data: new Uint8ClampedArray(pixels.flat()) }))
    const clips = fc.array(picture, { minLength: 2, maxLength: 6 })
    await fc.assert(
      fc.asyncProperty(clips, fc.constantFrom(...Object.values(GROUNDS)), async (source, ground) => {
        const out = await edited(source, { kind: 'same-edge', ground })
        for (const [n, each] of out.entries()) {
          const [before, after] = [source[n], each].map((one) => flattened(one, ground).data)
          // The colours of faint pixels are whole numbers: what is seen is so by the rounding of them.
          for (const [i, value] of (before ?? []).entries()) expect(Math.abs(value - after?.[i])).toBeLessThanOrEqual(5)
        }
      }),
    )
  })
})

describe('a matte', () => {
  it('leaves nothing clear, and shows what was seen on its colour', async () => {
    const source = fringed(swimming('#2f6f8f'), GROUNDS.white)
    const out = await edited(source, { kind: 'matte', colour: [247, 233, 208] })
    for (const [n, each] of out.entries()) {
      expect(each).toEqual(flattened(source[n], [247, 233, 208]))
      expect(each.data.every((value, i) => i % 4 < 3 || value === 255)).toBe(true)
    }
    expect(report(await edited(source, { kind: 'matte', colour: GROUNDS.white })).seam.grounds.black).toBe('closes')
  })
})
