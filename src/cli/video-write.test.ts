import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { fraction, toNumber } from '@/core/clock'
import { newLoop } from '@/core/edit'
import { PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { type RenderOptions, render } from './render'
import { videoSource } from './video'
import { VIDEO_FORMATS, videoOf } from './video-write'
import { TOOLS } from './write'

const PLAIN: Omit<RenderOptions, 'out'> = { scale: 0.2, repeats: 1, frames: null, background: 'kept', quality: null }
let folder = ''
const at = (name: string) => join(folder, name)
const to = (name: string, more: Partial<RenderOptions> = {}) =>
  render(at('beacon.cyclon.json'), { ...PLAIN, ...more, out: at(name) })
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-video-test-'))
  const beacon = JSON.parse(await readFile('demo/loops/beacon-loader.cyclon.json', 'utf8'))
  await writeFile(at('beacon.cyclon.json'), JSON.stringify({ ...beacon, length: 20 }))
})
afterAll(() => rm(folder, { recursive: true }))

/** A job of one grey frame after the other. */
function jobOf(format: (typeof VIDEO_FORMATS)[number], width: number, height: number, transparent = false) {
  const length = 6
  const rate = fraction(25)
  const loop = newLoop({ name: 'Grey', kind: 'loader', width, height, background: null, rate, length }, 'grey')
  const settings = withFormat(PLAIN_SETTINGS, format)
  const draw = async (n: number) => ({ width, height, data: new Uint8ClampedArray(4 * width * height).fill(40 * n) })
  const timing = timingIn({ length, rate }, settings)
  return {
    loop,
    name: 'grey',
    width,
    height,
    timing,
    rate,
    settings,
    transparent,
    draw,
    progress: async () => {},
    tools: TOOLS,
    mostKept: 0,
  }
}

describe('video on the command line', () => {
  it.each(VIDEO_FORMATS)(
    'is written and proven as .%s, with the frames and times of the loop, the same every time',
    async (format) => {
      expect((await to(`a.${format}`)).join()).toContain('20 frames of 96 × 96 px')
      const { claims } = videoSource(at(`a.${format}`))
      expect(claims.delaysMs).toHaveLength(20)
      for (const delay of claims.delaysMs)
        expect(Math.abs(delay - 1000 / 30)).toBeLessThanOrEqual(format === 'webm' ? 1 : 0.1)
      await to(`b.${format}`)
      expect(await readFile(at(`b.${format}`))).toEqual(await readFile(at(`a.${format}`)))
    },
  )
  it('keeps alpha in WebM, and reads it', async () => {
    await to('clear.webm', { background: 'removed' })
    for await (const { data } of videoSource(at('clear.webm')).frames()) {
      expect(data[3]).toBeLessThan(8)
      break
    }
  })
  it('costs less at a lower quality', async () => {
    await to('fine.mp4', { quality: 95 })
    await to('coarse.mp4', { quality: 40 })
    expect((await readFile(at('coarse.mp4'))).length).toBeLessThan(0.8 * (await readFile(at('fine.mp4'))).length)
  })
  it('is refused in one line where there is no program, at odd sizes, and where alpha would be lost; and nothing is left', async () => {
    await expect(videoOf(jobOf('mp4', 16, 16), 'no-such-program')).rejects.toThrow(
      /^Video is written by an installed media program, and none was found\. Install ffmpeg/,
    )
    await expect(videoOf(jobOf('mp4', 15, 16))).rejects.toThrow('H.264 takes even sizes; this one is 15 × 16')
    await expect(videoOf(jobOf('avif', 16, 16, true))).rejects.toThrow('AVIF is written without alpha here')
    const before = await readdir(folder)
    await expect(to('odd.mp4', { scale: 0.10625 })).rejects.toThrow('H.264 takes even sizes')
    expect(await readdir(folder)).toEqual(before)
  })
  it('has the length of its loop', async () => {
    const job = jobOf('webm', 64, 48)
    const { bytes } = await videoOf(job)
    expect(bytes.length).toBeGreaterThan(100)
    expect(toNumber(job.timing.delays[0] ?? fraction(1))).toBeCloseTo(1 / 25, 9)
  })
})
