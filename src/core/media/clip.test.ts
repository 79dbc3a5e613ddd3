import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { COMMON_RATES, fraction, gifDelays, toNumber } from '../clock'
import { checkMotions } from '../closing'
import type { Loop } from '../document'
import { newLoop, placeClip, withoutUnused } from '../edit'
import { evaluate, evaluateUnreduced } from '../evaluate'
import { evenly, type Motion } from '../motion'
import { judgeLoop } from '../seam'
import { wakeOf as wake } from '../testing/media'
import { clipSeconds, clockOfClip, frameOfClip, placeOfPicture, startOfFrame, unroundedDelays } from '.'

const delays = fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 60 })
const empty = (length: number, rate = fraction(25)): Loop =>
  newLoop({ name: 'Pier', kind: 'cinemagraph', width: 640, height: 400, background: null, rate, length })

/** The frame of the clip that a loop shows. */
function shown(loop: Loop, n: number, look = evaluate): number | null {
  const [node] = look(loop, n).nodes
  return node?.type === 'picture' ? placeOfPicture(node.id).n : null
}

describe('a clip in time', () => {
  it('shows a frame at every time there is: none is missing, none lies behind the last', () => {
    fc.assert(
      fc.property(delays, fc.double({ min: -1e4, max: 1e4, noNaN: true }), (delaysMs, cycles) => {
        const frame = frameOfClip(delaysMs, cycles)
        expect(Number.isInteger(frame) && frame >= 0 && frame < delaysMs.length).toBe(true)
      }),
    )
  })
  it('shows each frame from its start on, as long as it lasts', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 1, maxLength: 40 }), (delaysMs) => {
        for (let n = 0; n < delaysMs.length; n++) {
          const start = startOfFrame(delaysMs, n)
          expect(frameOfClip(delaysMs, start)).toBe(n)
          expect(frameOfClip(delaysMs, (start + startOfFrame(delaysMs, n + 1)) / 2 - 1e-6)).toBe(n)
        }
      }),
    )
  })
  it('is a ring: a whole cycle later it shows the same', () => {
    fc.assert(
      fc.property(delays, fc.integer({ min: 0, max: 999 }), fc.integer({ min: -50, max: 50 }), (delaysMs, n, k) => {
        const at = (n + 0.5) / 1000
        expect(frameOfClip(delaysMs, at + k)).toBe(frameOfClip(delaysMs, at))
      }),
    )
  })
  it('counts frames alike where the file gives them no time', () => {
    expect([0, 0.3, 0.5, 0.99].map((at) => frameOfClip([0, 0], at))).toEqual([0, 0, 1, 1])
  })
})

describe('the clock of a clip', () => {
  it('is its own rate and length at every common rate, also through the hundredths of a GIF', () => {
    for (const rate of COMMON_RATES.filter((each) => toNumber(each) <= 50))
      for (const length of [2, 7, 24, 100, 600]) {
        const exact = new Array<number>(length).fill(1000 / toNumber(rate))
        expect(clockOfClip(exact)).toEqual({ rate, length })
        const clock = clockOfClip(unroundedDelays(gifDelays(length, rate).map((cs) => 10 * cs)))
        expect(clock?.length).toBe(length)
        expect(Math.abs(toNumber(clock?.rate ?? rate) / toNumber(rate) - 1)).toBeLessThan(0.51 / length)
      }
  })
  it('gives uneven delays a whole number of frames each', () => {
    expect(clockOfClip([40, 40, 200, 40])).toEqual({ rate: { num: 25, den: 1 }, length: 8 })
    expect(clockOfClip([30, 50])).toMatchObject({ length: 8 })
    expect(clockOfClip([0, 0])).toBeNull()
    expect(clockOfClip([3_600_000, 1])).toBeNull()
  })
})

describe('a clip as a layer', () => {
  it('never creates an empty last frame: on its own clock each frame shows once, and the closing frame is the first', () => {
    fc.assert(
      fc.property(fc.constantFrom(...COMMON_RATES), fc.integer({ min: 2, max: 120 }), (rate, length) => {
        const { loop } = placeClip(empty(length, rate), wake(new Array(length).fill(1000 / toNumber(rate))))
        const frames = Array.from({ length }, (_, n) => shown(loop, n))
        expect(frames).toEqual(frames.map((_, n) => n))
        expect(shown(loop, length, evaluateUnreduced)).toBe(0)
        expect(checkMotions(loop).every(({ home, goesOn }) => home && goesOn)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('runs as many whole cycles as come nearest to its pace, so that it comes home in a loop of any length', () => {
    fc.assert(
      fc.property(delays, fc.integer({ min: 1, max: 300 }), (delaysMs, length) => {
        const clip = wake(delaysMs)
        const { loop, layer } = placeClip(empty(length), clip)
        expect(checkMotions(loop).every(({ home }) => home)).toBe(true)
        const period = layer.motions.time?.period
        const cycles = period && 'cycles' in period ? period.cycles : 0
        const fits = length / 25 / Math.max(1e-3, clipSeconds(clip))
        expect(Math.abs(cycles - Math.max(1, fits))).toBeLessThanOrEqual(0.5001)
      }),
    )
  })
  it('lies in the middle of the frame, and no larger', () => {
    const { layer } = placeClip(empty(25), wake([40], { width: 1280, height: 400 }))
    expect(layer.values).toMatchObject({ x: 320, y: 200, width: 640, height: 200, clip: 'wake' })
  })
  it('runs backwards, is frozen, and is let go with its layer', () => {
    const { loop } = placeClip(empty(4), wake([40, 40, 40, 40]))
    const [layer] = loop.layers
    if (!layer) throw new Error('no layer')
    const back = evenly(1)
    const keys = back.keys.map((key) => ({ ...key, value: -Number(key.value) }))
    const backwards = { ...loop, layers: [{ ...layer, motions: { time: { ...back, keys } } }] }
    expect([0, 1, 2, 3].map((n) => shown(backwards, n))).toEqual([0, 3, 2, 1])
    const frozen = { ...loop, layers: [{ ...layer, motions: {}, values: { ...layer.values, time: 0.5 } }] }
    expect([0, 1, 2, 3].map((n) => shown(frozen, n))).toEqual([2, 2, 2, 2])
    expect(withoutUnused(loop)).toBe(loop)
    expect(withoutUnused({ ...loop, layers: [] }).media).toEqual([])
  })
  it('shows nothing where its clip is none', () => {
    const { loop } = placeClip(empty(4), wake([40]))
    expect(shown({ ...loop, media: [] }, 0)).toBeNull()
  })
  it('is named where its own seam does not close and the loop goes across it', () => {
    const verdict = (loop: Loop) => judgeLoop(loop, checkMotions(loop), null)
    const jumping = placeClip(empty(4), wake([40, 40, 40, 40], { verdict: 'jumps' })).loop
    expect(verdict(jumping)).toMatchObject({
      verdict: 'jumps',
      sentence: expect.stringContaining('“Ferry wake” jumps'),
    })
    const [layer] = jumping.layers
    const played = (from: number, to: number, after: Motion['after'], cycles: number) => {
      const keys = evenly(1, cycles).keys.map((key, i) => ({ ...key, value: i === 0 ? from : to }))
      const time = { ...evenly(1, cycles), keys, after }
      return verdict({ ...jumping, length: 16, layers: layer ? [{ ...layer, motions: { time } }] : [] })
    }
    // There and back within its frames never shows its seam; the whole way to its end shows its first frame there, and so does any way across.
    expect(played(0, 0.75, 'alternate', 2).verdict).toBe('closes')
    expect(played(0, 1, 'alternate', 2)).toMatchObject({
      verdict: 'jumps',
      sentence: expect.stringContaining('frame 7'),
    })
    expect(played(0.6, 1.4, 'alternate', 2).verdict).toBe('jumps')
    expect(played(0.25, 0.75, 'accumulate', 2)).toMatchObject({ verdict: 'jumps' })
    expect(verdict(placeClip(empty(4), wake([40, 40, 40, 40])).loop).verdict).toBe('closes')
  })
  it('is named where it jumps inside and the loop passes that place', () => {
    const { loop } = placeClip(empty(16), wake([40, 40, 80, 40], { verdict: 'jumps', faultFrame: 2 }))
    const [layer] = loop.layers
    const played = (from: number, to: number) => {
      const keys = evenly(1).keys.map((key, i) => ({ ...key, value: i === 0 ? from : to }))
      const time: Motion = { ...evenly(1, 2), keys, after: 'alternate' }
      const moving = { ...loop, layers: layer ? [{ ...layer, motions: { time } }] : [] }
      return judgeLoop(moving, checkMotions(moving), null)
    }
    // Its third frame begins at two fifths of its time.
    expect(played(0.6, 1.3).verdict).toBe('closes')
    expect(played(0, 0.3).verdict).toBe('closes')
    expect(played(0, 0.8)).toMatchObject({
      verdict: 'jumps',
      sentence: expect.stringMatching(/“Ferry wake” jumps before its frame 2, which the loop shows after frame 3\./),
    })
  })
})
