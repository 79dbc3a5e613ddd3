import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../../render/node'
import type { Loop } from '../../document'
import { newLayer } from '../../edit'
import { evaluate } from '../../evaluate'
import type { Picture } from '../../image'
import { describeFrame, judgeClip, judgeSeam } from '../../seam'
import { quay } from '../../testing/quay'
import {
  applyMend,
  type ClipShape,
  type Mend,
  meanLight,
  mendedPlan,
  mendsFor,
  mendWords,
  mixFrame,
  piecesOf,
  plainPlan,
  sourcesOf,
} from '..'

/** A buoy that slides across, and is elsewhere at the end than at the start. */
const N = 24
const across = (n: number): Picture => {
  const loop: Loop = {
    ...quay,
    width: 48,
    height: 48,
    background: '#0b2230',
    layers: [newLayer('ellipse', 'Buoy', { x: 10 + n, y: 24 + 6 * Math.sin(n / 3), width: 14, height: 14 }, 'buoy')],
  }
  const { width, height, data } = renderInNode(evaluate(loop, 0), 48, 48)
  return { width, height, data }
}
const pictures = Array.from({ length: N }, (_, n) => across(n))
const shapeOf = (shown: readonly Picture[]): ClipShape => ({
  delaysMs: shown.map(() => 40),
  playsForever: true,
  means: shown.map(meanLight),
})
const clip = shapeOf(pictures)
const frameNumbers = (mends: readonly Mend[]) => mendedPlan(clip, mends).frames.map(sourcesOf)
const shown = (mends: readonly Mend[], source = pictures, of = shapeOf(source)) =>
  mendedPlan(of, mends).frames.map((frame) => mixFrame(frame, (n) => source[n]))

describe('mends', () => {
  it('without any the clip is as it came, to the byte', () => {
    expect(shown([])).toEqual(pictures)
  })
  it('drop, crop, and run there and back with the turning frames once', () => {
    expect(frameNumbers([{ kind: 'drop', frames: [0, 23] }]).flat()).toEqual(
      Array.from({ length: 22 }, (_, i) => i + 1),
    )
    expect(frameNumbers([{ kind: 'crop', from: 3, to: 6 }]).flat()).toEqual([3, 4, 5, 6])
    const back = frameNumbers([{ kind: 'crop', from: 0, to: 3 }, { kind: 'there-and-back' }]).flat()
    expect(back).toEqual([0, 1, 2, 3, 2, 1])
  })
  it('overlap the ends: shorter by K, weights of whole light, and the end leads to the start', () => {
    const plan = mendedPlan(clip, [{ kind: 'overlap', frames: 8, keepVariance: false }])
    expect(plan.frames).toHaveLength(N - 8)
    expect(plan.delaysMs).toHaveLength(N - 8)
    for (const { parts } of plan.frames.flatMap(piecesOf))
      expect(parts.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 12)
    expect(judgeSeam(pictures).verdict).toBe('jumps')
    expect(judgeSeam(shown([{ kind: 'overlap', frames: 8, keepVariance: false }])).verdict).not.toBe('jumps')
  })
  it('keep the contrast of a texture where they are told to', () => {
    const noise = (seed: number): Picture => {
      const data = new Uint8ClampedArray(64 * 64 * 4)
      for (let i = 0; i < data.length; i += 4) {
        const v = 90 + (((i * 2654435761 + seed * 97561) >>> 7) % 80)
        data.set([v, v, v, 255], i)
      }
      return { width: 64, height: 64, data }
    }
    const spread = ({ data }: Picture) => {
      const values = [...data].filter((_, i) => i % 4 === 0)
      const mean = values.reduce((a, b) => a + b, 0) / values.length
      return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length)
    }
    const two = [noise(1), noise(99991)]
    const half = (keepVariance: boolean) =>
      mixFrame(
        { keepVariance, parts: [0, 1].map((frame) => ({ frame, weight: 0.5, gain: [1, 1, 1] as const })) },
        (n) => two[n],
      )
    expect(spread(half(false)) / spread(two[0])).toBeLessThan(0.87)
    expect(spread(half(true)) / spread(two[0])).toBeGreaterThan(0.9)
  })
  it('even out a drift of exposure', () => {
    const turning = (n: number) => pictures[n < 12 ? n : 23 - n]
    const darkening = Array.from({ length: N }, (_, n) => ({
      ...turning(n),
      data: turning(n).data.map((v, i) => (i % 4 === 3 ? v : v * (1 - (0.2 * n) / N))),
    }))
    const kinds = (of: readonly Picture[]) =>
      judgeClip(
        of.map((picture) => describeFrame(picture)),
        { delaysMs: of.map(() => 40), playsForever: true },
      ).findings.map(({ kind }) => kind)
    expect(kinds(darkening)).toContain('drift')
    expect(kinds(shown([{ kind: 'even-exposure' }], darkening))).not.toContain('drift')
  })
  it('set delays and repeats', () => {
    const odd: ClipShape = { ...clip, delaysMs: [40, 80, 10, 40, 400], playsForever: false }
    expect(mendedPlan(odd, [{ kind: 'even-delays' }]).delaysMs).toEqual([40, 40, 40, 40, 400])
    expect(mendedPlan(odd, [{ kind: 'slower', delayMs: 20 }]).delaysMs).toEqual([40, 80, 20, 40, 400])
    expect(mendedPlan(odd, [{ kind: 'for-ever' }]).playsForever).toBe(true)
  })
  it('let a clip last so long, its delays in the same ratios', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(500), { minLength: 2, maxLength: 30 }),
        fc.double({ min: 0.05, max: 60, noNaN: true }),
        (delaysMs, seconds) => {
          const of: ClipShape = { ...clip, delaysMs, means: delaysMs.map(() => [0.2, 0.2, 0.2]) }
          const after = mendedPlan(of, [{ kind: 'last', seconds }]).delaysMs
          expect(after.reduce((sum, delay) => sum + delay, 0) / 1000).toBeCloseTo(seconds, 9)
          const total = delaysMs.reduce((sum, delay) => sum + delay, 0)
          if (total > 0)
            for (const [n, delay] of delaysMs.entries())
              expect(after[n]).toBeCloseTo((delay / total) * 1000 * seconds, 6)
        },
      ),
    )
  })
  it('never leave fewer than two frames, lose a delay, or weigh more than the whole, whatever is done', () => {
    const mend: fc.Arbitrary<Mend> = fc.oneof(
      fc.record({ kind: fc.constant('drop' as const), frames: fc.array(fc.nat(40), { maxLength: 30 }) }),
      fc.record({ kind: fc.constant('crop' as const), from: fc.integer({ min: -5, max: 40 }), to: fc.nat(60) }),
      fc.record({ kind: fc.constant('overlap' as const), frames: fc.nat(50), keepVariance: fc.boolean() }),
      fc.constantFrom<Mend>({ kind: 'there-and-back' }, { kind: 'even-exposure' }, { kind: 'even-delays' }),
    )
    fc.assert(
      fc.property(fc.array(mend, { maxLength: 6 }), (mends) => {
        const plan = mends.reduce((each, one) => applyMend(each, one, clip), plainPlan(clip))
        expect(plan.frames.length).toBeGreaterThanOrEqual(2)
        expect(plan.delaysMs).toHaveLength(plan.frames.length)
        for (const { parts } of plan.frames.flatMap(piecesOf)) {
          expect(parts.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9)
          expect(parts.every(({ frame }) => frame >= 0 && frame < N)).toBe(true)
        }
      }),
      { numRuns: 200 },
    )
  })
  it('answer findings, and say what they did', () => {
    const found = judgeClip(
      [...pictures, pictures[0]].map((picture) => describeFrame(picture)),
      {
        delaysMs: new Array(N + 1).fill(10),
        playsForever: false,
      },
    )
    const kinds = found.findings.map(({ kind }) => kind)
    expect(kinds).toEqual(expect.arrayContaining(['plays-once', 'delay-too-short']))
    for (const finding of found.findings)
      for (const { label, mend } of mendsFor(finding, N + 1)) {
        expect(label.length).toBeGreaterThan(5)
        expect(mendWords(mend).length).toBeGreaterThan(5)
      }
  })
})
