import { mkdir, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readManifest } from './manifest'
import { filesNamed, folderOf, jobsOf, type ManyOptions, renderMany } from './many'
import { render } from './render'
import { tellerOn } from './teller'

const BEACON = JSON.parse(await readFile('demo/loops/beacon-loader.cyclon.json', 'utf8'))

let folder = ''
const at = (...names: string[]) => join(folder, ...names)
const OPTIONS = (): ManyOptions => ({
  out: at('out', '{name}-{width}.{format}'),
  formats: ['gif'],
  scales: [0.1],
  repeats: 1,
  background: 'kept',
  quality: null,
  resume: false,
  keepGoing: false,
  manifest: null,
})
/** Runs it, and returns whether all went well, with what was said. */
async function ran(patterns: readonly string[], change: Partial<ManyOptions> = {}) {
  const said: string[] = []
  const tell = { line: (text: string) => void said.push(text), progress: () => {}, end: () => {} }
  const all = await renderMany(patterns, { ...OPTIONS(), ...change }, tell)
  return { all, said: said.join('\n') }
}
const times = async (...names: string[]) =>
  Promise.all(names.map(async (name) => (await stat(at('out', name))).mtimeMs))

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-many-'))
  for (const [i, name] of ['east', 'west'].entries())
    await writeFile(
      at(`${name}.cyclon.json`),
      JSON.stringify({ ...BEACON, length: 12, id: name, background: ['#0a2231', '#79c9b4'][i] }),
    )
  await mkdir(at('torn'))
  await writeFile(at('torn', 'torn.cyclon.json'), '{')
})
afterAll(() => rm(folder, { recursive: true }))

describe('cyclon render of many loops', () => {
  it('writes every loop in every format and size, as each alone would be, and says so with every proof', async () => {
    const { all, said } = await ran([at('*.cyclon.json')], { formats: ['gif', 'webp', 'svg'], scales: [0.1, 0.2] })
    expect(all).toBe(true)
    expect(said).toContain('12 of 12 files written and proven')
    const { files, failed } = await readManifest(at('out', 'cyclon-manifest.json'))
    expect(failed).toEqual([])
    expect(files.map(({ file }) => file)).toEqual(
      ['east', 'west'].flatMap((name) =>
        ['48', '96'].flatMap((width) => ['gif', 'svg', 'webp'].map((format) => `${name}-${width}.${format}`)),
      ),
    )
    for (const { proof } of files) expect(proof).toMatchObject({ holds: true, seam: { verdict: 'closes' } })
    await render(at('east.cyclon.json'), { ...OPTIONS(), scale: 0.1, frames: null, out: at('alone.gif') })
    expect(await readFile(at('out', 'east-48.gif'))).toEqual(await readFile(at('alone.gif')))
  })
  it('leaves alone what is there and proven, and only that', async () => {
    await ran([at('*.cyclon.json')])
    const before = await times('east-48.gif', 'west-48.gif')
    const again = await ran([at('*.cyclon.json')], { resume: true })
    expect(again.said).toContain('2 of 2 files are there as they were written')
    expect(await times('east-48.gif', 'west-48.gif')).toEqual(before)
    // One that has been changed, one that is asked for otherwise.
    await writeFile(at('out', 'east-48.gif'), 'no longer a GIF')
    const refused = await ran([at('*.cyclon.json')], { resume: true })
    expect(refused.said).toContain('--force')
    expect(await readFile(at('out', 'east-48.gif'), 'utf8')).toBe('no longer a GIF')
    const third = await ran([at('*.cyclon.json')], { resume: true, force: true })
    expect(third.said).toContain('1 of 2 files are there as they were written')
    const [, west] = await times('east-48.gif', 'west-48.gif')
    expect(west).toBe(before[1])
    const other = await ran([at('*.cyclon.json')], { resume: true, repeats: 2 })
    expect(other.said).not.toContain('are there as they were written')
  })
  it('stops at a loop that cannot be read, or goes on and says which', async () => {
    const patterns = [at('torn', '*.json'), at('east.cyclon.json')]
    await expect(ran(patterns)).rejects.toThrow('breaks off before its end')
    const { all, said } = await ran(patterns, { keepGoing: true })
    expect(all).toBe(false)
    expect(said).toContain('1 of 1 files written and proven')
    const { failed } = await readManifest(at('out', 'cyclon-manifest.json'))
    expect(failed).toMatchObject([{ loop: expect.stringContaining('torn/torn.cyclon.json') }])
  })
  it('writes the others where one cannot be written, in threads too', async () => {
    const change = { formats: ['gif', 'mp4', 'apng'], scales: [0.1, 0.10625], keepGoing: true, cores: 2 }
    // 51 px are no even size: H.264 takes none such.
    const { all, said } = await ran([at('*.cyclon.json')], change)
    expect(all).toBe(false)
    expect(said).toContain('H.264 takes even sizes; this one is 51 × 51')
    expect(said).toContain('10 of 12 files written and proven')
  })
  it('refuses names that come twice, parts that there are not, patterns that name nothing, and other manifests', async () => {
    const named = (out: string) => jobsOf([at('east.cyclon.json'), at('west.cyclon.json')], { ...OPTIONS(), out })
    await expect(named(at('x.{format}'))).rejects.toThrow('would be written twice')
    await expect(named('{nam}.gif')).rejects.toThrow('{nam} is no part of a name; those are {name}, {format}')
    await expect(filesNamed([at('nothing-*.json')])).rejects.toThrow('No file is called so')
    await writeFile(at('mine.json'), '{"mine":true}')
    await expect(ran([at('east.cyclon.json')], { resume: true, manifest: at('mine.json') })).rejects.toThrow(
      'It is no manifest',
    )
    expect(await readFile(at('mine.json'), 'utf8')).toBe('{"mine":true}')
  })
  it('knows where its names lie', () => {
    expect([
      folderOf('out/{name}.gif'),
      folderOf('out/a/b-{name}.gif'),
      folderOf('{name}.gif'),
      folderOf('/x/{name}/a.gif'),
    ]).toEqual(['out/', 'out/a', '.', '/x/'])
  })
  it('shows on a terminal how far it is, and plain lines elsewhere', () => {
    const told: string[] = []
    const stream = (isTTY: boolean) =>
      ({ isTTY, write: (text: string) => told.push(text) }) as unknown as NodeJS.WriteStream
    for (const isTTY of [true, false]) {
      const tell = tellerOn(stream(isTTY), stream(false))
      tell.progress('1 of 2 files, 0:09 left')
      tell.line('a.gif: proven')
      tell.end()
    }
    expect(told).toEqual(['1 of 2 files, 0:09 left', `\r${' '.repeat(23)}\r`, 'a.gif: proven\n', 'a.gif: proven\n'])
  })
})
