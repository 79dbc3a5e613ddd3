import { execFile } from 'node:child_process'
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { strToU8, unzipSync, zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { zipProject } from '@/codecs'
import { readClaims } from '@/codecs/claims'
import { fraction } from '@/core/clock'
import { formatLoop, parseLoop } from '@/core/document'
import { madeAsset } from '@/core/media'
import { pierOf } from '@/core/testing/media'
import { checkPath } from './check'
import { fitPeriods, fitTable, foldsArgument, periodArgument } from './fit'
import { joinParts } from './join'
import { PART } from './parts'
import { type RenderOptions, render } from './render'

const BEACON = 'demo/loops/beacon-loader.cyclon.json'
const PLAIN: Omit<RenderOptions, 'out'> = { scale: 0.2, repeats: 1, frames: null, background: 'kept', quality: null }
const run = promisify(execFile)

let folder = ''
const at = (name: string) => join(folder, name)
const to = (name: string, more: Partial<RenderOptions> = {}) => render(BEACON, { ...PLAIN, ...more, out: at(name) })
const bytesOf = async (name: string) => new Uint8Array(await readFile(at(name)))
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-render-'))
})
afterAll(() => rm(folder, { recursive: true }))

describe('cyclon render', () => {
  it.each(['gif', 'apng', 'webp', 'zip'])('writes a proven .%s that closes', async (ending) => {
    expect((await to(`a.${ending}`)).join()).toContain('60 frames of 96 × 96 px')
    const [checked] = await checkPath(at(`a.${ending}`), 30)
    expect(checked).toMatchObject({ sound: true, entry: { frames: 60, playsForever: true } })
  })
  it.each(['gif', 'apng', 'webp'])('writes the same .%s on one core as on several', async (ending) => {
    await to(`one.${ending}`, { cores: 1 })
    await to(`several.${ending}`, { cores: 3 })
    expect(await bytesOf(`one.${ending}`)).toEqual(await bytesOf(`several.${ending}`))
  })
  it('says what is wrong with a picture that its threads cannot decode', async () => {
    const loop = parseLoop(await readFile(BEACON, 'utf8'))
    const file = await madeAsset('image/png', new Uint8Array([1, 2, 3]))
    const torn = { ...loop, media: [pierOf({ name: 'Torn chart', file })] }
    await writeFile(at('torn.cyclon.zip'), await zipProject(torn))
    await expect(render(at('torn.cyclon.zip'), { ...PLAIN, out: at('torn.gif'), cores: 2 })).rejects.toThrow(
      'The picture “Torn chart” in the loop cannot be decoded',
    )
    await rm(at('torn.cyclon.zip'))
  })
  it('repeats the loop within the file, and takes it off its ground', async () => {
    await to('twice.apng', { repeats: 2, background: 'removed' })
    const { delaysMs, plays } = readClaims(await bytesOf('twice.apng'))
    expect([delaysMs.length, plays]).toEqual([120, 0])
  })
  it('writes vectors, and says what they cannot show', async () => {
    await to('a.svg')
    expect(new TextDecoder().decode(await bytesOf('a.svg'))).toContain('<animateTransform')
    const said = await render('demo/loops/lens-sweep.cyclon.json', { ...PLAIN, out: at('a.json') })
    expect(said.join('\n')).toContain('Lamp: its effects are left out')
    expect(JSON.parse(new TextDecoder().decode(await bytesOf('a.json')))).toMatchObject({
      fr: 25,
      op: 100,
      w: 96,
      h: 72,
    })
  })
  it('leaves nothing behind where it cannot write', async () => {
    const before = await readdir(folder)
    await expect(to('a.tiff')).rejects.toThrow('a.tiff: write to one of .gif, .apng')
    await expect(render('nowhere.json', { ...PLAIN, out: at('b.gif') })).rejects.toThrow('no such file')
    await writeFile(at('not-a-loop.json'), '{}')
    await expect(render(at('not-a-loop.json'), { ...PLAIN, out: at('b.gif') })).rejects.toThrow('not-a-loop.json:')
    await rm(at('not-a-loop.json'))
    expect(await readdir(folder)).toEqual(before)
  })
  it('does not leave a file there that breaks its promise', async () => {
    const jumping = parseLoop(await readFile(BEACON, 'utf8'))
    const broken = {
      ...jumping,
      layers: jumping.layers.map((layer) => ({
        ...layer,
        motions: Object.fromEntries(
          Object.entries(layer.motions).map(([name, motion]) => [name, { ...motion, period: { frames: 47 } }]),
        ),
      })),
    }
    await writeFile(at('broken.cyclon.json'), formatLoop(broken as typeof jumping))
    await expect(render(at('broken.cyclon.json'), { ...PLAIN, out: at('broken.gif') })).rejects.toThrow('seam: jumps')
    expect((await readdir(folder)).filter((name) => name.startsWith('broken'))).toEqual(['broken.cyclon.json'])
  })
})

describe('cyclon join', () => {
  const part = (name: string, frames: [number, number]) => to(name, { frames })
  it('puts parts together to the file that is written at once, to the byte', async () => {
    await Promise.all([part('p0.zip', [0, 19]), part('p1.zip', [20, 44]), part('p2.zip', [45, 59])])
    for (const ending of ['gif', 'apng', 'webp']) {
      await joinParts(['p2.zip', 'p0.zip', 'p1.zip'].map(at), {
        out: at(`joined.${ending}`),
        repeats: 1,
        quality: null,
      })
      await to(`whole.${ending}`)
      expect(await bytesOf(`joined.${ending}`)).toEqual(await bytesOf(`whole.${ending}`))
    }
  })
  it('says which frames are missing, twice there, or of another loop', async () => {
    const join = (...names: string[]) => joinParts(names.map(at), { out: at('x.gif'), repeats: 1, quality: null })
    await expect(join('p0.zip', 'p2.zip')).rejects.toThrow('25 of 60 frames are in no part: 20, 21')
    await part('more.zip', [19, 25])
    await expect(join('p0.zip', 'more.zip')).rejects.toThrow('Frame 19 is in more than one part')
    await to('other.zip', { frames: [20, 59], scale: 0.3 })
    await expect(join('p0.zip', 'other.zip')).rejects.toThrow('a part of another loop, state or size')
    const files = unzipSync(await bytesOf('p0.zip'))
    delete files['00007.png']
    await writeFile(at('holes.zip'), zipSync(files))
    await expect(join('holes.zip')).rejects.toThrow('says that it has frame 7, and does not')
    await writeFile(at('claims.zip'), zipSync({ [PART]: strToU8('{"format":"cyclon-part"}') }))
    await expect(join('claims.zip')).rejects.toThrow('no part of a loop')
    await expect(part('beyond.zip', [50, 60])).rejects.toThrow('frames 0 to 59')
  })
})

describe('cyclon fit', () => {
  const rate = fraction(30000, 1001)
  it('reads periods in seconds and frames', () => {
    expect(periodArgument('1.5s', rate)).toEqual(fraction(3, 2))
    expect(periodArgument('20f', rate)).toEqual(fraction(20 * 1001, 30000))
    for (const wrong of ['20', 'f', '0s', '-1s', 'ten s']) expect(() => periodArgument(wrong, rate)).toThrow(RangeError)
    expect(() => foldsArgument('1,0')).toThrow('no fold')
  })
  it('finds the exact length, and the front to it', () => {
    const seconds = (...texts: string[]) => texts.map((text) => periodArgument(text, fraction(24)))
    const answer = fitPeriods(seconds('2s', '3s', '12f'), [], fraction(24), 600)
    expect(answer.exact).toBe(144)
    expect(answer.front.at(-1)).toEqual({ length: 144, cycles: [3, 2, 12], worstError: 0 })
    expect(fitPeriods(seconds('1.5s', '0.7s'), [], rate, 600).exact).toBeNull()
    // An eighth of its turn brings a wheel of eight spokes home.
    expect(fitPeriods(seconds('2s'), [8], fraction(24), 600).exact).toBe(6)
    expect(fitTable(answer, fraction(24))).toContain('exact at 144 f, 6.000 s')
  })
  it('answers in JSON on the command line, and says what is wrong in a line', async () => {
    const { stdout } = await run('node', ['bin/cyclon.mjs', 'fit', '--rate', '24', '--periods', '2s,3s', '--json'])
    expect(JSON.parse(stdout)).toMatchObject({
      exact: 144,
      front: [{ length: 1 }, ...Array(JSON.parse(stdout).front.length - 1).fill({})],
    })
    await expect(run('node', ['bin/cyclon.mjs', 'fit', '--rate', '24', '--periods', '2'])).rejects.toMatchObject({
      code: 2,
      stderr: expect.stringContaining('no period'),
    })
  })
})
