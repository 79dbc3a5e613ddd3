import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { type Loop, LoopFileError, newLayer } from '@/core/loop'
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
})
