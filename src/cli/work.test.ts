import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { unzipSync, zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PIECED, type Pieced } from '@/codecs/write'
import { newLayer } from '@/core/edit'
import { evenTasks, type PlannedFile, rangesOf, type Step, type WorkPlan } from '@/core/output'
import { joinPlan } from './join-plan'
import { provenPiece } from './piece-file'
import { clusterPlan, readPlan } from './plan'
import { encodeJobOf, render } from './render'
import { doTask } from './work'
import { readLoopAt } from './write'

const BEACON = JSON.parse(await readFile('demo/loops/beacon-loader.cyclon.json', 'utf8'))
const OPTIONS = {
  repeats: 1,
  background: 'kept' as const,
  quality: null,
  resume: false,
  keepGoing: false,
  manifest: null,
}

let folder = ''
const at = (...names: string[]) => join(folder, ...names)
const said: string[] = []
const say = (line: string) => void said.push(line)
const work = (task: number) => doTask(at('plan.json'), task, say)
const joining = () => joinPlan(at('plan.json'), say)
const planned = async (): Promise<WorkPlan> => JSON.parse(await readFile(at('plan.json'), 'utf8'))
const pieces = async () => (await readdir(at('cyclon-done'))).filter((name) => name.endsWith('.piece')).sort()

/** A plan whose paths are those from its own folder on, with an APNG, a WebP and a sequence in pieces, and a GIF that is whole. */
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-work-'))
  await writeFile(at('lamp.cyclon.json'), JSON.stringify({ ...BEACON, length: 24 }))
  const out = at('{name}-{width}.{format}')
  const plan = await clusterPlan(
    [at('lamp.cyclon.json')],
    { ...OPTIONS, out, formats: ['apng', 'webp', 'zip', 'gif'], scales: [0.1] },
    12,
  )
  const here = (path: string) => path.split('/').at(-1) as string
  const files = plan.files.map((file) => ({
    ...file,
    loop: here(file.loop),
    out: here(file.out),
    pieces: file.out.endsWith('gif') ? 1 : 3,
  }))
  const steps = files.flatMap(({ frames, pieces: count }, file): Step[] =>
    count === 1 ? [{ file }] : rangesOf(frames, count).map((range) => ({ file, frames: range })),
  )
  await writeFile(
    at('plan.json'),
    JSON.stringify({ ...plan, files, tasks: steps.map((step) => ({ seconds: 1, steps: [step] })) }),
  )
})
afterAll(() => rm(folder, { recursive: true }))

describe('a plan', () => {
  it('divides frames evenly, every one into one piece', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 1, max: 400 }), (frames, wanted) => {
        const count = Math.min(frames, wanted)
        const ranges = rangesOf(frames, count)
        expect(ranges.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => from + i))).toEqual(
          Array.from({ length: frames }, (_, n) => n),
        )
        const lengths = ranges.map(([from, to]) => to - from + 1)
        expect(Math.max(...lengths) - Math.min(...lengths)).toBeLessThanOrEqual(1)
      }),
      { numRuns: 40 },
    )
  })
  it('gives every step to one task, of which none costs more than twice the average and the dearest step', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.01, max: 100, noNaN: true }), { minLength: 1, maxLength: 200 }),
        fc.integer({ min: 1, max: 40 }),
        (costs, most) => {
          const tasks = evenTasks(
            costs.map((seconds, file) => ({ step: { file }, seconds })),
            most,
          )
          expect(tasks.flatMap(({ steps }) => steps.map(({ file }) => file)).sort((a, b) => a - b)).toEqual(
            costs.map((_, file) => file),
          )
          const all = costs.reduce((a, b) => a + b, 0)
          expect(Math.max(...tasks.map(({ seconds }) => seconds))).toBeLessThanOrEqual(
            all / tasks.length + Math.max(...costs) + 0.02,
          )
        },
      ),
      { numRuns: 60 },
    )
  })
  it('is refused where it is none', () => {
    for (const text of ['', '{', '[]', '{"format":"cyclon-plan","files":[{}],"tasks":[]}'])
      expect(() => readPlan(text, 'plan.json')).toThrow('plan.json: It is no plan')
  })
})

describe('the tasks of a plan', () => {
  it('say what has not been done, and by which task', async () => {
    expect(await joining()).toBe(false)
    expect(said.join('\n')).toMatch(/lamp-48\.apng: frames 0 to 7 have not been done \(task 0\)/)
    expect(said.join('\n')).toMatch(/lamp-48\.gif: It has not been written \(task 9\)/)
    await expect(work(99)).rejects.toThrow('It has tasks 0 to 9; there is no task 99')
  })
  it('are done in any order, twice, and beside each other, and make the files that one process makes, to the byte', async () => {
    await Promise.all([work(7), work(2), work(2)])
    for (const task of [9, 8, 6, 5, 4, 3, 1, 0, 5]) await work(task)
    expect((await readdir(at('cyclon-done'))).filter((name) => name.includes('unfinished'))).toEqual([])
    expect(await joining()).toBe(true)
    for (const format of ['apng', 'webp', 'gif', 'zip']) {
      await render(at('lamp.cyclon.json'), { ...OPTIONS, scale: 0.1, frames: null, out: at(`alone.${format}`) })
      const ours = await readFile(at(`lamp-48.${format}`))
      const alone = await readFile(at(`alone.${format}`))
      if (format === 'zip') expect(ours.length).toBeGreaterThan(1000)
      else expect(ours, format).toEqual(alone)
    }
    const { files } = JSON.parse(await readFile(at('cyclon-manifest.json'), 'utf8'))
    expect(files).toHaveLength(4)
    for (const { proof } of files) expect(proof).toMatchObject({ holds: true, seam: { verdict: 'closes' } })
  })
  it('leave alone what is done', async () => {
    const before = await readFile(at('lamp-48.gif'))
    said.length = 0
    await work(9)
    expect(said).toEqual(['lamp-48.gif: there and proven'])
    expect(await readFile(at('lamp-48.gif'))).toEqual(before)
    await rm(at('lamp-48.gif'))
    // Where the file cannot be put, that is said in a line with its name, and nothing is left.
    await mkdir(at('lamp-48.gif'))
    await expect(work(9)).rejects.toThrow(/lamp-48\.gif: It is a folder/)
    expect((await readdir(folder)).filter((name) => name.includes('unproven'))).toEqual([])
    await rm(at('lamp-48.gif'), { recursive: true })
    await work(9)
    expect(await readFile(at('lamp-48.gif'))).toEqual(before)
  })
  it('name a piece that is damaged, missing or foreign, and write nothing of it', async () => {
    const records = (await readdir(at('cyclon-done'))).filter((name) => name.endsWith('.json'))
    const again = async () => {
      for (const name of records) await rm(at('cyclon-done', name), { force: true })
      await rm(at('lamp-48.apng'), { force: true })
      said.length = 0
      expect(await joining()).toBe(false)
      expect(await readdir(folder)).not.toContain('lamp-48.apng')
      return said.join('\n')
    }
    const [first, second] = (await pieces()).filter((name) => name.startsWith('file-0-'))
    const whole = await readFile(at('cyclon-done', first as string))
    await writeFile(at('cyclon-done', first as string), whole.subarray(0, whole.length / 2))
    expect(await again()).toContain(`${first}: It is damaged, or a piece of something else`)
    await writeFile(at('cyclon-done', first as string), await readFile(at('cyclon-done', second as string)))
    expect(await again()).toContain(`${first}: It is damaged, or a piece of something else`)
    await rm(at('cyclon-done', first as string))
    expect(await again()).toContain('lamp-48.apng: frames 0 to 7 have not been done (task 0)')
    await work(0)
    said.length = 0
    await joining()
    expect(said.join('\n')).toContain('lamp-48.apng: 3 pieces, 24 frames')
  })
  it('name a frame of which the file would hold something else than was read back', async () => {
    for (const file of [0, 1, 2]) {
      const [first] = (await pieces()).filter((name) => name.startsWith(`file-${file}-`))
      const path = at('cyclon-done', first as string)
      const whole = await readFile(path)
      // A sound picture, but of another frame.
      const files = unzipSync(whole)
      await writeFile(path, zipSync({ ...files, 4: files[5] as Uint8Array }, { level: 0 }))
      for (const name of await readdir(at('cyclon-done')))
        if (name.startsWith(`file-${file}-`) && name.endsWith('.json')) await rm(at('cyclon-done', name))
      const { out } = (await planned()).files[file] as PlannedFile
      await rm(at(out), { force: true })
      said.length = 0
      expect(await joining()).toBe(false)
      expect(said.join('\n')).toContain(
        `${out} was not written: frame 4 is not what was read back of its piece. Do task`,
      )
      expect(await readdir(folder)).not.toContain(out)
      expect((await readdir(folder)).filter((name) => name.includes('unproven'))).toEqual([])
      await writeFile(path, whole)
    }
  })
  it('write no piece that is not read back as it was drawn', async () => {
    const loop = await readLoopAt(at('lamp.cyclon.json'))
    const out = at('other.apng')
    const { job, end } = await encodeJobOf(loop, at('lamp.cyclon.json'), {
      ...{ out, scale: 0.25, repeats: 1, frames: null, background: 'kept', quality: null, cores: 1 },
    })
    const { apng } = PIECED
    if (!apng) throw new Error('APNG is written in pieces.')
    // An encoder that mixes frames up.
    const mixedUp: Pieced = {
      ...apng,
      piece: async (...asked) => {
        const made = await apng.piece(...asked)
        return { ...made, frames: made.frames.toReversed() }
      },
    }
    await expect(provenPiece(job, mixedUp, 'key', 8, 12)).rejects.toThrow('Frame 8 is not read back as it was drawn')
    expect((await provenPiece(job, apng, 'key', 8, 12)).length).toBeGreaterThan(100)
    await end()
  })
  it('agree in a colour for clear that no frame has, whatever each of them chose', async () => {
    const own = await mkdtemp(join(tmpdir(), 'cyclon-clear-'))
    // A mark of the colour that stands for clear first, which is seen in the last third of the loop alone.
    const mark = newLayer('rectangle', 'Mark', { x: 60, y: 60, width: 60, height: 60, fill: '#000001' })
    const seen = {
      keys: [
        { at: 0, value: 0, ease: 'hold' },
        { at: 2 / 3, value: 1, ease: 'hold' },
      ],
      after: 'repeat',
      period: { cycles: 1 },
      phase: 0,
    }
    const loop = {
      ...BEACON,
      length: 24,
      layers: [...BEACON.layers, { ...mark, id: 'mark', motions: { opacity: seen } }],
    }
    await writeFile(join(own, 'mark.cyclon.json'), JSON.stringify(loop))
    const plan = await clusterPlan(
      [join(own, 'mark.cyclon.json')],
      { ...OPTIONS, out: join(own, '{name}.{format}'), formats: ['apng'], scales: [0.25] },
      3,
    )
    const files = plan.files.map((file) => ({ ...file, loop: 'mark.cyclon.json', out: 'mark.apng', pieces: 3 }))
    const tasks = rangesOf(24, 3).map((frames) => ({ seconds: 1, steps: [{ file: 0, frames }] }))
    await writeFile(join(own, 'plan.json'), JSON.stringify({ ...plan, files, tasks }))
    for (const task of [0, 1, 2]) await doTask(join(own, 'plan.json'), task, say)
    const commons = async () => {
      const names = (await readdir(join(own, 'cyclon-done'))).filter((name) => name.endsWith('.piece')).sort()
      const read = async (name: string) => unzipSync(await readFile(join(own, 'cyclon-done', name)))['piece.json']
      const about = await Promise.all(names.map(read))
      return about.map((text) => JSON.parse(JSON.parse(new TextDecoder().decode(text)).common).clear)
    }
    // By their names: frames 0, 16 and 8 lead.
    expect(await commons()).toEqual([0x000001, 0x010000, 0x000001])
    expect(await joinPlan(join(own, 'plan.json'), say)).toBe(true)
    expect(await commons()).toEqual([0x010000, 0x010000, 0x010000])
    await render(join(own, 'mark.cyclon.json'), { ...OPTIONS, scale: 0.25, frames: null, out: join(own, 'alone.apng') })
    expect(await readFile(join(own, 'mark.apng'))).toEqual(await readFile(join(own, 'alone.apng')))
    await rm(own, { recursive: true })
  })
  it('are not done with another version of the loop', async () => {
    await writeFile(at('lamp.cyclon.json'), JSON.stringify({ ...BEACON, length: 24, background: '#79c9b4' }))
    for (const name of await pieces()) await rm(at('cyclon-done', name))
    await expect(work(0)).rejects.toThrow('It is another version of the loop than the one that was planned')
    expect(await pieces()).toEqual([])
    expect((await planned()).tasks).toHaveLength(10)
  })
})
