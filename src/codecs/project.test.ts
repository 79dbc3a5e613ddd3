import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { toBase64 } from '@/core/base64'
import { LARGEST_PICTURE, type Loop, LoopFileError, MOST_PICTURES, unopenable } from '@/core/document'
import { newLayer } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import { isZip, unzipProject, zipProject } from './project'

const PIXELS = btoa(String.fromCharCode(...Array.from({ length: 4000 }, (_, i) => (i * 37) % 256)))
const loop: Loop = {
  ...quay,
  pictures: [{ id: 'pier', name: 'Pier', type: 'image/png', width: 40, height: 30, data: PIXELS }],
  layers: [newLayer('picture', 'Pier', { picture: 'pier' }, 'shown')],
}
const refusal = (bytes: Uint8Array): LoopFileError => {
  try {
    unzipProject(bytes)
  } catch (error) {
    if (error instanceof LoopFileError) return error
    throw error
  }
  throw new Error('it was not refused')
}

describe('a project archive', () => {
  it('comes back with its pictures as they went in', () => {
    const bytes = zipProject(loop)
    expect(isZip(bytes)).toBe(true)
    expect(unzipProject(bytes)).toEqual(loop)
    const files = unzipSync(bytes)
    expect(Object.keys(files).sort()).toEqual(['loop.cyclon.json', 'media/pier.png'])
    expect(strFromU8(files['loop.cyclon.json'] ?? new Uint8Array())).not.toContain(PIXELS)
  })
  it('comes back with its clips, each frame a file of its own', () => {
    const frames = Array.from({ length: 12 }, (_, n) => btoa(`frame ${n}`))
    const clip = {
      id: 'wake',
      name: 'Ferry wake',
      type: 'image/webp' as const,
      width: 64,
      height: 40,
      verdict: 'closes' as const,
      delaysMs: frames.map(() => 40),
      frames,
    } as const
    const still = { ...clip, id: 'glass', name: 'Lamp-room glass', delaysMs: [40], frames: [btoa('one')] }
    const moving: Loop = { ...loop, clips: [clip, still] }
    const bytes = zipProject(moving)
    expect(unzipProject(bytes)).toEqual(moving)
    const files = unzipSync(bytes)
    expect(strFromU8(files['media/wake/0011.webp'] ?? new Uint8Array())).toBe('frame 11')
    expect(Object.keys(files)).toContain('media/glass.webp')
    const { 'media/wake/0003.webp': _gone, ...rest } = files
    expect(refusal(zipSync(rest)).message).toBe('Frame 3 of the clip “Ferry wake” is missing from the archive.')
  })
  it('that is cut off, empty or something else is refused in words', () => {
    expect(refusal(zipProject(loop).slice(0, 300)).message).toContain('damaged')
    expect(refusal(new Uint8Array()).message).toContain('damaged')
    expect(refusal(zipSync({ 'notes.txt': strToU8('quay') })).message).toContain('holds no Cyclon loop')
    expect(isZip(strToU8('{}'))).toBe(false)
  })
  it('without one of its pictures is refused by its name', () => {
    const files = unzipSync(zipProject(loop))
    const { 'media/pier.png': _gone, ...rest } = files
    expect(refusal(zipSync(rest)).message).toContain('“Pier” is missing')
  })
  it('that unpacks to far more than it is, is not unpacked', () => {
    const bomb = zipSync({ 'loop.cyclon.json': strToU8('{}'), 'media/a.png': new Uint8Array(9 * 1024 * 1024) })
    expect(bomb.length).toBeLessThan(100_000)
    expect(refusal(bomb).message).toContain('more than any loop needs')
  })
  it('holds pictures up to the limit that reading has, and no larger ones', () => {
    const holding = (bytes: number): Loop => ({
      ...loop,
      pictures: [{ ...(loop.pictures[0] as Loop['pictures'][number]), data: toBase64(new Uint8Array(bytes)) }],
    })
    const largest = holding(LARGEST_PICTURE)
    expect(unzipProject(zipProject(largest)).pictures).toEqual(largest.pictures)
    expect(() => zipProject(holding(LARGEST_PICTURE + 1))).toThrow('has more than 8 MB')
  })
  it('holds as many pictures as a document may, and no more are taken into one', () => {
    const many = (count: number): Loop => ({
      ...loop,
      pictures: Array.from({ length: count }, (_, n) => ({
        ...(loop.pictures[0] as Loop['pictures'][number]),
        id: n === 0 ? 'pier' : `pier-${n}`,
      })),
    })
    expect(unopenable(many(MOST_PICTURES))).toBeNull()
    expect(unzipProject(zipProject(many(MOST_PICTURES))).pictures).toHaveLength(MOST_PICTURES)
    expect(unopenable(many(MOST_PICTURES + 1))).toContain('pictures is too long')
    expect(() => zipProject(many(MOST_PICTURES + 1))).toThrow(LoopFileError)
  })
})
