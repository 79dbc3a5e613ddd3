import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Setting } from '.'

const mono: Setting = { face: 'mono', size: 40, align: 'left', lineHeight: 1.2, spacing: 0 }

describe('faces', () => {
  // As in a page that has just been opened: nothing has been fetched.
  beforeEach(() => vi.resetModules())

  it('are not set before they are here, rather than set as nothing', async () => {
    const { facesAreHere, loadFaces, textPath } = await import('.')
    expect(facesAreHere(['mono'])).toBe(false)
    expect(() => textPath('Pier', mono)).toThrow('“mono”')
    await loadFaces(['mono'])
    expect(facesAreHere(['mono'])).toBe(true)
    expect(facesAreHere(['mono', 'bold'])).toBe(false)
    expect(textPath('Pier', mono).length).toBeGreaterThan(4)
  })

  it('of a loop are those that its text names, in placed loops and groups too', async () => {
    const { facesOf, hasItsFaces, insertLayers, withFaces } = await import('../document')
    const { groupLayers, newLayer, newLoop, placeLoop } = await import('../edit')
    const brief = { name: 'Quay', kind: 'loader', width: 200, height: 100, background: null } as const
    const empty = newLoop({ ...brief, rate: { num: 25, den: 1 }, length: 25 })
    const sign = newLayer('text', 'Sign', { face: 'mono' })
    const inner = insertLayers({ ...empty, id: 'inner' }, [sign])
    await withFaces(inner)
    const grouped = groupLayers(inner, [sign.id], 0)
    const { loop } = placeLoop(insertLayers(empty, [newLayer('rectangle', 'Post')]), grouped, null)
    expect(facesOf(empty)).toEqual([])
    expect(facesOf(grouped)).toEqual(['mono'])
    expect(facesOf(loop)).toEqual(['mono'])
    const both = insertLayers(loop, [newLayer('text', 'Notice', { face: 'bold' })])
    expect(hasItsFaces(both)).toBe(false)
    expect(hasItsFaces(await withFaces(both))).toBe(true)
  })
})
