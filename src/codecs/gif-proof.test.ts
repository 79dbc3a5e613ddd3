import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { gifTiming } from '@/core/clock'
import { parseLoop } from '@/core/document'
import { evaluate } from '@/core/evaluate'
import type { Picture } from '@/core/image'
import { renderInNode } from '../render/node'
import { type FilePromise, type GifColours, gifPromise, PLAIN_COLOURS, proveGif, writeGif } from '.'

const loop = parseLoop(readFileSync(new URL('../../demo/loops/beacon-loader.cyclon.json', import.meta.url), 'utf8'))
const SIZE = 96
const { delaysCs } = gifTiming(loop.length, loop.rate)
const colours: GifColours = { ...PLAIN_COLOURS, colours: 64, transparent: false }
let frames: Picture[] = []
beforeAll(() => {
  frames = delaysCs.map((_, n) => renderInNode(evaluate(loop, n), SIZE, SIZE))
})

const written = async (shown: readonly Picture[], delays: readonly number[] = delaysCs) => {
  const { bytes } = await writeGif({
    width: SIZE,
    height: SIZE,
    delaysCs: shown.map((_, n) => delays[n] ?? 3),
    colours,
    draw: async (n) => shown[n] as Picture,
    mostKept: 0,
    progress: () => {},
  })
  return bytes
}
const promise = (): FilePromise =>
  gifPromise({ width: SIZE, height: SIZE, delaysCs, transparent: false, frame: (n) => frames[n] as Picture })
const failing = async (bytes: Uint8Array) =>
  (await proveGif(bytes, promise())).lines.filter(({ holds }) => !holds).map(({ what }) => what)

describe('the proof of a GIF', () => {
  it('holds for a file that is as it was meant', async () => {
    const proof = await proveGif(await written(frames), promise())
    expect(proof.lines.filter(({ holds }) => !holds)).toEqual([])
    expect(proof.holds).toBe(true)
    expect(proof.lines.find(({ what }) => what === 'time of one loop')?.found).toBe('2.00 s')
    expect(proof.meanError).toBeLessThan(1)
  })
  it('names a frame that is missing', async () => {
    expect(await failing(await written(frames.slice(0, -1)))).toEqual(expect.arrayContaining(['frames', 'delays']))
  })
  it('names a first frame that is shown again at the end', async () => {
    expect(await failing(await written([...frames.slice(0, -1), frames[0] as Picture]))).toContain('seam')
  })
  it('names a blank last frame', async () => {
    const blank = renderInNode({ ...evaluate(loop, 0), nodes: [] }, SIZE, SIZE)
    const proof = await proveGif(await written([...frames.slice(0, -1), blank]), promise())
    expect(proof.lines.at(-1)).toMatchObject({ what: 'seam', found: 'blank frame', holds: false })
  })
  it('names a changed delay', async () => {
    const delays = delaysCs.map((delay, n) => (n === 7 ? delay + 5 : delay))
    expect(await failing(await written(frames, delays))).toEqual(['time of one loop', 'delays'])
  })
  it('names a file that does not repeat for ever', async () => {
    const bytes = await written(frames)
    const at = bytes.findIndex((_, i) => String.fromCharCode(...bytes.subarray(i, i + 11)) === 'NETSCAPE2.0')
    bytes[at + 13] = 3
    expect(await failing(bytes)).toEqual(['repeats'])
  })
  it('tells its progress, and stops when told to', async () => {
    const told: number[] = []
    await proveGif(await written(frames), promise(), (n) => void told.push(n))
    expect(told).toHaveLength(frames.length)
    const stop = proveGif(await written(frames), promise(), () => {
      throw new Error('enough')
    })
    await expect(stop).rejects.toThrow('enough')
  })
})
