import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { quay as loop } from '@/core/testing/quay'
import { changeLoop, openLoop } from './document'
import { frameNow, showFrame, usePlayback } from './playback'
import { setSession, usePlayhead } from './session'

let now = 1000
const pass = (ms: number) => {
  now += ms
}

describe('playing', () => {
  beforeEach(() => {
    now = 1000
    vi.spyOn(performance, 'now').mockImplementation(() => now)
    openLoop(loop)
    setSession({ playing: false, pace: 1, aroundSeam: false, preview: null })
    usePlayhead.setState({ frame: 0 })
  })
  afterEach(() => void vi.restoreAllMocks())

  it('goes on from the playhead at the true rate, and stops where it has got to', () => {
    showFrame(45)
    setSession({ playing: true })
    expect(frameNow()).toBe(45)
    pass(4 * 40 + 1)
    expect(frameNow()).toBe(49)
    pass(40)
    expect(frameNow()).toBe(0)
    expect(usePlayhead.getState().frame).toBe(45)
    setSession({ playing: false })
    expect(usePlayhead.getState().frame).toBe(0)
    expect(usePlayback.getState().playback).toBeNull()
  })
  it('goes on from the same frame when the pace or the rate changes', () => {
    setSession({ playing: true })
    pass(10 * 40 + 1)
    setSession({ pace: 0.5 })
    expect(frameNow()).toBe(10)
    pass(2 * 80 + 1)
    expect(frameNow()).toBe(12)
    changeLoop((current) => ({ ...current, rate: { num: 50, den: 1 } }))
    pass(3 * 40 + 1)
    expect(frameNow()).toBe(15)
  })
  it('is not disturbed by a change that leaves rate and length alone', () => {
    setSession({ playing: true })
    const before = usePlayback.getState().playback
    changeLoop((current) => ({ ...current, name: 'Pier' }))
    setSession({ selection: ['a'] })
    expect(usePlayback.getState().playback).toBe(before)
  })
  it('plays only around the seam, and jumps to a frame that is shown meanwhile', () => {
    setSession({ playing: true, aroundSeam: true })
    const seen = Array.from({ length: 12 }, () => {
      const frame = frameNow()
      pass(40.001)
      return frame
    })
    expect(seen).toEqual([0, 1, 2, 3, 4, 5, 44, 45, 46, 47, 48, 49])
    showFrame(-1)
    expect(frameNow()).toBe(49)
  })
  it('keeps the playhead inside a loop that becomes shorter', () => {
    showFrame(49)
    changeLoop((current) => ({ ...current, length: 20 }))
    expect(usePlayhead.getState().frame).toBe(19)
    showFrame(-1)
    expect(usePlayhead.getState().frame).toBe(19)
    showFrame(20)
    expect(usePlayhead.getState().frame).toBe(0)
  })
  it('has nothing to play in a loop of one frame', () => {
    changeLoop((current) => ({ ...current, length: 1 }))
    setSession({ playing: true })
    expect(usePlayback.getState().playback).toBeNull()
    expect(frameNow()).toBe(0)
  })
})
