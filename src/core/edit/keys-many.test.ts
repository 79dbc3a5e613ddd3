import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Layer } from '../document'
import { evaluate, evaluateUnreduced, exposures } from '../evaluate'
import { layerKind } from '../layers'
import { type Motion, mixNumbers, motionValue } from '../motion'
import { anyMotion } from '../testing/arbitrary'
import { quay } from '../testing/quay'
import {
  bendMotion,
  copyKeys,
  easeKeys,
  keyOnCurve,
  motionPath,
  moveKeys,
  movePath,
  movesAbout,
  newLayer,
  pasteKeys,
  recordedMotion,
  removeKeys,
  reverseKeys,
  startAtEndOf,
  stretchKeys,
  turnPath,
} from '.'

const x = layerKind('ellipse').properties.x as never
const anyNumbers = anyMotion(x) as fc.Arbitrary<Motion<number>>
const choiceOf = (motion: Motion, bits: number) => motion.keys.map((_, i) => i).filter((i) => (bits >> i) % 2 === 1)
const at = (motion: Motion, frame: number, length = 48) =>
  motionValue(motion as Motion<number>, frame, length, mixNumbers)

describe('several keys', () => {
  it('move as one, in order, inside the cycle, the others where they were', () => {
    fc.assert(
      fc.property(anyNumbers, fc.nat(31), fc.integer({ min: -60, max: 60 }), (motion, bits, frames) => {
        const chosen = choiceOf(motion, bits)
        const { keys } = moveKeys(motion, chosen, frames, 5, 48)
        const shifts = chosen.map((i) => (keys[i]?.at ?? 0) - (motion.keys[i]?.at ?? 0))
        for (const shift of shifts) expect(shift).toBeCloseTo(shifts[0] ?? 0, 9)
        for (const [i, key] of keys.entries()) {
          expect(key.value).toBe((motion.keys[i]?.value ?? 0) + (chosen.includes(i) ? 5 : 0))
          if (!chosen.includes(i)) expect(key.at).toBe(motion.keys[i]?.at)
          if (i > 0) expect(key.at).toBeGreaterThan(keys[i - 1]?.at ?? 0)
          expect(key.at).toBeGreaterThanOrEqual(0)
          expect(key.at).toBeLessThanOrEqual(1)
        }
      }),
    )
  })
  it('stretch about the first or the last of them, or stay', () => {
    const motion: Motion<number> = {
      keys: [0, 0.2, 0.4, 0.9].map((place, i) => ({ at: place, value: i, ease: 'linear' })),
      after: 'once',
      period: { cycles: 1 },
      phase: 0,
    }
    const places = (m: Motion) => m.keys.map((key) => Number(key.at.toFixed(6)))
    expect(places(stretchKeys(motion, [0, 1, 2], 'first', 2, 48))).toEqual([0, 0.4, 0.8, 0.9])
    expect(places(stretchKeys(motion, [1, 2], 'last', 0.5, 48))).toEqual([0, 0.3, 0.4, 0.9])
    expect(stretchKeys(motion, [0, 1, 2], 'first', 4, 48)).toBe(motion)
    expect(places(reverseKeys(motion, [1, 2, 3]))).toEqual([0, 0.2, 0.7, 0.9])
    expect(reverseKeys(motion, [1, 2, 3]).keys.map(({ value }) => value)).toEqual([0, 3, 2, 1])
    expect(easeKeys(motion, [1, 3], 'hold').keys.map(({ ease }) => ease)).toEqual(['linear', 'hold', 'linear', 'hold'])
    expect(removeKeys(motion, [0, 1, 2, 3]).keys).toHaveLength(1)
  })
  it('reversed twice are as they were', () => {
    fc.assert(
      fc.property(anyNumbers, (motion) => {
        fc.pre(motion.keys.every(({ ease }) => !/step|hold/.test(ease)))
        const all = motion.keys.map((_, i) => i)
        const twice = reverseKeys(reverseKeys(motion, all), all)
        for (const [i, key] of twice.keys.entries()) {
          expect(key.at).toBeCloseTo(motion.keys[i]?.at ?? 0, 9)
          expect(key.value).toBe(motion.keys[i]?.value)
        }
      }),
    )
  })
  it('copied and pasted set the same values as far apart in frames', () => {
    const [from, to] = [20, 7].map(
      (frames): Motion<number> => ({
        keys: [0, 0.25, 0.5].map((place, i) => ({ at: place, value: 10 * i, ease: 'ease' })),
        after: 'repeat',
        period: { frames: frames * 4 },
        phase: 0,
      }),
    ) as [Motion<number>, Motion<number>]
    const pasted = pasteKeys(from, copyKeys(to, [1, 2], 48), 30, 48)
    expect(at(pasted, 30)).toBeCloseTo(10)
    expect(at(pasted, 37)).toBeCloseTo(20)
    expect(
      pasteKeys({ ...from, keys: [{ at: 0, value: 'red', ease: 'ease' }] } as Motion, copyKeys(to, [1], 48), 30, 48)
        .keys,
    ).toHaveLength(1)
  })
  it('set on the curve leave it as it is', () => {
    // Eases that stand upright at some point make much of the smallest difference in time; steps cannot be parted.
    const gentle = anyNumbers.map(
      (motion): Motion<number> => ({
        ...motion,
        after: motion.after === 'accumulate' ? 'alternate' : motion.after,
        period: { cycles: 1 },
        phase: 0,
        keys: motion.keys.map((key, i) => ({ ...key, ease: ['ease', 'ease-in', 'linear', 'hold'][i % 4] as string })),
      }),
    )
    fc.assert(
      fc.property(gentle, fc.integer({ min: 1, max: 47 }), (motion, frame) => {
        const place = frame / 48 + 1e-3
        const ends = [motion.keys[0]?.at ?? 0, motion.keys.at(-1)?.at ?? 1] as const
        fc.pre(motion.after === 'repeat' || (place > ends[0] && place < ends[1]))
        const set = keyOnCurve(motion, place, at(motion, place * 48), 48)
        for (let n = 0; n < 48; n++) expect(Math.abs(at(set, n + 0.5) - at(motion, n + 0.5))).toBeLessThan(0.1)
      }),
    )
  })
  it('begin when another motion ends', () => {
    fc.assert(
      fc.property(anyNumbers, anyNumbers, (motion, other) => {
        fc.pre(motion.after === 'repeat')
        const started = startAtEndOf(motion, other, 48)
        const period = (m: Motion) => ('cycles' in m.period ? 48 / m.period.cycles : m.period.frames)
        const end = ((other.keys.at(-1)?.at ?? 1) - other.phase) * period(other)
        const q = end / period(started) + started.phase
        expect(Math.abs(q - Math.round(q))).toBeLessThan(1e-6)
      }),
    )
  })
  it('of a motion of colours are not bent', () => {
    const colours: Motion = {
      keys: [{ at: 0, value: 'red', ease: 'linear' }],
      after: 'repeat',
      period: { cycles: 1 },
      phase: 0,
    }
    expect(bendMotion(colours, 0, 4, 1)).toBe(colours)
  })
})

describe('a recording', () => {
  it('has a key on every frame that was passed, with what was seen there', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 47, noNaN: true }), fc.integer({ min: 8, max: 90 }), (start, count) => {
        const samples = Array.from({ length: count }, (_, i) => ({
          frame: start + i * 0.7,
          value: 3 * (start + i * 0.7),
        }))
        const motion = recordedMotion(samples, 48)
        if (!motion) throw new Error('frames were passed')
        expect(motion.keys.length).toBeLessThanOrEqual(48)
        for (const { at: place, value } of motion.keys) {
          const frame = place * 48
          const turns = Math.round((value / 3 - frame) / 48)
          expect(value / 3).toBeCloseTo(frame + 48 * turns, 6)
        }
      }),
    )
    expect(recordedMotion([], 48)).toBeNull()
    expect(
      recordedMotion(
        [
          { frame: 3.1, value: 0 },
          { frame: 3.4, value: 1 },
        ],
        48,
      ),
    ).toBeNull()
  })
})

describe('a motion path', () => {
  const moving: Layer = {
    ...newLayer('ellipse', 'Gull', { x: 0, y: 0 }, 'gull'),
    motions: {
      x: {
        keys: [
          { at: 0, value: 0, ease: 'linear' },
          { at: 0.5, value: 60, ease: 'ease' },
        ],
        after: 'repeat',
        period: { cycles: 1 },
        phase: 0,
      },
      y: {
        keys: [
          { at: 0.3, value: -20, ease: 'linear' },
          { at: 0.7, value: 20, ease: 'ease' },
        ],
        after: 'repeat',
        period: { cycles: 1 },
        phase: 0,
      },
    },
  }
  const frames = Array.from({ length: 48 }, (_, n) => n)
  it('moves as a whole', () => {
    expect(movesAbout(moving)).toBe(true)
    const before = motionPath(moving, frames, 48)
    const after = motionPath(movePath(moving, 7, -3), frames, 48)
    for (const [n, point] of after.entries()) {
      expect(point.x).toBeCloseTo((before[n]?.x ?? 0) + 7)
      expect(point.y).toBeCloseTo((before[n]?.y ?? 0) - 3)
    }
  })
  it('turns and scales about its point at the playhead, which stays', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -180, max: 180 }),
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        fc.nat(47),
        (degrees, factor, frame) => {
          const before = motionPath(moving, frames, 48)
          const after = motionPath(turnPath(moving, degrees, factor, frame, 48), frames, 48)
          const centre = before[frame] ?? { x: 0, y: 0 }
          const cos = factor * Math.cos((degrees * Math.PI) / 180)
          const sin = factor * Math.sin((degrees * Math.PI) / 180)
          for (const [n, { x: px, y: py }] of before.entries()) {
            const dx = px - centre.x
            const dy = py - centre.y
            expect(after[n]?.x).toBeCloseTo(centre.x + cos * dx - sin * dy, 4)
            expect(after[n]?.y).toBeCloseTo(centre.y + sin * dx + cos * dy, 4)
          }
        },
      ),
    )
  })
})

describe('blur in the frame', () => {
  const turning: Layer = {
    ...newLayer('line', 'Hand', { x: 5, y: 5, length: 8 }, 'hand'),
    motions: {
      rotation: {
        keys: [
          { at: 0, value: 0, ease: 'linear' },
          { at: 1, value: 360, ease: 'linear' },
        ],
        after: 'accumulate',
        period: { cycles: 1 },
        phase: 0,
      },
    },
  }
  const loop = { ...quay, layers: [turning], blur: { shutter: 180, samples: 6 } }
  it('samples n + (j/S)·θ/360, and the frame itself where the shutter is shut', () => {
    expect(exposures(loop, 7)).toEqual([0, 1, 2, 3, 4, 5].map((j) => 7 + (j / 6) * 0.5))
    expect(exposures(quay, 7)).toEqual([7])
  })
  it('crosses the seam: the moments of the last frame run into the first, and those at N + x look as those at x', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 49 }), fc.double({ min: 0, max: 720, noNaN: true }), (n, shutter) => {
        const blurred = { ...loop, blur: { shutter, samples: 5 } }
        const later = exposures(blurred, n + 50)
        for (const [j, moment] of exposures(blurred, n).entries()) {
          const here = evaluateUnreduced(loop, moment)
          const there = evaluateUnreduced(loop, later[j] ?? 0)
          const ring = evaluate(loop, moment)
          for (const list of [there, ring])
            for (const [k, value] of (list.nodes[0]?.transform ?? []).entries())
              expect(value).toBeCloseTo(here.nodes[0]?.transform[k] ?? 9, 6)
        }
      }),
    )
  })
})
