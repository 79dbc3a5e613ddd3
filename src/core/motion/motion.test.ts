import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { movingProperty, type NumberProperty } from '../layers'
import { ellipse } from '../layers/ellipse'
import { anyEase, anyMotion } from '../testing/arbitrary'
import {
  checkHome,
  curveValue,
  easeAt,
  type Motion,
  mixNumbers,
  motionValue,
  parseEase,
  reduceGap,
  remedies,
  travel,
} from '.'

const rotation = ellipse.properties.rotation as NumberProperty
const turning = { ...movingProperty(rotation, {}), equivalence: 360 } as const
const plain = { ...turning, equivalence: undefined }
const anyLength = fc.integer({ min: 2, max: 240 })
const numeric = (motion: Motion) => motion as Motion<number>

const turn = (degrees: number, ease = 'linear', more: Partial<Motion<number>> = {}): Motion<number> => ({
  keys: [
    { at: 0, value: 0, ease },
    { at: 1, value: degrees, ease: 'linear' },
  ],
  after: 'accumulate',
  period: { cycles: 1 },
  phase: 0,
  ...more,
})

describe('eases', () => {
  it('start at 0 and reach 1 with their segment, unless they jump', () => {
    for (const ease of ['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'cubic-bezier(0.3, -0.5, 0.2, 1.5)']) {
      expect(easeAt(ease, 0)).toBe(0)
      expect(easeAt(ease, 1)).toBe(1)
    }
  })
  it('follow CSS Easing 1 for steps', () => {
    expect([0, 0.24, 0.25, 0.5, 0.99].map((t) => easeAt('steps(4)', t))).toEqual([0, 0, 0.25, 0.5, 0.75])
    expect([0, 0.5, 0.99].map((t) => easeAt('steps(2, jump-none)', t))).toEqual([0, 1, 1])
    expect([0, 0.5].map((t) => easeAt('steps(2, jump-both)', t))).toEqual([1 / 3, 2 / 3])
    expect(easeAt('step-start', 0)).toBe(1)
  })
  it('follow the cubic Bézier: at parameter s the curve passes through (x(s), y(s))', () => {
    const point = (a: number, b: number, s: number) => 3 * (1 - s) ** 2 * s * a + 3 * (1 - s) * s * s * b + s ** 3
    fc.assert(
      fc.property(
        fc.tuple(...([0, -1, 0, -1] as const).map((low) => fc.integer({ min: low * 10, max: low ? 20 : 10 }))),
        fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        ([a, b, c, d], s) => {
          const [x1, y1, x2, y2] = [a, b, c, d].map((v) => (v ?? 0) / 10) as [number, number, number, number]
          const slope = 3 * ((1 - s) ** 2 * x1 + 2 * (1 - s) * s * (x2 - x1) + s * s * (1 - x2))
          fc.pre(slope > 0.05)
          expect(easeAt(`cubic-bezier(${x1}, ${y1}, ${x2}, ${y2})`, point(x1, x2, s))).toBeCloseTo(point(y1, y2, s), 4)
        },
      ),
    )
  })
  it('are refused where CSS refuses them', () => {
    for (const bad of ['', 'swift', 'cubic-bezier(2, 0, 1, 1)', 'steps(0)', 'steps(1, jump-none)', 'toString'])
      expect(parseEase(bad)).toBeNull()
    expect(() => easeAt('swift', 0.5)).toThrow('“swift”')
  })
})

describe('motion', () => {
  it('is the curve itself in its first cycle, whatever comes after', () => {
    fc.assert(
      fc.property(anyMotion(rotation), anyLength, fc.double({ min: 0, max: 0.99, noNaN: true }), (m, length, u) => {
        const motion = { ...numeric(m), phase: 0, period: { cycles: 1 } }
        expect(motionValue(motion, u * length, length, mixNumbers)).toBeCloseTo(curveValue(motion, u, mixNumbers), 6)
      }),
    )
  })
  it('follows the table of modes, before its first cycle as after', () => {
    const keys = [
      { at: 0, value: 10, ease: 'linear' },
      { at: 1, value: 30, ease: 'linear' },
    ]
    const at = (after: Motion['after'], frame: number) =>
      motionValue({ keys, after, period: { frames: 10 }, phase: 0 }, frame, 10, mixNumbers)
    expect([-5, 5, 15, 25].map((n) => at('accumulate', n))).toEqual([0, 20, 40, 60])
    expect([-2.5, 2.5, 12.5, 22.5].map((n) => at('alternate', n))).toEqual([15, 15, 25, 15])
    expect([-5, 5, 15].map((n) => at('once', n))).toEqual([10, 20, 30])
    const ring = { keys: [keys[0], { at: 0.5, value: 30, ease: 'linear' }] as Motion<number>['keys'] }
    const repeat = (n: number) =>
      motionValue({ ...ring, after: 'repeat', period: { frames: 10 }, phase: 0 }, n, 10, mixNumbers)
    expect([-2.5, 2.5, 7.5, 10, 12.5].map(repeat)).toEqual([20, 20, 20, 10, 20])
  })
  it('takes its keys’ values at its keys', () => {
    fc.assert(
      fc.property(anyMotion(rotation), (m) => {
        const gentle = numeric(m).keys.map((key) => (/start|both/.test(key.ease) ? { ...key, ease: 'linear' } : key))
        for (const key of gentle)
          expect(curveValue({ ...numeric(m), keys: gentle }, key.at, mixNumbers)).toBe(key.value)
      }),
    )
  })
})

describe('coming home', () => {
  it('is certain for every tied motion that repeats, but for one that leaps back to its first key', () => {
    fc.assert(
      fc.property(anyMotion(rotation, true), anyLength, (m, length) => {
        const motion = { ...numeric(m), after: 'repeat' as const, keys: numeric(m).keys.filter((k) => k.at < 1) }
        fc.pre(motion.keys.length > 0)
        const report = checkHome(motion, length, plain)
        expect(report.goesOn).toBe(true)
        const at = (frame: number) => motionValue(motion, frame, length, mixNumbers)
        expect(at(length)).toBeCloseTo(at(0), 6)
        if (report.leap === null) expect(report).toMatchObject({ home: true, gap: expect.closeTo(0, 6) })
        else expect(report).toMatchObject({ home: false, gap: report.leap })
      }),
    )
  })
  it('fails where the way back from the last key is out of family, whatever the phase, and closing it mends that', () => {
    const drag = (count: number, back = 1): Motion<number> => ({
      keys: Array.from({ length: count }, (_, i) => ({ at: (i * back) / count, value: 10 * i, ease: 'linear' })),
      after: 'repeat',
      period: { cycles: 1 },
      phase: 0,
    })
    fc.assert(
      fc.property(fc.integer({ min: 8, max: 60 }), fc.integer({ min: 1, max: 3 }), fc.nat(7), (N, cycles, eighths) => {
        const motion = { ...drag(N), period: { cycles }, phase: eighths / 8 }
        const report = checkHome(motion, N * cycles, plain)
        expect(report).toMatchObject({ home: false, leap: expect.closeTo(-10 * (N - 1), 6) })
        const [first] = remedies(motion, N * cycles, plain, ' px')
        expect(first?.kind).toBe('close')
        expect(checkHome(first?.motion as Motion<number>, N * cycles, plain).home).toBe(true)
      }),
    )
    // In one frame and a half it still leaps; in three it moves.
    expect(checkHome(drag(46, 44.5 / 45), 46, plain).home).toBe(false)
    expect(checkHome(drag(40, 36 / 39), 40, plain).home).toBe(true)
  })
  it('holds where a value steps at the seam as it does elsewhere, and not where it does so there alone', () => {
    const held = (values: number[]): Motion<number> => ({
      keys: values.map((value, i) => ({ at: i / values.length, value, ease: 'hold' })),
      after: 'repeat',
      period: { cycles: 1 },
      phase: 0,
    })
    expect(checkHome(held([0, 40]), 24, plain).home).toBe(true)
    expect(checkHome(held([0, 10, 20, 30]), 24, plain)).toMatchObject({ home: false, leap: -30 })
    expect(checkHome(held([0, 90, 180, 270]), 24, turning).home).toBe(true)
  })
  it('is certain for every tied motion that accumulates a multiple of its equivalence', () => {
    fc.assert(
      fc.property(
        anyMotion(rotation, true),
        anyLength,
        fc.integer({ min: -3, max: 3 }),
        fc.constantFrom(360, 90, 45),
        (m, length, multiple, equivalence) => {
          const first = numeric(m).keys[0]?.value ?? 0
          const last = { at: 1, value: first + multiple * equivalence, ease: 'linear' }
          const keys = [...numeric(m).keys.filter((key) => key.at < 1), last]
          const report = checkHome({ ...numeric(m), keys, after: 'accumulate' }, length, { ...turning, equivalence })
          expect(report).toMatchObject({ home: true, goesOn: true })
          expect(Math.abs(report.gap)).toBeLessThan(2e-6)
        },
      ),
    )
  })
  it('does not mean that a motion goes on as it began: one that stops, or is on its way back, does not', () => {
    const there = turn(40, 'linear', { period: { cycles: 2 } })
    const bump = { ...there, keys: [...there.keys.slice(0, 1), { at: 0.5, value: 40, ease: 'linear' }] }
    const closed = { ...bump, keys: [...bump.keys, { at: 1, value: 0, ease: 'linear' }] }
    const goesOn = (motion: Motion<number>) => {
      const { home, goesOn } = checkHome(motion, 48, plain)
      return [home, goesOn]
    }
    expect(goesOn({ ...closed, after: 'once', period: { cycles: 1 } })).toEqual([true, false])
    expect(goesOn({ ...there, after: 'alternate' })).toEqual([true, true])
    expect(goesOn({ ...closed, after: 'alternate', period: { cycles: 3 } })).toEqual([true, false])
    expect(goesOn({ ...bump, after: 'repeat', phase: 0.25, period: { frames: 48 / 2.5 } })).toEqual([true, false])
  })
  it('is missed by exactly the gap that the values show', () => {
    fc.assert(
      fc.property(anyMotion(rotation), anyLength, (m, length) => {
        const motion = numeric(m)
        const at = (n: number) => motionValue(motion, n, length, mixNumbers)
        const raw = at(length) - at(0)
        const report = checkHome(motion, length, plain)
        expect(report.gap).toBe(report.leap ?? raw)
        const onRing = checkHome(motion, length, turning)
        fc.pre(onRing.leap === null)
        const reduced = onRing.gap
        expect(Math.abs((raw - reduced) / 360 - Math.round((raw - reduced) / 360))).toBeLessThan(1e-9)
        expect(reduced).toBeGreaterThan(-180 - 1e-9)
        expect(reduced).toBeLessThanOrEqual(180 + 1e-9)
      }),
    )
  })
  it('reduces gaps to (−m/2, m/2]', () => {
    expect([350, 370, 180, -180, 540, 720].map((gap) => reduceGap(gap, 360))).toEqual([-10, 10, 180, 180, 180, 0])
    expect(reduceGap(350)).toBe(350)
  })

  it('holds for a turn of 360°, and fails for 350° by ten', () => {
    expect(checkHome(turn(360), 48, turning)).toMatchObject({ home: true, hesitates: false, evenness: 1 })
    const short = checkHome(turn(350), 48, turning)
    expect(short.home).toBe(false)
    expect(short.gap).toBeCloseTo(-10)
  })
  it('hesitates where a turn eases once per turn', () => {
    expect(checkHome(turn(360, 'ease-in-out'), 48, turning)).toMatchObject({ home: true, hesitates: true })
  })
  it('sees the kink where speeds differ on both sides of the seam', () => {
    expect(checkHome(turn(360, 'ease-in'), 48, turning).kink).toBeGreaterThan(0.9)
    expect(checkHome(turn(360), 48, turning).kink).toBeLessThan(2e-6)
  })

  const bothEndsAlike = (more: Partial<Motion<number>>): Motion<number> => ({
    keys: [
      { at: 0, value: 0, ease: 'linear' },
      { at: 0.4, value: 40, ease: 'linear' },
      { at: 1, value: 0, ease: 'linear' },
    ],
    after: 'once',
    period: { frames: 47 },
    phase: 0,
    ...more,
  })
  it('shows a frame twice where both ends are keyed alike, a frame too early', () => {
    expect(checkHome(bothEndsAlike({}), 48, plain).repeatsFrame).toBe(true)
    expect(checkHome(bothEndsAlike({ period: { frames: 48 } }), 48, plain).repeatsFrame).toBe(false)
    const tied = bothEndsAlike({ after: 'repeat', period: { cycles: 1 } })
    const early = { ...tied, keys: tied.keys.map((key) => ({ ...key, at: (key.at * 47) / 48 })) }
    expect(checkHome(early, 48, plain)).toMatchObject({ home: true, repeatsFrame: true })
    // A turn of 47 frames has gone on when the loop ends, and frame 47 shows what frame 0 does.
    const turned = checkHome(turn(360, 'linear', { period: { frames: 47 } }), 48, turning)
    expect(turned).toMatchObject({ home: false, repeatsFrame: true })
  })
  it('goes the long way back where a whole turn is keyed in a motion that repeats', () => {
    const longWay = (degrees: number, after: Motion['after'] = 'repeat') =>
      checkHome(turn(degrees, 'linear', { after }), 48, turning).longWay
    expect([360, -360, 720].map((degrees) => longWay(degrees))).toEqual([true, true, true])
    expect([0, 180, 350, 370].map((degrees) => longWay(degrees))).toEqual([false, false, false, false])
    expect(longWay(360, 'accumulate')).toBe(false)
  })
  it('does not take a turning point, or a cadence of holds, for a repeated frame', () => {
    const bob: Motion<number> = {
      keys: [
        { at: 0, value: 0, ease: 'ease-in-out' },
        { at: 0.5, value: 40, ease: 'ease-in-out' },
      ],
      after: 'repeat',
      period: { cycles: 1 },
      phase: 0.5 / 48,
    }
    expect(checkHome(bob, 48, plain).repeatsFrame).toBe(false)
    expect(checkHome(turn(360, 'steps(24)', { phase: 0.5 / 48 }), 48, turning).repeatsFrame).toBe(false)
  })
})

describe('remedies', () => {
  const offered = (motion: Motion<number>, length = 48) => remedies(motion, length, turning, '°')
  it('bring home whatever they are offered for', () => {
    fc.assert(
      fc.property(anyMotion(rotation), anyLength, (m, length) => {
        for (const { motion } of offered(numeric(m), length))
          expect(checkHome(motion, length, turning)).toMatchObject({
            home: true,
            repeatsFrame: false,
            hesitates: false,
          })
      }),
    )
  })
  it('offer the whole turn, or enough cycles, for 350°', () => {
    const found = offered(turn(350), 120)
    expect(found.map(({ kind }) => kind)).toEqual(['travel', 'cycles', 'close'])
    expect(travel(found[0]?.motion as Motion<number>)).toBeCloseTo(360)
    expect(found[1]?.motion.period).toEqual({ cycles: 36 })
  })
  it('offer an even speed for an eased turn', () => {
    expect(offered(turn(360, 'ease-in-out')).map(({ kind }) => kind)).toContain('even')
  })
  it('offer the tie for two and a half cycles', () => {
    const found = offered(turn(360, 'linear', { period: { frames: 48 / 2.5 } }))
    expect(found[0]).toMatchObject({ kind: 'tie', motion: { period: { cycles: 3 } } })
  })
  it('keep nothing but remedies: none that changes nothing, none twice', () => {
    fc.assert(
      fc.property(anyMotion(rotation), anyEase, anyLength, (m, ease, length) => {
        const motion = { ...numeric(m), keys: numeric(m).keys.map((key) => ({ ...key, ease })) }
        const texts = offered(motion, length).map((remedy) => JSON.stringify(remedy.motion))
        expect(new Set([...texts, JSON.stringify(motion)]).size).toBe(texts.length + 1)
      }),
    )
  })
})
