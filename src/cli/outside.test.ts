import { execFile } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { render } from './render'

/** Files as a media prober and an image identifier see them, which know nothing of this program. */
const run = promisify(execFile)
let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-outside-'))
})
afterAll(() => rm(folder, { recursive: true }))

async function written(loop: string, ending: string): Promise<string> {
  const out = join(folder, `${loop}.${ending}`)
  await render(`demo/loops/${loop}.cyclon.json`, {
    out,
    scale: 0.25,
    repeats: 1,
    frames: null,
    background: 'kept',
    quality: null,
  })
  return out
}

interface Probed {
  readonly packets: { readonly pts_time: string; readonly duration_time?: string }[]
  readonly streams: { readonly width: number; readonly height: number; readonly nb_read_frames: string }[]
}
async function probed(path: string): Promise<Probed> {
  const { stdout } = await run('ffprobe', [
    ...[
      '-v',
      'error',
      '-count_frames',
      '-show_entries',
      'stream=width,height,nb_read_frames:packet=pts_time,duration_time',
    ],
    ...['-of', 'json', path],
  ])
  return JSON.parse(stdout)
}
/** Delay in hundredths, and how often the file is played, 0 being for ever, of every frame. */
async function identified(path: string): Promise<string[]> {
  const { stdout } = await run('identify', ['-format', '%T %[fx:w] %[fx:h]\n', path])
  return stdout.trim().split('\n')
}
const iterations = async (path: string): Promise<string | undefined> => {
  const { stdout } = await run('identify', ['-verbose', `${path}[0]`])
  return /Iterations: (\d+)/.exec(stdout)?.[1]
}

describe('files as other programs see them', () => {
  it('GIF: frames, delays, size and endlessness', async () => {
    const path = await written('beacon-loader', 'gif')
    const { streams, packets } = await probed(path)
    expect(streams[0]).toMatchObject({ width: 120, height: 120, nb_read_frames: '60' })
    expect(packets).toHaveLength(60)
    for (const [n, { pts_time }] of packets.entries())
      expect(Number(pts_time)).toBeCloseTo(Math.round((100 * n) / 30) / 100, 6)
    const frames = await identified(path)
    expect(frames.map((line) => Number(line.split(' ')[0])).reduce((a, b) => a + b, 0)).toBe(200)
    expect(frames).toHaveLength(60)
    expect(await iterations(path)).toBe('0')
  })
  it('APNG: frames and exact times', async () => {
    const { streams, packets } = await probed(await written('beacon-loader', 'apng'))
    expect(streams[0]).toMatchObject({ width: 120, height: 120, nb_read_frames: '60' })
    // The prober adds up delays that it has rounded to its own ticks, a hundred thousand in a second.
    for (const [n, { pts_time }] of packets.entries())
      expect(Math.abs(Number(pts_time) - n / 30)).toBeLessThanOrEqual((n + 1) * 1e-5)
  })
  it('WebP: frames, delays and endlessness', async () => {
    const path = await written('tide-gauge', 'webp')
    const frames = await identified(path)
    const { stdout } = await run('webpmux', ['-info', path])
    expect(/Number of frames: (\d+)/.exec(stdout)?.[1]).toBe(String(frames.length))
    expect(stdout).toMatch(/Loop Count : 0/)
    const delays = [...stdout.matchAll(/^\s*\d+:(?:\s+\S+){5}\s+(\d+)/gm)].map(([, delay]) => Number(delay))
    expect(delays).toHaveLength(frames.length)
    expect(delays.reduce((a, b) => a + b, 0)).toBe(3000)
  })
})
