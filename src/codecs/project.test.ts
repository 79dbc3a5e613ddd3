import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it, vi } from 'vitest'
import { type Loop, LoopFileError, unopenable } from '@/core/document'
import { newLayer } from '@/core/edit'
import { MAX_PICTURE_BYTES, MAX_PICTURES, madeAsset, type StillPicture } from '@/core/media'
import { noFile, pierOf, wakeOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import { isZip, unzipProject, zipProject } from './project'

const PIXELS = Uint8Array.from({ length: 4000 }, (_, i) => (i * 37) % 256)
const pier = pierOf({ file: await madeAsset('image/png', PIXELS) })
const loop: Loop = { ...quay, media: [pier], layers: [newLayer('picture', 'Pier', { picture: 'pier' }, 'shown')] }
const refusal = async (bytes: Uint8Array): Promise<LoopFileError> => {
  try {
    await unzipProject(bytes)
  } catch (error) {
    if (error instanceof LoopFileError) return error
    throw error
  }
  throw new Error('it was not refused')
}
/** The project as it opens on a machine that has never seen its files. */
async function elsewhere(bytes: Uint8Array): Promise<{ loop: Loop; texts: string[] }> {
  vi.resetModules()
  const { unzipProject: unzip } = await import('./project')
  const media = await import('@/core/media')
  const read = await unzip(bytes)
  const files = media.picturesOf(read.media).map(async (each) => (await media.readPictureFile(each))?.text() ?? 'none')
  return { loop: read, texts: await Promise.all(files) }
}

describe('a project archive', () => {
  it('comes back with its pictures as they went in', async () => {
    const bytes = await zipProject(loop)
    expect(isZip(bytes)).toBe(true)
    const back = await elsewhere(bytes)
    expect(back.loop).toEqual(loop)
    expect(back.texts).toEqual([new TextDecoder().decode(PIXELS)])
    expect(Object.keys(unzipSync(bytes)).sort()).toEqual(['loop.cyclon.json', `media/${pier.file.id}.png`])
  })
  it('comes back with its clips, each frame a file of its own, and with the file that they were cut from', async () => {
    const texts = Array.from({ length: 12 }, (_, n) => `frame ${n}`)
    const encoded = texts.map((text) => new TextEncoder().encode(text))
    const frames = await madeAsset('image/webp', encoded)
    const source = { name: 'wake.mp4', file: await madeAsset('video/mp4', new TextEncoder().encode('as it came')) }
    const clip = wakeOf(
      texts.map(() => 40),
      { frames, source },
    )
    const still = { ...clip, id: 'glass', delaysMs: [40], frames: await madeAsset('image/webp', [encoded[3] as never]) }
    const moving: Loop = { ...loop, media: [pier, clip, still] }
    const bytes = await zipProject(moving)
    const back = await elsewhere(bytes)
    expect(back.loop).toEqual(moving)
    expect(back.texts.slice(1)).toEqual([...texts, 'frame 3'])
    const files = unzipSync(bytes)
    const nameOf = (n: number) => `media/${frames.id}/${String(n).padStart(4, '0')}.webp`
    expect(strFromU8(files[nameOf(11)] ?? new Uint8Array())).toBe('frame 11')
    expect(strFromU8(files[`media/${source.file.id}.mp4`] ?? new Uint8Array())).toBe('as it came')
    const { [nameOf(3)]: _gone, ...rest } = files
    expect((await refusal(zipSync(rest))).message).toBe('Frame 3 of “Ferry wake” is missing from the archive.')
    const swapped = zipSync({ ...files, [nameOf(3)]: files[nameOf(4)] as Uint8Array })
    expect((await refusal(swapped)).message).toContain('“Ferry wake” in the archive are not the ones that were saved')
  })
  it('is not made where a file is missing', async () => {
    const torn = { ...loop, media: [pierOf({ file: noFile(3) })] }
    await expect(zipProject(torn)).rejects.toThrow('The file of “Pier” in the loop is missing')
  })
  it('that is cut off, empty or something else is refused in words', async () => {
    expect((await refusal((await zipProject(loop)).slice(0, 300))).message).toContain('damaged')
    expect((await refusal(new Uint8Array())).message).toContain('damaged')
    expect((await refusal(zipSync({ 'notes.txt': strToU8('quay') }))).message).toContain('holds no Cyclon loop')
    expect(isZip(strToU8('{}'))).toBe(false)
  })
  it('without one of its pictures is refused by its name', async () => {
    const files = unzipSync(await zipProject(loop))
    const { [`media/${pier.file.id}.png`]: _gone, ...rest } = files
    expect((await refusal(zipSync(rest))).message).toContain('“Pier” is missing')
  })
  it('that unpacks to far more than it is, is not unpacked', async () => {
    const much = new Uint8Array(1024 * 1024)
    for (const files of [{ 'loop.cyclon.json': strToU8('{}'), 'media/a.png': much }, { 'loop.cyclon.json': much }]) {
      const bomb = Buffer.from(zipSync(files))
      // Its directory says 200 MB of what comes last (APPNOTE 6.3.10, 4.3.12).
      bomb.writeUInt32LE(200 * 1024 * 1024, bomb.lastIndexOf(Buffer.from([0x50, 0x4b, 1, 2])) + 24)
      expect((await refusal(new Uint8Array(bomb))).message).toContain('more than any loop needs')
    }
  })
  it('holds pictures up to the limit that reading has, and no larger ones', async () => {
    const holding = async (bytes: number): Promise<Loop> => ({
      ...loop,
      media: [pierOf({ file: await madeAsset('image/png', new Uint8Array(bytes)) })],
    })
    const largest = await holding(MAX_PICTURE_BYTES)
    expect((await unzipProject(await zipProject(largest))).media).toEqual(largest.media)
    await expect(zipProject(await holding(MAX_PICTURE_BYTES + 1))).rejects.toThrow('media[0].file.bytes is too much')
  })
  it('holds as many pictures as a document may, and no more are taken into one', async () => {
    const many = (count: number): Loop => ({
      ...loop,
      media: Array.from({ length: count }, (_, n): StillPicture => ({ ...pier, id: n === 0 ? 'pier' : `pier-${n}` })),
    })
    expect(unopenable(many(MAX_PICTURES))).toBeNull()
    expect((await unzipProject(await zipProject(many(MAX_PICTURES)))).media).toHaveLength(MAX_PICTURES)
    expect(unopenable(many(MAX_PICTURES + 1))).toContain(`more than ${MAX_PICTURES} pictures`)
    await expect(zipProject(many(MAX_PICTURES + 1))).rejects.toThrow(LoopFileError)
  })
})
