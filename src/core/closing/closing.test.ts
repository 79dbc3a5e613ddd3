import { describe, expect, it } from 'vitest'
import type { Layer, Loop } from '../document'
import { newLayer } from '../edit'
import { propertyAt } from '../evaluate'
import { evenly, type Motion } from '../motion'
import { quay } from '../testing/quay'
import { changeLoopClock, checkMotion, checkMotions, repeatLoop } from '.'

const N = 48
const linear = (from: number, to: number, more: Partial<Motion> = {}): Motion => ({
  keys: [
    { at: 0, value: from, ease: 'linear' },
    { at: 1, value: to, ease: 'linear' },
  ],
  after: 'accumulate',
  period: { cycles: 1 },
  phase: 0,
  ...more,
})
const loopOf = (...layers: Layer[]): Loop => ({ ...quay, width: 200, height: 120, length: N, layers })
const homes = (loop: Loop) => Object.fromEntries(checkMotions(loop).map(({ name, home }) => [name, home]))

describe('what turns while its symmetry changes', () => {
  it('is home after what all of its shapes have in common, and not after a part that only one of them has', () => {
    const plate = (degrees: number, width: Motion | null) =>
      checkMotion(
        {
          ...newLayer('rectangle', 'Plate', { width: 40, height: 40 }),
          motions: { rotation: evenly(degrees), ...(width && { width }) },
        },
        'rotation',
        N,
      ).home
    const wide = linear(40, 80, { after: 'alternate', period: { cycles: 2 } })
    expect([90, 180, 270, 360].map((degrees) => plate(degrees, null))).toEqual([true, true, true, true])
    expect([90, 180, 270, 360].map((degrees) => plate(degrees, wide))).toEqual([false, true, false, true])
  })
})

describe('properties that come home jointly', () => {
  const trimmed = (start: number, end: number) =>
    loopOf({
      ...newLayer('ellipse', 'Ring', { stroke: '#f2b54a', fill: null }),
      motions: { spanStart: linear(0, start), spanEnd: linear(0.2, 0.2 + end) },
    })
  it('are home where all have gone the same multiple, and none is where they have not', () => {
    expect(homes(trimmed(1, 1))).toEqual({ spanStart: true, spanEnd: true })
    expect(homes(trimmed(1, 2))).toEqual({ spanStart: false, spanEnd: false })
    expect(homes(trimmed(0.5, 0.5))).toEqual({ spanStart: false, spanEnd: false })
  })
})

describe('copies that are staggered', () => {
  it('are home only where each motion goes on as it began, since they show it at several times at once', () => {
    const row = (stagger: number, after: Motion['after']) => {
      const buoy = { ...newLayer('ellipse', 'Buoy'), motions: { y: there(after) } }
      const copies = newLayer('copies', 'Row', { x: 100, y: 60, count: 5, span: 120, stagger })
      return loopOf({ ...copies, layers: [buoy] })
    }
    // There and back once in the loop: `once` is back, and would stay.
    const there = (after: Motion['after']): Motion => ({
      ...linear(0, 0, { after }),
      keys: [0, 20, 0].map((value, i) => ({ at: i / 2, value, ease: 'linear' })),
    })
    expect(homes(row(0, 'once')).y).toBe(true)
    expect(homes(row(0.1, 'repeat')).y).toBe(true)
    expect(homes(row(0.1, 'once')).y).toBe(false)
  })
})

describe('what runs once, in a loop that is repeated', () => {
  it('runs once in each, and stays where it stopped until the next', () => {
    const once = linear(0, 90, { after: 'once', period: { frames: 12 } })
    const arm = { ...newLayer('rectangle', 'Arm', {}, 'arm'), motions: { rotation: once } }
    const loop = loopOf(arm)
    const twice = repeatLoop(loop, 2)
    const angle = (of: Loop, n: number) => Number(propertyAt(of.layers[0] as Layer, 'rotation', n, of.length))
    for (const n of [0, 6, 11, 12, 30, 47, 54, 59, 60, 90])
      expect(angle(twice, n), `${n}`).toBeCloseTo(angle(loop, n % N), 6)
  })
})

describe('a loop that becomes much shorter, each cycle at its frames', () => {
  it('keeps one cycle of each at the least: none stands still for being slow', () => {
    const sail = { ...newLayer('rectangle', 'Sail', {}, 'sail'), motions: { rotation: evenly(360) } }
    const { loop, bent } = changeLoopClock(loopOf(sail), { rate: quay.rate, length: 10 }, 'frames')
    expect(loop.layers[0]?.motions.rotation?.period).toEqual({ cycles: 1 })
    expect(bent).toMatchObject([{ layer: 'Sail', name: 'rotation', cycles: 1 }])
  })
})

describe('ends of a row that moves on', () => {
  /** Buoys 20 px wide, 40 px apart, that move on by one place; the row is centred on the frame of 200 px. */
  const moving = (count: number, shift = linear(0, 1)) =>
    loopOf({
      ...newLayer('copies', 'Row', { x: 100, y: 60, count, arrangement: 'row', spacing: 'pitch', pitch: 40 }),
      motions: { shift },
      layers: [newLayer('ellipse', 'Buoy', { x: 0, y: 0, width: 20, height: 20, fill: '#f2b54a' })],
    })
  const shiftOf = (loop: Loop) => checkMotions(loop).find(({ name }) => name === 'shift')
  it('are seen where a copy reaches into the frame as it leaves, however little, and not where all is outside', () => {
    expect(shiftOf(moving(5))).toMatchObject({ home: false, ends: { frame: N } })
    expect(shiftOf(moving(9))).toMatchObject({ home: true, ends: null })
  })
  it('leave at the frame at which a whole place is reached', () => {
    // It begins half a place on: the first whole one is reached in mid-loop.
    expect(shiftOf(moving(5, linear(0.5, 1.5)))?.ends?.frame).toBe(N / 2)
  })
})
