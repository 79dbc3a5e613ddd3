import { execFile } from 'node:child_process'
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { zipSync } from 'fflate'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { encodeCase } from '../../bench/corpus/encode'
import { type Case, casesOf } from '../../bench/corpus/faults'
import { SCENES } from '../../bench/corpus/scenes'
import { checkPath, checkTable, exitCode } from './check'
import type { CheckEntry } from './check-entry'

const shape = { size: 32, frames: 16, delayMs: 40 }
const cases = new Map<string, Case>()
for (const each of casesOf(SCENES[0] as (typeof SCENES)[number], shape)) cases.set(each.fault, each)
const caseOf = (fault: string) => cases.get(fault) as Case

let folder = ''
const at = (name: string) => join(folder, name)
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-check-'))
})
afterAll(() => rm(folder, { recursive: true }))

async function written(name: string, fault: string, encoder: Parameters<typeof encodeCase>[1] = 'gif, one palette') {
  await writeFile(at(name), await encodeCase(caseOf(fault), encoder))
  return at(name)
}
type Entry = Exclude<CheckEntry, { error: string }>
const entryOf = async (path: string): Promise<Entry> => (await checkPath(path, 25))[0]?.entry as Entry
const stills = () =>
  Promise.all(
    caseOf('none').pictures.map(({ width, height, data }) =>
      sharp(data, { raw: { width, height, channels: 4 } })
        .png()
        .toBuffer(),
    ),
  )

describe('cyclon check', () => {
  it('says of a sound file what it is, and that it closes', async () => {
    const entry = await entryOf(await written('lamp.gif', 'none'))
    expect(entry).toMatchObject({
      format: 'gif',
      width: 32,
      height: 32,
      frames: 16,
      durationMs: 640,
      playsForever: true,
    })
    expect(entry.delaysMs).toEqual(new Array(16).fill(40))
    expect(entry.seam.verdict).toBe('closes')
    expect(entry.seam.ratio).toBeCloseTo(entry.seam.step / entry.seam.expected, 6)
    expect(entry.findings).toEqual([])
    expect(exitCode(await checkPath(at('lamp.gif'), 25))).toBe(0)
  })
  it.each([
    ['repeats its first frame at the end', 'repeats-a-frame', 16],
    ['last frame blank', 'blank-frame', 15],
    ['its end is missing', 'jumps', 12],
    ['plays once', 'plays-once', null],
  ])('%s: names it, with its frame and what to do', async (fault, kind, frame) => {
    for (const encoder of ['gif, one palette', 'apng', 'webp'] as const) {
      const path = await written(`fault.${encoder.slice(0, 4)}`, fault, encoder)
      const [finding] = (await entryOf(path)).findings
      expect(finding).toMatchObject({ kind, frame })
      expect(finding?.message.length).toBeGreaterThan(30)
      expect(finding?.remedy).toMatch(/\.$/)
      expect(exitCode(await checkPath(path, 25))).toBe(1)
    }
  })
  it('takes a folder of numbered pictures, and notes where numbers are missing', async () => {
    const pictures = await stills()
    await mkdir(at('frames'))
    for (const [n, png] of pictures.entries()) await writeFile(at(`frames/lamp_${n + (n > 7 ? 3 : 1)}.png`), png)
    const [checked] = await checkPath(at('frames'), 50)
    expect(checked?.entry).toMatchObject({ format: 'png-sequence', frames: 16, durationMs: 320 })
    expect(checked?.notes).toEqual(['numbers 9 to 10 are missing'])
    expect((checked as { entry: Entry }).entry.seam.verdict).toBe('closes')
  })
  it('takes a ZIP of pictures and of files', async () => {
    const pictures = await stills()
    const held = Object.fromEntries(pictures.map((png, n) => [`lamp/${n}.png`, new Uint8Array(png)]))
    const gif = await encodeCase(caseOf('plays once'), 'gif, one palette')
    await writeFile(at('both.zip'), zipSync({ ...held, 'once.gif': gif, 'notes.txt': new Uint8Array(4) }))
    const checked = await checkPath(at('both.zip'), 25)
    expect(checked.map(({ entry }) => (entry as Entry).format).sort()).toEqual(['gif', 'png-sequence'])
    expect(exitCode(checked)).toBe(1)
  })
  it('says why a file cannot be read, and goes on with the others', async () => {
    await writeFile(at('words.gif'), 'not a picture')
    await writeFile(at('half.zip'), zipSync({ 'a.png': new Uint8Array(9) }).slice(0, 40))
    await mkdir(at('empty'))
    for (const [name, words] of [
      ['words.gif', /does not begin as any moving picture/],
      ['half.zip', /ZIP is damaged/],
      ['empty', /holds no PNG files/],
      ['nowhere.gif', /no such file/],
    ] as const) {
      const checked = await checkPath(at(name), 25)
      expect(checked[0]?.entry).toMatchObject({ file: at(name), error: expect.stringMatching(words) })
      expect(exitCode(checked)).toBe(2)
      expect(checkTable(checked)).toMatch(/cannot be read\n {2}/)
    }
  })
  it('runs as a command, with a table or JSON, and tells by its exit code', async () => {
    const sound = await written('sound.gif', 'none')
    const once = await written('once.webp', 'plays once', 'webp')
    const run = (...args: string[]) =>
      promisify(execFile)('node', ['bin/cyclon.mjs', 'check', ...args]).then(
        ({ stdout }) => ({ code: 0, stdout }),
        ({ code, stdout }: { code: number; stdout: string }) => ({ code, stdout }),
      )
    expect(await run(sound)).toMatchObject({ code: 0, stdout: expect.stringMatching(/closes\s+16 f\s+0\.64 s/) })
    const both = await run('--json', sound, once)
    expect(both.code).toBe(1)
    const entries = JSON.parse(both.stdout) as Entry[]
    expect(entries.map(({ file }) => file)).toEqual([sound, once])
    expect(entries[1]?.findings.map(({ kind }) => kind)).toEqual(['plays-once'])
    expect((await run('--json', at('words.gif'))).code).toBe(2)
  })
})
