import { describe, expect, it, vi } from 'vitest'
import { eventually } from './testing/eventually'

describe('faces', () => {
  it('come before a change of the open loop that needs them is made', async () => {
    // As in a page that has just been opened: nothing has been fetched.
    vi.resetModules()
    const { insertLayers } = await import('@/core/document')
    const { newLayer, newLoop, stageBounds } = await import('@/core/edit')
    const { changeLoop, currentLoop, openLoop } = await import('./document')
    const brief = { name: 'Quay', kind: 'loader', width: 200, height: 100, background: null } as const
    openLoop(newLoop({ ...brief, rate: { num: 25, den: 1 }, length: 25 }))
    changeLoop((loop) => insertLayers(loop, [newLayer('text', 'Sign', { face: 'regular' }, 'sign')]))
    expect(currentLoop()?.layers).toEqual([])
    await eventually(() => expect(currentLoop()?.layers).toHaveLength(1))
    const loop = currentLoop()
    if (!loop) throw new Error('a loop is open')
    expect(stageBounds(loop, ['sign'], 0)?.width).toBeGreaterThan(10)
  })
})
