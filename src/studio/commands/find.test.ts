import { beforeEach, describe, expect, it } from 'vitest'
import { findLayer } from '@/core/document'
import { newLayer } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import { currentLoop, openLoop, undo } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { meant } from './find'

const take = (typed: string) => meant(typed)[0]?.run(() => {})
const values = (id: string) => findLayer(currentLoop() as never, id)?.values

beforeEach(() => {
  const layers = [
    { ...newLayer('ellipse', 'Lamp', { x: 5, y: 5 }), id: 'lamp' },
    { ...newLayer('rectangle', 'Mooring post', { x: 5, y: 5 }), id: 'post' },
  ]
  openLoop({ ...quay, layers })
  setSession({ selection: ['lamp'], property: null })
})

describe('what is typed', () => {
  it('means the command that is called so before all others', () => {
    expect(meant('Footage')[0]?.label).toBe('Footage')
    expect(meant('undo')[0]?.id).toBe('undo')
    expect(meant('effect: vignette')[0]?.label).toBe('Effect: Vignette')
    expect(meant('qqqq')).toEqual([])
  })
  it('sets a property of what is selected, by its unit, as one step', () => {
    for (const [typed, name, value] of [
      ['opacity 50', 'opacity', 0.5],
      ['opacity 1/4', 'opacity', 0.25],
      ['rotation 0.25 turn', 'rotation', 90],
      ['scale x 360/240', 'scaleX', 1.5],
      ['x -12', 'x', -12],
    ] as const) {
      take(typed)
      expect(values('lamp')?.[name], typed).toBe(value)
      undo()
      expect(values('lamp')?.[name]).not.toBe(value)
    }
  })
  it('sets it on all that are selected, where all have it', () => {
    setSession({ selection: ['lamp', 'post'] })
    take('opacity 20')
    expect([values('lamp')?.opacity, values('post')?.opacity]).toEqual([0.2, 0.2])
    // Only the rectangle has corners to round.
    expect(meant('corner radius 4').some(({ id }) => id.startsWith('set radius'))).toBe(false)
  })
  it('names no property where nothing is selected, and none for words behind it', () => {
    expect(meant('opacity much').some(({ id }) => id.startsWith('set'))).toBe(false)
    setSession({ selection: [] })
    expect(meant('opacity 50').some(({ id }) => id.startsWith('set'))).toBe(false)
  })
  it('selects a layer that goes by the name', () => {
    take('mooring')
    expect(useSession.getState().selection).toEqual(['post'])
  })
  it('is an amount of a command where it takes one', () => {
    expect(meant('twin later 8f')[0]?.label).toContain('8 f')
    take('twin later 8f')
    const [twin] = useSession.getState().selection
    expect(currentLoop()?.layers.map(({ id }) => id)).toEqual(['lamp', twin, 'post'])
  })
})
