import { spawnSync } from 'node:child_process'
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { seeded } from '@/core/random'
import { encodeCase } from '../../bench/corpus/encode'
import { pngInNode } from '../render/png-node'
import { checkPath } from './check'
import { CommandError } from './command-error'
import { loopFrom } from './cut-loop'
import { type FindEntry, findAt, findExitCode, findTable } from './find'
import { videoSource } from './video'

const WIDTH = 96
const HEIGHT = 64
const PERIOD = 20
const PLAIN = { overlap: null, steady: null, amount: 0.5 }
const ALL = { min: null, max: null, from: null, to: null, top: 5 }

/** A buoy that goes round over grain, once in twenty frames, or drifts off. */
function buoyAt(n: number, drifts: boolean): Picture {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT)
  const turn = drifts ? 0 : (2 * Math.PI * n) / PERIOD
  const cx = 48 + 26 * Math.cos(turn) - (drifts ? 1.5 * n : 0)
  const cy = 32 + 16 * Math.sin(turn)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const i = 4 * (y * WIDTH + x)
      const grain = 5 * (seeded(n, i) - 0.5)
      const lit = Math.max(0, 1 - Math.hypot(x - cx, y - cy) / 16)
      data.set([20 + 210 * lit + grain, 60 + 60 * lit + grain, 90 + y + grain, 255], i)
    }
  return { width: WIDTH, height: HEIGHT, data }
}

const own: { folder: string } = { folder: '' }
const at = (name: string) => join(own.folder, name)
async function sequence(name: string, count: number, drifts: boolean): Promise<string> {
  await mkdir(at(name))
  for (let n = 0; n < count; n++)
    await writeFile(
      at(`${name}/${String(n).padStart(4, '0')}.png`),
      await pngInNode(buoyAt(n, drifts), { opaque: true }),
    )
  return at(name)
}
const only = (entries: readonly FindEntry[]) => entries[0] as Exclude<FindEntry, { error: string }>

beforeAll(async () => {
  own.folder = await mkdtemp(join(tmpdir(), 'cyclon-find-'))
  await sequence('round', 55, false)
  await sequence('away', 30, true)
  const made = spawnSync('ffmpeg', [
    ...['-v', 'error', '-framerate', '25', '-i', at('round/%04d.png')],
    ...['-c:v', 'libvpx-vp9', '-crf', '20', '-b:v', '0', '-deadline', 'realtime', at('round.webm')],
  ])
  expect(made.status).toBe(0)
})
afterAll(() => rm(own.folder, { recursive: true, force: true }))

describe('loops in a clip', () => {
  it.each(['round', 'round.webm'])('are found in %s, whole periods of it, and seen to close', async (name) => {
    const entries = await findAt(at(name), 25, ALL)
    const { frames, rate, period, cuts } = only(entries)
    expect([frames, rate, period]).toEqual([55, 25, PERIOD])
    expect(cuts.length).toBeGreaterThan(0)
    for (const { length, verdict } of cuts) expect([length % PERIOD, verdict]).toEqual([0, 'closes'])
    expect(findExitCode(entries)).toBe(0)
    expect(findTable(entries)).toContain('comes back every 20 f')
  })
  it('are none where nothing comes back; what cannot be read is said', async () => {
    const entries = await findAt(at('away'), 25, ALL)
    expect([only(entries).cuts, only(entries).period, findExitCode(entries)]).toEqual([[], null, 1])
    await writeFile(at('words.mp4'), 'no video')
    const broken = await findAt(at('words.mp4'), 25, ALL)
    expect([findExitCode(broken), findTable(broken)]).toEqual([2, expect.stringContaining('cannot be read')])
  })
  it('that are videos need an installed program, and say which', () => {
    expect(() => videoSource(at('round.webm'), { probe: 'no-such-program', reader: 'no-such-program' })).toThrow(
      'Install ffmpeg',
    )
  })
})

describe('an HDR video', () => {
  it('is refused in words, since its light would be read as another', async () => {
    const made = spawnSync('ffmpeg', [
      ...[
        '-v',
        'error',
        '-f',
        'lavfi',
        '-i',
        'testsrc2=s=96x64:r=25:d=0.4',
        '-c:v',
        'libvpx-vp9',
        '-deadline',
        'realtime',
      ],
      ...[
        '-pix_fmt',
        'yuv420p10le',
        '-color_primaries',
        'bt2020',
        '-color_trc',
        'smpte2084',
        '-colorspace',
        'bt2020nc',
      ],
      at('hdr.webm'),
    ])
    expect(made.status).toBe(0)
    expect(findTable(await findAt(at('hdr.webm'), 25, ALL))).toContain('It is an HDR video')
  })
})

describe('a loop out of a clip', () => {
  it.each([
    ['as it was found, from a video', 'round.webm', { start: null, length: null, join: null }, 40, 'cut as it is'],
    [
      'overlapping, at a length that does not close',
      'round',
      { start: 8, length: 25, join: 'contrast' },
      25,
      'contrast',
    ],
    ['morphed, at a length that does not close', 'round', { start: 8, length: 25, join: 'morph' }, 25, 'morphed'],
    ['in parts', 'round', { start: null, length: 40, join: 'parts' }, 40, 'its own loop'],
    ['steadied', 'round', { start: 8, length: 20, join: 'cut', steady: 'shift' }, 20, 'cut as it is'],
    ['there and back', 'away', { start: 4, length: 12, join: 'there-and-back' }, 22, 'there and back'],
  ] as const)('is written and proven: %s', async (_, name, how, frames, words) => {
    const out = at(`${words.replaceAll(' ', '-')}-${name}.apng`)
    const lines = await loopFrom(at(name), 25, { out, ...PLAIN, ...how })
    expect(lines[0]).toContain(words)
    const [checked] = await checkPath(out, 25)
    const entry = checked?.entry as { frames: number; durationMs: number; seam: { verdict: string } }
    expect([entry.frames, entry.durationMs, entry.seam.verdict]).toEqual([frames, 40 * frames, 'closes'])
  })
  it('keeps the time that its frames had, and says where they are evened out', async () => {
    const gif = (delaysMs: number[]) => {
      const pictures = delaysMs.map((_, n) => buoyAt(n, false))
      return encodeCase({ scene: '', fault: '', plays: 0, expected: null, pictures, delaysMs }, 'gif, one palette')
    }
    const written = async (name: string, delaysMs: number[]) => {
      await writeFile(at(name), await gif(delaysMs))
      const out = at(`${name}-cut.apng`)
      const how = { start: 0, length: PERIOD, join: 'cut' } as const
      const lines = await loopFrom(at(name), 25, { out, ...PLAIN, ...how })
      const [checked] = await checkPath(out, 25)
      const { durationMs } = (checked as NonNullable<typeof checked>).entry as { durationMs: number }
      return { said: lines.filter((line) => line.includes('are shown for')), durationMs }
    }
    const uneven = Array.from({ length: PERIOD }, (_, n) => (n % 4 === 3 ? 200 : 100))
    const found = await written('uneven.gif', uneven)
    expect(Math.abs(found.durationMs - 2500)).toBeLessThan(2)
    expect(found.said).toEqual([
      expect.stringMatching(/100 to 200 ms; in the loop each is shown for 125 ms, .* 2\.50 s/),
    ])
    // Hundredths that take turns are an even pace.
    const even = await written(
      'even.gif',
      Array.from({ length: PERIOD }, (_, n) => (n % 3 === 0 ? 40 : 30)),
    )
    expect(even.said).toEqual([])
    expect(Math.abs(even.durationMs - 670)).toBeLessThan(10)
  })
  it('that shows its last frame twice is refused: nothing says that this is meant', async () => {
    await mkdir(at('twice'))
    for (let n = 0; n <= PERIOD; n++) {
      const shown = await pngInNode(buoyAt(Math.min(n, PERIOD - 1), false), { opaque: true })
      await writeFile(at(`twice/${String(n).padStart(4, '0')}.png`), shown)
    }
    const how = { start: 0, length: PERIOD + 1, join: 'cut' } as const
    await expect(loopFrom(at('twice'), 25, { out: at('twice.apng'), ...PLAIN, ...how })).rejects.toThrow(
      'was not written: seam: repeats a frame in place of closes',
    )
  })
  it('that jumps is not left behind, and what is not there is refused', async () => {
    const refused = (how: object, name = 'away') =>
      loopFrom(at(name), 25, { out: at('never.gif'), start: 0, length: 20, join: null, ...PLAIN, ...how }).catch(
        (error: unknown) => error,
      )
    expect(await refused({ join: 'cut' })).toBeInstanceOf(CommandError)
    expect(await refused({ start: 20 })).toMatchObject({ message: expect.stringContaining('are not among them') })
    expect(await refused({ start: null, length: null })).toMatchObject({
      message: expect.stringContaining('nothing in it loops'),
    })
    expect(await refused({}, 'nowhere')).toMatchObject({ message: expect.stringContaining('no such file') })
    expect((await readdir(own.folder)).includes('never.gif')).toBe(false)
    expect((await readFile(at('away/0000.png'))).length).toBeGreaterThan(0)
  })
})
