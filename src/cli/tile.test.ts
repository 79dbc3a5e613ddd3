import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { tileCase } from '@/core/testing/tiles'
import { checkTile, healTile, tilesExitCode } from './tile'

let folder = ''
const at = (name: string) => join(folder, name)
const raw = ({ width, height, data }: Picture) => sharp(Buffer.from(data), { raw: { width, height, channels: 4 } })

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-tile-'))
  await raw(tileCase('cells', 'none', 2))
    .png()
    .toFile(at('sound.png'))
  await raw(tileCase('cells', 'both', 2))
    .png()
    .toFile(at('cut.png'))
})
afterAll(() => rm(folder, { recursive: true }))

describe('cyclon check --tile', () => {
  it('says of each direction whether an edge shows, by how much, and what was expected', async () => {
    const sound = await checkTile(at('sound.png'))
    const cut = await checkTile(at('cut.png'))
    const edge = (verdict: string) => ({
      verdict,
      step: expect.any(Number),
      expected: expect.any(Number),
      ratio: expect.any(Number),
    })
    expect(sound).toEqual({ file: at('sound.png'), tile: { x: edge('closes'), y: edge('closes') } })
    expect(cut).toEqual({ file: at('cut.png'), tile: { x: edge('shows-an-edge'), y: edge('shows-an-edge') } })
    expect([tilesExitCode([sound]), tilesExitCode([sound, cut])]).toEqual([0, 1])
  })
  it('reads any depth and coding of colour', async () => {
    const picture = tileCase('clouds', 'none', 3)
    await raw(picture).toColourspace('rgb16').png().toFile(at('deep.png'))
    await raw(picture).toColourspace('cmyk').jpeg({ quality: 95 }).toFile(at('press.jpg'))
    for (const name of ['deep.png', 'press.jpg'])
      expect(await checkTile(at(name))).toMatchObject({ tile: { x: { verdict: 'closes' }, y: { verdict: 'closes' } } })
  })
  it('refuses in words what is missing, empty, no picture, or too small', async () => {
    await writeFile(at('empty.png'), '')
    await writeFile(at('notes.png'), 'low water at noon')
    await sharp({ create: { width: 1, height: 1, channels: 3, background: '#0b2230' } })
      .png()
      .toFile(at('speck.png'))
    const said = async (name: string) => {
      const entry = await checkTile(at(name))
      expect(tilesExitCode([entry])).toBe(2)
      return 'error' in entry ? entry.error : ''
    }
    expect(await said('gone.png')).toContain('There is no such file')
    expect(await said('empty.png')).toContain('cannot be read as a picture')
    expect(await said('notes.png')).toContain('cannot be read as a picture')
    expect(await said('speck.png')).toContain('too small to tell an edge in')
  })
})

describe('cyclon heal', () => {
  it('mends both directions by the way that leaves least, and is read back as closing', async () => {
    expect(await healTile(at('cut.png'), { out: at('healed.png'), axis: 'both' })).toMatch(/healed by (blend|cut|fill)/)
    expect(await checkTile(at('healed.png'))).toMatchObject({
      tile: { x: { verdict: 'closes' }, y: { verdict: 'closes' } },
    })
  })
  it('leaves what closes already alone to the bit', async () => {
    expect(await healTile(at('sound.png'), { out: at('same.png'), axis: 'both', by: 'blend' })).toContain('as it was')
    const [before, after] = await Promise.all(
      ['sound.png', 'same.png'].map(async (name) =>
        sharp(await readFile(at(name)))
          .ensureAlpha()
          .raw()
          .toBuffer(),
      ),
    )
    expect(after).toEqual(before)
  })
  it('refuses another ending, and a band that does not fit', async () => {
    await expect(healTile(at('cut.png'), { out: at('a.gif'), axis: 'x' })).rejects.toThrow('written as a .png')
    await expect(healTile(at('cut.png'), { out: at('a.png'), axis: 'x', band: 4000 })).rejects.toThrow('does not fit')
  })
})
