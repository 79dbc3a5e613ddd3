import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Loop } from '@/core/document'
import { makeVariant, NO_CHANGE, newLayer, placeLoop } from '@/core/edit'
import { evenly } from '@/core/motion'
import { quay } from '@/core/testing/quay'
import {
  beginGesture,
  changeDocument,
  changeLoop,
  currentHistory,
  currentLoop,
  documentStore,
  endGesture,
  goInside,
  openLoop,
  PANEL_INTERVAL_MS,
  pacedUpdate,
  undo,
} from './document'

const wheel: Loop = {
  ...quay,
  id: 'wheel',
  name: 'Wheel',
  layers: [{ ...newLayer('polygon', 'Wheel', {}, 'spokes'), motions: { rotation: evenly(360) } }],
}
const pier = placeLoop({ ...quay, id: 'pier', name: 'Pier' }, wheel).loop
const rename = (name: string) => changeLoop((loop) => ({ ...loop, name }))

describe('a loop that is placed in the document', () => {
  beforeEach(() => openLoop(pier))

  it('is worked on as a loop of its own, and lands in the document', () => {
    goInside('wheel')
    expect(currentLoop()).toMatchObject({ id: 'wheel', name: 'Wheel' })
    expect(currentLoop()).toBe(currentLoop())
    rename('Big wheel')
    expect(documentStore.getState().loop).toMatchObject({ id: 'pier', name: 'Pier' })
    expect(documentStore.getState().loop?.loops[0]?.name).toBe('Big wheel')
    expect(currentHistory().past).toHaveLength(1)
    undo()
    expect(currentLoop()?.name).toBe('Wheel')
    goInside(null)
    expect(currentLoop()?.name).toBe('Pier')
  })
  it('shares colours with the document', () => {
    goInside('wheel')
    changeLoop((loop) => ({ ...loop, palette: [{ name: 'lamp', colour: '#f6b84b' }] }))
    goInside(null)
    expect(currentLoop()?.palette).toHaveLength(1)
  })
  it('that is gone leaves the document itself to be worked on', () => {
    goInside('nowhere')
    expect(currentLoop()?.id).toBe('pier')
  })
})

describe('a variant', () => {
  const variant = makeVariant(wheel, 'Fast wheel', { ...NO_CHANGE, faster: 2 })
  beforeEach(() => openLoop(variant))

  it('follows its source until it is changed by hand', () => {
    changeDocument((loop) => ({ ...loop, name: 'Quick wheel' }))
    expect(documentStore.getState().loop?.variantOf?.id).toBe('wheel')
    changeLoop((loop) => ({ ...loop, length: 20 }))
    expect(documentStore.getState().loop?.variantOf).toBeUndefined()
    undo()
    expect(documentStore.getState().loop?.variantOf?.id).toBe('wheel')
  })
})

describe('work at the pace of a drag', () => {
  beforeEach(() => {
    openLoop(pier)
    vi.useFakeTimers()
    return () => {
      vi.runAllTimers()
      vi.useRealTimers()
    }
  })

  it('is done at once where nothing is dragged, or what is dragged lies over the picture', () => {
    let done = 0
    const { call } = pacedUpdate(() => done++)
    call()
    call()
    expect(done).toBe(2)
    beginGesture(true)
    call()
    call()
    expect(done).toBe(4)
    endGesture()
  })
  it('is done at every step of a drag where it is cheap', () => {
    let done = 0
    const { call } = pacedUpdate(() => done++)
    beginGesture()
    for (let i = 0; i < 4; i++) {
      call()
      vi.advanceTimersByTime(1)
    }
    expect(done).toBe(4)
    endGesture()
  })
  it('is done now and then in a drag where it is dear, all of it together, and once more at its end', () => {
    const done: string[] = []
    const dear = (name: string) =>
      pacedUpdate(() => {
        done.push(name)
        vi.advanceTimersByTime(40)
      })
    const a = dear('a')
    const b = dear('b')
    beginGesture()
    a.call()
    vi.advanceTimersByTime(1)
    done.length = 0
    for (let i = 0; i < 5; i++) {
      a.call()
      b.call()
    }
    expect(done).toEqual([])
    vi.advanceTimersByTime(PANEL_INTERVAL_MS + 1)
    expect(done).toEqual(['a', 'b'])
    a.call()
    endGesture()
    expect(done).toEqual(['a', 'b', 'a'])
    b.call()
    expect(done.at(-1)).toBe('b')
  })
  it('is not done any more once it is stopped', () => {
    let done = 0
    const { call, stop } = pacedUpdate(() => {
      done++
      vi.advanceTimersByTime(40)
    })
    beginGesture()
    call()
    vi.advanceTimersByTime(1)
    call()
    stop()
    vi.advanceTimersByTime(10 * PANEL_INTERVAL_MS)
    endGesture()
    expect(done).toBe(1)
  })
})
