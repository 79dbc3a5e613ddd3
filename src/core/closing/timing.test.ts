import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { fraction, toNumber } from '../clock'
import type { DisplayList } from '../display'
import type { Layer, Loop } from '../document'
import { makeVariant, newLayer, partVariant, reverseLoop, shiftPhase } from '../edit'
import { evaluate } from '../evaluate'
import { greatestDifference } from '../image'
import { evenly, isTied } from '../motion'
import { anyLoop } from '../testing/arbitrary'
import { sheet, turning } from '../testing/drums'
import { quay } from '../testing/quay'
import {
  changeAllTimes,
  changeLoopClock,
  changeSpeed,
  checkMotions,
  repeatLoop,
  setCycles,
  shorterLoops,
  stretchLoop,
} from '.'

/** Loops of which every motion is tied, goes on as it began, and has no steps whose edges rounding could move. */
const smooth = (loop: Loop): Loop => {
  const plain = changeAllTimes(loop, {
    motion: (motion) => ({
      ...motion,
      after: motion.after === 'once' || motion.after === 'accumulate' ? ('alternate' as const) : motion.after,
      period: { cycles: isTied(motion.period) ? 2 * motion.period.cycles : 2 },
      keys: motion.keys.map((key) => ({ ...key, ease: /step|hold/.test(key.ease) ? 'linear' : key.ease })),
    }),
  })
  const still = (layer: Layer): Layer => ({ ...layer, events: {}, layers: layer.layers?.map(still) ?? [] })
  return { ...plain, layers: plain.layers.map(still) }
}
const anySmooth = anyLoop.map(smooth)

const numbers = (value: unknown): number[] =>
  typeof value === 'number'
    ? [value]
    : value && typeof value === 'object'
      ? Object.values(value).flatMap((each) => numbers(each))
      : []

function looksAlike(a: DisplayList, b: DisplayList): boolean {
  const xs = numbers(a.nodes)
  const ys = numbers(b.nodes)
  if (xs.length === ys.length && xs.every((x, i) => Math.abs(x - (ys[i] as number)) <= 1e-3 * (1 + Math.abs(x))))
    return true
  return greatestDifference(renderInNode(a, 120, 120), renderInNode(b, 120, 120)) <= 24
}

describe('a loop repeated, stretched, shifted or run backwards', () => {
  it('shows after itself what it shows', () => {
    fc.assert(
      fc.property(anySmooth, fc.integer({ min: 1, max: 4 }), fc.nat(400), (loop, times, frame) => {
        const longer = repeatLoop(loop, times)
        expect(longer.length).toBe(times * loop.length)
        expect(looksAlike(evaluate(longer, frame), evaluate(loop, frame))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('stretched shows at n what it showed at n·N/N′', () => {
    fc.assert(
      fc.property(anySmooth, fc.integer({ min: 1, max: 300 }), fc.nat(400), (loop, length, frame) => {
        const stretched = stretchLoop(loop, length)
        expect(looksAlike(evaluate(stretched, frame), evaluate(loop, (frame * loop.length) / length))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('shifted by a share shows what it showed that much later', () => {
    fc.assert(
      fc.property(anySmooth, fc.integer({ min: 0, max: 7 }), fc.nat(200), (loop, eighths, frame) => {
        const shifted = shiftPhase(loop, eighths / 8)
        expect(looksAlike(evaluate(shifted, frame), evaluate(loop, frame + (eighths / 8) * loop.length))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('backwards shows at n what it showed at −n', () => {
    fc.assert(
      fc.property(anySmooth, fc.nat(200), (loop, frame) => {
        expect(looksAlike(evaluate(reverseLoop(loop), frame), evaluate(loop, -frame))).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})

describe('another rate or length', () => {
  const to = (meaning: 'cycles' | 'seconds' | 'frames', rate: number, length: number) =>
    changeLoopClock(sheet, { rate: fraction(rate), length }, meaning)
  it('keeps the cycles: everything stretches', () => {
    const { loop } = to('cycles', 50, 90)
    expect([loop.length, toNumber(loop.rate)]).toEqual([90, 50])
    expect(loop.layers[0]?.motions.rotation?.period).toEqual({ cycles: 2 })
  })
  it('keeps the seconds: more or fewer frames', () => {
    expect(to('seconds', 50, 60).loop).toMatchObject({ length: 120, rate: { num: 50, den: 1 } })
    expect(to('seconds', 25, 30).loop).toMatchObject({ length: 30, rate: { num: 25, den: 2 } })
  })
  it('keeps the frames of each cycle, and says which speeds bend', () => {
    const exact = to('frames', 25, 120)
    expect(exact.loop.layers.map((layer) => layer.motions.rotation?.period)).toEqual([{ cycles: 4 }, { cycles: 2 }])
    expect(exact.bent).toEqual([])
    const bent = to('frames', 25, 70)
    expect(bent.bent.map(({ layer }) => layer)).toEqual(['drum', 'wheel'])
    expect(bent.bent[0]?.error).toBeCloseTo(70 / (2 * 30) - 1)
  })
  it('leaves a loop that closes closing, whatever is meant', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('cycles', 'seconds', 'frames' as const),
        fc.integer({ min: 1, max: 120 }),
        fc.integer({ min: 1, max: 900 }),
        (meaning, rate, length) => {
          const { loop } = to(meaning as 'cycles', rate, length)
          expect(checkMotions(loop).every(({ home, goesOn }) => home && goesOn)).toBe(true)
        },
      ),
    )
  })
})

describe('one motion with so many cycles', () => {
  it('is tied where they are whole, and makes the loop longer for a part of one', () => {
    const three = setCycles(sheet, 'wheel', 'rotation', 3)
    expect(three.layers[1]?.motions.rotation?.period).toEqual({ cycles: 3 })
    expect(three.length).toBe(60)
    const third = setCycles(sheet, 'wheel', 'rotation', 1 / 3)
    expect(third.length).toBe(180)
    expect(third.layers.map((layer) => layer.motions.rotation?.period)).toEqual([{ cycles: 6 }, { cycles: 1 }])
    for (const each of [three, third]) expect(checkMotions(each).every(({ home }) => home)).toBe(true)
  })
  it('is free, and seen not to come home, where they are broken', () => {
    const broken = setCycles(sheet, 'wheel', 'rotation', 2.3)
    expect(broken.layers[1]?.motions.rotation?.period).toEqual({ frames: 60 / 2.3 })
    expect(checkMotions(broken).find(({ layer }) => layer.id === 'wheel')?.home).toBe(false)
  })
  it('is refused where there can be none', () => {
    for (const cycles of [0, -1, Number.NaN, Number.POSITIVE_INFINITY])
      expect(() => setCycles(sheet, 'wheel', 'rotation', cycles)).toThrow(RangeError)
    expect(() => setCycles(sheet, 'wheel', 'rotation', 1e-4)).toThrow(/more than \d+ frames/)
    expect(setCycles(sheet, 'nothing', 'rotation', 2)).toEqual(sheet)
  })
})

describe('one motion at another speed', () => {
  it('has half its cycles where they divide, or the loop becomes longer for it', () => {
    expect(changeSpeed(sheet, 'drum', 'rotation', 2, true)).toMatchObject({ length: 60 })
    const slower = changeSpeed(sheet, 'wheel', 'rotation', 2, true)
    expect(slower.length).toBe(120)
    expect(slower.layers.map((layer) => layer.motions.rotation?.period)).toEqual([{ cycles: 4 }, { cycles: 1 }])
    expect(checkMotions(slower).every(({ home }) => home)).toBe(true)
    expect(changeSpeed(sheet, 'wheel', 'rotation', 2, false).layers[1]?.motions.rotation?.period).toEqual({ cycles: 2 })
  })
})

describe('a shorter loop inside', () => {
  it('is found where every motion is home before, by its symmetry', () => {
    const found = shorterLoops({
      ...sheet,
      layers: [turning('drum', {}), turning('star', { period: { cycles: 2 } }, { corners: 6 })],
    })
    expect(found.map(({ times }) => times)).toEqual([3])
    const capstan = shorterLoops({ ...sheet, layers: [turning('capstan', {}, { corners: 6 })] })
    expect(capstan[0]).toMatchObject({ times: 6, length: 10 })
    expect(checkMotions(capstan[0]?.loop as Loop).every(({ home }) => home)).toBe(true)
  })
  it('is found where one cycle does the same several times', () => {
    const beat = (at: number, value: number) => ({ at, value, ease: 'ease-in-out' })
    const pulse: Layer = {
      ...newLayer('ellipse', 'Lamp', {}, 'lamp'),
      motions: {
        opacity: {
          keys: [0, 0.25, 0.5, 0.75].map((at, i) => beat(at, i % 2)),
          after: 'repeat',
          period: { cycles: 1 },
          phase: 0.1,
        },
      },
    }
    const [found] = shorterLoops({ ...quay, length: 40, layers: [pulse] })
    expect(found).toMatchObject({ times: 2, length: 20 })
    for (let n = 0; n < 40; n++)
      expect(evaluate(found?.loop as Loop, n).nodes[0]?.opacity).toBeCloseTo(
        evaluate({ ...quay, length: 40, layers: [pulse] }, n).nodes[0]?.opacity ?? 9,
        6,
      )
  })
  it('shows the same on every frame', () => {
    fc.assert(
      fc.property(anySmooth, fc.constantFrom(2, 3, 4), fc.nat(200), (loop, times, frame) => {
        const found = shorterLoops(repeatLoop(loop, times)).find((each) => each.times === times)
        fc.pre(found !== undefined)
        if (found) expect(looksAlike(evaluate(found.loop, frame), evaluate(loop, frame))).toBe(true)
      }),
      // Many of the documents that are tried have no shorter loop in them.
      { numRuns: 15 },
    )
  })
  it('is found for a wheel of like spokes that are drawn one by one', () => {
    const spoke = (degrees: number) =>
      newLayer('line', `Spoke ${degrees}`, { rotation: degrees, length: 8 }, `spoke-${degrees}`)
    const wheel: Layer = {
      ...newLayer('group', 'Wheel', { x: 5, y: 5 }, 'wheel'),
      layers: [0, 45, 90, 135].map(spoke),
      motions: { rotation: evenly(360) },
    }
    expect(shorterLoops({ ...quay, length: 48, layers: [wheel] })[0]).toMatchObject({ times: 8, length: 6 })
    const odd = {
      ...wheel,
      layers: [
        ...(wheel.layers ?? []).slice(0, 3),
        { ...spoke(135), values: { ...spoke(135).values, stroke: '#ffffff' } },
      ],
    }
    expect(shorterLoops({ ...quay, length: 48, layers: [odd] })[0]?.times).toBe(2)
  })
})

describe('a variant', () => {
  const source = {
    ...sheet,
    palette: [{ name: 'lamp', colour: '#f6b84b' }],
    layers: [turning('drum', {}, { fill: 'var(--lamp)' })],
  }
  const change = { palette: { lamp: '#79c9b4' }, faster: 3, longer: 2, reversed: true, phase: 0.25 }
  it('shows its source in other colours, faster, longer, backwards and later', () => {
    const variant = makeVariant(source, 'Green', change)
    expect(variant).toMatchObject({ length: 120, name: 'Green', variantOf: { id: source.id } })
    const [node] = evaluate(variant, 4).nodes
    expect(node?.type === 'shape' && node.fill?.colour).toBe('#79c9b4')
    const backwards = evaluate(source, -((4 + 30) * 3) / 2).nodes[0]
    expect(node?.transform[0]).toBeCloseTo(backwards?.transform[0] ?? 9)
    expect(node?.transform[1]).toBeCloseTo(backwards?.transform[1] ?? 9)
    expect(checkMotions(variant).every(({ home }) => home)).toBe(true)
  })
  it('follows no longer once it is parted', () =>
    expect('variantOf' in partVariant(makeVariant(source, 'Own', change))).toBe(false))
})
