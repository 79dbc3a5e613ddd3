import { describe, expect, it } from 'vitest'
import { FILE_FORMATS, type FileFormat, gifTiming } from '@/core/clock'
import type { Loop } from '@/core/document'
import { newLayer, newLoop } from '@/core/edit'
import { evaluate } from '@/core/evaluate'
import type { Picture } from '@/core/image'
import { isVector, PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { renderInNode } from '../render/node'
import { type FilePromise, promiseOf } from './promise'
import { proveFile, type ReadBack } from './proof'

const SIZE = 96
const N = 30
/** A lamp on an arm that turns beside a still post: no frame is like another, none like its mirror image, and none is grey. */
const loop: Loop = {
  ...newLoop({
    name: 'Lamp',
    kind: 'loader',
    width: SIZE,
    height: SIZE,
    background: '#0b2230',
    rate: { num: 25, den: 1 },
    length: N,
  }),
  layers: [
    newLayer('rectangle', 'Post', { x: 14, y: 48, width: 10, height: 70, fill: '#79c9b4' }),
    {
      ...newLayer('rectangle', 'Arm', { x: 56, y: 48, width: 56, height: 14, fill: '#f2b54a', pivotX: -20, pivotY: 0 }),
      motions: {
        rotation: {
          keys: [
            { at: 0, value: 0, ease: 'linear' },
            { at: 1, value: 360, ease: 'linear' },
          ],
          after: 'accumulate',
          period: { cycles: 1 },
          phase: 0,
        },
      },
    },
  ],
}
const drawn = Array.from({ length: N }, (_, n) => renderInNode(evaluate(loop, n), SIZE, SIZE))
/** The same before nothing: all around it is clear. */
const clear = Array.from({ length: N }, (_, n) => renderInNode({ ...evaluate(loop, n), background: null }, SIZE, SIZE))

const changed = (picture: Picture, change: (data: Uint8ClampedArray, i: number) => void): Picture => {
  const data = new Uint8ClampedArray(picture.data)
  for (let i = 0; i < data.length; i += 4) change(data, i)
  return { width: picture.width, height: picture.height, data }
}
/** The picture as a format keeps it: unchanged, with the noise of compression, or in the steps of a palette. */
const kept = (format: FileFormat, picture: Picture): Picture => {
  if (format === 'gif')
    return changed(picture, (data, i) => {
      for (let c = 0; c < 3; c++) data[i + c] = 12 * Math.round((data[i + c] as number) / 12)
      data[i + 3] = (data[i + 3] as number) < 128 ? 0 : 255
    })
  if (!['mp4', 'webm', 'avif', 'svg', 'lottie'].includes(format)) return picture
  return changed(picture, (data, i) => {
    for (let c = 0; c < 3; c++) data[i + c] = (data[i + c] as number) + (((i * 31 + c * 17) % 7) - 3)
  })
}
const mirrored = (picture: Picture): Picture => {
  const data = new Uint8ClampedArray(picture.data.length)
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++)
      data.set(picture.data.subarray(4 * (y * SIZE + SIZE - 1 - x), 4 * (y * SIZE + SIZE - x)), 4 * (y * SIZE + x))
  return { width: picture.width, height: picture.height, data }
}
const at = (pictures: readonly Picture[], n: number): Picture => pictures[((n % N) + N) % N] as Picture

/** Everything that an encoder may do wrong with the order and the look of pictures. */
const WRONGS: Readonly<Record<string, (pictures: readonly Picture[]) => readonly Picture[]>> = {
  'written backwards': (pictures) => [...pictures].reverse(),
  'red and blue exchanged': (pictures) =>
    pictures.map((picture) =>
      changed(picture, (data, i) => {
        const red = data[i] as number
        data[i] = data[i + 2] as number
        data[i + 2] = red
      }),
    ),
  'half a turn late': (pictures) => pictures.map((_, n) => at(pictures, n + N / 2)),
  'one frame late': (pictures) => pictures.map((_, n) => at(pictures, n - 1)),
  frozen: (pictures) => pictures.map(() => at(pictures, 0)),
  mirrored: (pictures) => pictures.map(mirrored),
  'two frames exchanged': (pictures) =>
    pictures.map((picture, n) => (n === 7 ? at(pictures, 19) : n === 19 ? at(pictures, 7) : picture)),
}

const fileOf = (format: FileFormat, promise: FilePromise, pictures: readonly Picture[]): ReadBack => ({
  width: SIZE,
  height: SIZE,
  delaysMs: promise.delaysMs,
  playsForever: promise.saysRepeats ? true : null,
  frames: pictures.map((picture) => kept(format, picture)),
})
const promiseFor = (format: FileFormat, pictures = drawn, transparent = false): FilePromise => {
  const settings = withFormat(PLAIN_SETTINGS, format)
  const timing =
    format === 'gif' || !isVector(format)
      ? timingIn(loop, settings)
      : { ...timingIn(loop, settings), frames: Array.from({ length: N }, (_, n) => n) }
  const job = { loop, settings, timing, width: SIZE, height: SIZE, transparent }
  return promiseOf(job, { frame: (n) => at(pictures, n) })
}
const broken = async (file: ReadBack, promise: FilePromise): Promise<string[]> =>
  (await proveFile(1, file, promise)).lines.filter(({ holds }) => !holds).map(({ what }) => what)

describe.each([...FILE_FORMATS])('the promise of %s', (format) => {
  it('holds for a file that is as it was meant', async () => {
    const promise = promiseFor(format)
    expect(await broken(fileOf(format, promise, drawn), promise)).toEqual([])
  })
  it.each(Object.keys(WRONGS))('is broken by a file that is %s', async (wrong) => {
    const promise = promiseFor(format)
    const pictures = (WRONGS[wrong] as (typeof WRONGS)[string])(drawn)
    const found = await broken(fileOf(format, promise, pictures), promise)
    expect(found.some((what) => ['pixels', 'each frame', 'every spot'].includes(what))).toBe(true)
  })
  it('is broken by one delay, where it says any, and by a file that does not repeat, where it says so', async () => {
    const promise = promiseFor(format)
    const file = fileOf(format, promise, drawn)
    const delaysMs = promise.delaysMs?.map((delay, n) => (n === 4 ? delay + 20 : delay)) ?? null
    if (promise.delaysMs) expect(await broken({ ...file, delaysMs }, promise)).toContain('delays')
    if (promise.saysRepeats)
      for (const playsForever of [false, null])
        expect(await broken({ ...file, playsForever }, promise)).toEqual(['repeats'])
  })
  it('is broken where alpha is lost, and where something is clear that should not be', async () => {
    const open = promiseFor(format, clear, true)
    expect(await broken(fileOf(format, open, clear), open)).toEqual([])
    expect(await broken(fileOf(format, open, drawn), open)).toContain('alpha')
    const closed = promiseFor(format)
    expect(await broken(fileOf(format, closed, clear), closed)).toContain('alpha')
  })
  it('is broken by a document whose motions do not come home', async () => {
    const settings = withFormat(PLAIN_SETTINGS, format)
    const [post, arm] = loop.layers as [Loop['layers'][number], Loop['layers'][number]]
    const { rotation } = arm.motions
    if (!rotation) throw new Error('the arm turns')
    const keys = rotation.keys.map((key) => ({ ...key, value: Number(key.value) * 0.996 }))
    const away = { ...loop, layers: [post, { ...arm, motions: { rotation: { ...rotation, keys } } }] }
    const job = {
      loop: away,
      settings,
      timing: timingIn(loop, settings),
      width: SIZE,
      height: SIZE,
      transparent: false,
    }
    const promise = promiseOf(job, { frame: (n) => at(drawn, n), moments: N })
    expect(await broken(fileOf(format, promise, drawn), promise)).toEqual(['motions'])
  })
})

describe('times', () => {
  it('of a GIF are those that its hundredths can say', () => {
    expect(promiseFor('gif').delaysMs).toEqual(gifTiming(N, loop.rate).delaysCs.map((cs) => 10 * cs))
  })
})
