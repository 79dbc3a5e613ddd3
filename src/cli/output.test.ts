import { link, mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import type { WorkPlan } from '@/core/output'
import { pngInNode } from '../render/png-node'
import { CommandError } from './command-error'
import { loopFrom } from './cut-loop'
import { joinPlan } from './join-plan'
import { renderMany } from './many'
import { writeWhole } from './output'
import { clusterPlan, readPlan } from './plan'
import { render } from './render'
import { healTile } from './tile'
import { doTask } from './work'

const BEACON = JSON.parse(await readFile('demo/loops/beacon-loader.cyclon.json', 'utf8'))
const LOOP = JSON.stringify({ ...BEACON, length: 12 })
const PLAIN = { scale: 0.1, repeats: 1, frames: null, background: 'kept' as const, quality: null, cores: 1 }
const CUT = { start: 0, length: 12, join: 'cut' as const, overlap: null, steady: null, amount: 0.5 }

let folder = ''
const at = (...names: string[]) => join(folder, ...names)
const text = (name: string) => readFile(at(name), 'utf8')
const names = async () => (await readdir(folder)).sort()

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-output-'))
})
afterAll(() => rm(folder, { recursive: true }))
beforeEach(async () => {
  for (const name of await readdir(folder)) await rm(at(name), { recursive: true })
  await writeFile(at('lamp.cyclon.json'), LOOP)
})

describe('what is read', () => {
  it('is never written over, by whatever name, though that is asked for', async () => {
    await symlink(at('lamp.cyclon.json'), at('linked.json'))
    await link(at('lamp.cyclon.json'), at('same.json'))
    for (const name of [
      'lamp.cyclon.json',
      'linked.json',
      'same.json',
      join('..', folder.split('/').at(-1) as string, 'lamp.cyclon.json'),
    ])
      await expect(render(at('lamp.cyclon.json'), { ...PLAIN, out: at(name), force: true })).rejects.toThrow(
        'It is what is read',
      )
    const many = {
      ...PLAIN,
      scales: [0.1],
      formats: ['json'],
      resume: false,
      keepGoing: false,
      manifest: null,
      force: true,
    }
    const tell = { line: () => {}, progress: () => {}, end: () => {} }
    expect(await renderMany([at('lamp.cyclon.json')], { ...many, out: at('{name}.cyclon.json') }, tell)).toBe(false)
    expect(await text('lamp.cyclon.json')).toBe(LOOP)
  })
  it('is not either where it is footage: a file, or a picture of a folder', async () => {
    await render(at('lamp.cyclon.json'), { ...PLAIN, out: at('clip.webp') })
    const before = await readFile(at('clip.webp'))
    await expect(loopFrom(at('clip.webp'), 25, { ...CUT, out: at('clip.webp'), force: true })).rejects.toThrow(
      'It is what is read',
    )
    expect(await readFile(at('clip.webp'))).toEqual(before)
    await mkdir(at('frames'))
    const picture = (n: number) => ({ width: 16, height: 16, data: new Uint8ClampedArray(1024).fill(20 * n) })
    for (let n = 0; n < 12; n++) await writeFile(at('frames', `${n}.png`), await pngInNode(picture(n)))
    const first = await readFile(at('frames', '0.png'))
    await expect(loopFrom(at('frames'), 25, { ...CUT, out: at('frames', '0.png'), force: true })).rejects.toThrow(
      'It is what is read',
    )
    await expect(
      healTile(at('frames', '0.png'), { out: at('frames', '0.png'), axis: 'both', force: true }),
    ).rejects.toThrow('It is what is read')
    expect(await readFile(at('frames', '0.png'))).toEqual(first)
  })
})

describe('a file that is there', () => {
  it('is replaced where this program wrote it, and not where somebody changed it since, or else wrote it, unless forced', async () => {
    const out = at('lamp.gif')
    await render(at('lamp.cyclon.json'), { ...PLAIN, out })
    const bytes = await readFile(out)
    await render(at('lamp.cyclon.json'), { ...PLAIN, out })
    await writeFile(out, 'work of somebody else')
    await expect(render(at('lamp.cyclon.json'), { ...PLAIN, out })).rejects.toThrow('--force')
    expect(await text('lamp.gif')).toBe('work of somebody else')
    await render(at('lamp.cyclon.json'), { ...PLAIN, out, force: true })
    expect(await readFile(out)).toEqual(bytes)
    await mkdir(at('folder.gif'))
    await expect(render(at('lamp.cyclon.json'), { ...PLAIN, out: at('folder.gif'), force: true })).rejects.toThrow(
      'is a folder',
    )
  })
  it('stays as it was, with nothing beside it, where the new one cannot be written', async () => {
    await writeWhole(at('own.txt'), 'before', { reads: [], force: false })
    await expect(writeWhole(at('nowhere', 'own.txt'), 'after', { reads: [], force: false })).rejects.toThrow()
    await expect(writeWhole(at('own.txt'), { length: 3 } as never, { reads: [], force: false })).rejects.toThrow()
    expect(await text('own.txt')).toBe('before')
    // A loop that jumps is proven not to close, and leaves nothing.
    const jumping = {
      ...BEACON,
      length: 12,
      layers: BEACON.layers.map((layer: object) => ({ ...layer, motions: { x: JUMP } })),
    }
    await writeFile(at('lamp.cyclon.json'), JSON.stringify(jumping))
    await expect(render(at('lamp.cyclon.json'), { ...PLAIN, out: at('lamp.gif') })).rejects.toThrow('was not written')
    expect(await names()).toEqual(['lamp.cyclon.json', 'own.txt'])
  })
  it('is no manifest unless it is one', async () => {
    const many = {
      ...PLAIN,
      scales: [0.1],
      formats: ['gif'],
      resume: false,
      keepGoing: false,
      out: at('{name}.{format}'),
    }
    const tell = { line: () => {}, progress: () => {}, end: () => {} }
    await expect(
      renderMany([at('lamp.cyclon.json')], { ...many, manifest: at('lamp.cyclon.json') }, tell),
    ).rejects.toThrow('no manifest')
    expect(await text('lamp.cyclon.json')).toBe(LOOP)
  })
})

const JUMP = {
  keys: [
    { at: 0, value: 0, ease: 'linear' },
    { at: 1, value: 300, ease: 'linear' },
  ],
  after: 'accumulate',
  period: { cycles: 1 },
  phase: 0,
}

describe('a plan', () => {
  const planned = async (change: (plan: WorkPlan) => unknown) => {
    const many = { ...PLAIN, scales: [0.1], formats: ['gif'], resume: false, keepGoing: false, manifest: null }
    const plan = await clusterPlan([at('lamp.cyclon.json')], { ...many, out: at('lamp.{format}') }, 1)
    const here = { ...plan, files: plan.files.map((file) => ({ ...file, loop: 'lamp.cyclon.json', out: 'lamp.gif' })) }
    await mkdir(at('plans'), { recursive: true })
    await writeFile(at('plans', 'lamp.cyclon.json'), LOOP)
    await writeFile(at('plans', 'plan.json'), JSON.stringify(change(here)))
  }
  const withFile = (part: object) => (plan: WorkPlan) => ({
    ...plan,
    files: plan.files.map((file) => ({ ...file, ...part })),
  })
  const said: string[] = []
  const work = (allowed = {}) => doTask(at('plans', 'plan.json'), 0, (line) => said.push(line), allowed)

  it.each([
    ['out', '../escaped.gif'],
    ['out', 'a/../../escaped.gif'],
    ['loop', '../lamp.cyclon.json'],
    ['loop', '/elsewhere/lamp.cyclon.json'],
  ])('that leads out of its folder by its %s, %s, is refused unless that is said to be meant', async (name, path) => {
    await planned(withFile({ [name]: path }))
    await expect(work()).rejects.toThrow(`${path} leads out of the folder of the plan`)
    await expect(joinPlan(at('plans', 'plan.json'), () => {})).rejects.toThrow('--outside')
    expect(await names()).toEqual(['lamp.cyclon.json', 'plans'])
  })
  it('may lead out of its folder where that is said', async () => {
    await planned(withFile({ out: '../escaped.gif', loop: '../lamp.cyclon.json' }))
    await work({ outside: true })
    expect(await names()).toContain('escaped.gif')
  })
  it('writes over nothing that it reads, itself among it', async () => {
    await planned(withFile({ out: 'plan.json' }))
    await expect(work({ force: true })).rejects.toThrow('It is what is read')
  })
  it.each([
    { pieces: 1e9 },
    { pieces: -1 },
    { pieces: 2.5 },
    { frames: 1e12 },
    { frames: 0 },
    { repeats: 1e9 },
    { scale: 1e6 },
    { scale: Number.NaN },
    { quality: -5 },
  ])('with numbers that no plan has is none: %j', async (part) => {
    await planned(withFile(part))
    const plan = await readFile(at('plans', 'plan.json'), 'utf8')
    expect(() => readPlan(plan, 'plan.json')).toThrow(CommandError)
  })
  it('does again what another version of the program has done', async () => {
    await planned((plan) => plan)
    await work()
    said.length = 0
    await work()
    expect(said).toEqual(['lamp.gif: there and proven'])
    const program = await import('./program')
    vi.spyOn(program, 'programName').mockReturnValue('another')
    said.length = 0
    await work()
    expect(said[0]).toContain('proven: closes')
    vi.restoreAllMocks()
  })
  it('proves vectors, too', async () => {
    await planned(withFile({ out: 'lamp.svg' }))
    await work()
    const lines: string[] = []
    await joinPlan(at('plans', 'plan.json'), (line) => lines.push(line))
    expect(lines.at(-1)).toContain('1 of 1 files written and proven')
  })
  it('names a record that is none in one line, and goes on with the others', async () => {
    await planned((plan) => plan)
    await work()
    const [record] = (await readdir(at('plans', 'cyclon-done'))).filter((name) => name.endsWith('.json'))
    for (const damaged of ['{', '[]', '{"file":"../../x"}', 'null']) {
      await writeFile(at('plans', 'cyclon-done', record as string), damaged)
      const lines: string[] = []
      expect(await joinPlan(at('plans', 'plan.json'), (line) => lines.push(line))).toBe(false)
      expect(lines[0]).toContain('It is no record')
      expect(lines[0]).not.toContain('\n')
    }
  })
})
