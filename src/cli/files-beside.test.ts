import { cp, mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { ASSETS_FOLDER } from './assets-folder'
import { CommandError } from './command-error'

const DEMO = 'demo/loops'
const NAME = 'spindrift.cyclon.json'
const STILL = 'breakwater.jpg'

let folder = ''
const at = (...names: string[]) => join(folder, ...names)
/** State of a command that has just started: no files are loaded. */
const begun = async () => {
  vi.resetModules()
  return import('./write')
}

describe('the files that a loop names', () => {
  beforeEach(async () => {
    if (folder) await rm(folder, { recursive: true })
    folder = await mkdtemp(join(tmpdir(), 'cyclon-beside-'))
    await cp(join(DEMO, NAME), at(NAME))
    vi.unstubAllEnvs()
  })
  afterAll(() => rm(folder, { recursive: true }))

  it('are found for every loop of the demo where it lies', async () => {
    const { readLoopAt } = await begun()
    const names = (await readdir(DEMO)).filter((name) => name.endsWith('.json'))
    let files = 0
    for (const name of names) files += (await readLoopAt(join(DEMO, name))).media.length
    expect(names.length).toBeGreaterThan(10)
    expect(files).toBeGreaterThan(4)
  })
  it.each([
    ['in the folder for them', ['assets', 'anything.bin'], undefined],
    ['beside the loop', ['other name.jpg'], undefined],
    ['in the folder that is named', ['elsewhere', STILL], 'elsewhere'],
  ])('are found %s, whatever they are called', async (_, path, named) => {
    await mkdir(at(...path.slice(0, -1)), { recursive: true })
    await cp(join(DEMO, 'assets', STILL), at(...path))
    if (named) vi.stubEnv(ASSETS_FOLDER, at(named))
    const { readLoopAt } = await begun()
    const { fileOf, assetsIn } = await import('@/core/media')
    const loop = await readLoopAt(at(NAME))
    for (const { id, bytes } of assetsIn(loop.media)) expect((await fileOf(id))?.size).toBe(bytes)
  })
  it('are said to be missing in words, with their names, where they are nowhere or are others of the same size', async () => {
    const still = await readFile(join(DEMO, 'assets', STILL))
    still[still.length >> 1] = (still[still.length >> 1] as number) ^ 1
    await writeFile(at(STILL), still)
    const { readLoopAt } = await begun()
    const error = await readLoopAt(at(NAME)).catch((each) => each)
    expect(error.name).toBe(new CommandError('').name)
    expect(error.message).toMatch(/spindrift.*“Breakwater” is neither in it/)
    expect(error.message).not.toContain('\n')
  })
})
