import { createCanvas } from '@napi-rs/canvas'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Case, casesOf } from '../../../bench/corpus/faults'
import { SCENES, type Scene, scenePictures } from '../../../bench/corpus/scenes'
import { COMMON_RATES, gifTiming } from '../clock'
import { type Picture, reducePicture } from '../image'
import { type ClipTiming, describeFrame, descriptorOf, judgeClip, judgedSide, seriesOf } from '.'
import { heldSteps, holdsOf } from './holds'

const SHAPE = { size: 48, frames: 24, delayMs: 40 }
const sceneOf = (name: string) => SCENES.find((each) => each.name === name) as Scene
const shown = (name: string, times: readonly number[]) => scenePictures(sceneOf(name), SHAPE.size, times, times.length)
const steady = (count: number): number[] => Array.from({ length: count }, (_, n) => n / count)
const judge = (pictures: readonly Picture[], timing: Partial<ClipTiming> = {}) =>
  judgeClip(
    pictures.map((picture) => describeFrame(picture)),
    { delaysMs: pictures.map(() => 40), playsForever: true, ...timing },
  )
const kinds = (pictures: readonly Picture[], timing: Partial<ClipTiming> = {}) =>
  judge(pictures, timing).findings.map(({ kind }) => kind)

describe('what is found in a clip', () => {
  /** A tick that is left out changes no more pixels than any; a frame more hardly shows where the motion rests. */
  const unseen = ({ scene, fault }: Case) =>
    (scene === 'ticking' && fault === 'its end is missing') ||
    (scene === 'breathing' && fault.startsWith('repeats its'))
  it.each(SCENES.map(({ name }) => name))('%s: every fault with its frame, and none that is not there', (name) => {
    for (const each of casesOf(sceneOf(name), SHAPE)) {
      if (unseen(each)) continue
      const { findings } = judge(each.pictures, { delaysMs: each.delaysMs, playsForever: each.plays === 0 })
      const faults = findings.filter(
        ({ hint, kind }) => !hint && !(each.expected?.kind === 'drift' && kind === 'jumps'),
      )
      const wanted = each.expected
      if (!wanted) expect(faults, `${name}, sound`).toEqual([])
      else {
        expect(
          faults.map(({ kind }) => kind),
          `${name}, ${each.fault}`,
        ).toEqual([wanted.kind])
        if (wanted.frames) expect(wanted.frames).toContain(faults[0]?.frame)
      }
    }
  })
  it('names the gravest first: blank, jumps, repeats', () => {
    const pictures = shown('turning', steady(24))
    const blank: Picture = { width: 48, height: 48, data: new Uint8ClampedArray(48 * 48 * 4).fill(20) }
    const all = [...pictures.slice(0, 10), pictures[9], ...pictures.slice(10, 20)]
    const found = judge([...all.slice(0, 15), blank, ...all.slice(16)], { playsForever: false })
    expect(found.seam.verdict).toBe('blank-frame')
    expect(found.findings.map(({ kind }) => kind).slice(0, 3)).toEqual(['blank-frame', 'jumps', 'repeats-a-frame'])
    expect(found.sound).toBe(false)
  })
  it('names two frames in a row that do not belong, and not three: those are a part of the loop', () => {
    const negative = (picture: Picture): Picture => ({
      ...picture,
      data: picture.data.map((v, i) => (i % 4 === 3 ? v : 255 - v)),
    })
    const foreign = (count: number) =>
      shown('turning', steady(24)).map((picture, n) => (n >= 9 && n < 9 + count ? negative(picture) : picture))
    const stray = (count: number) =>
      judge(foreign(count)).findings.flatMap(({ kind, frame }) => (kind === 'stray-frame' ? [frame] : []))
    expect([stray(1), stray(2), stray(3)]).toEqual([[9], [9, 10], []])
  })
  it('hints at a shorter loop inside, with its length', () => {
    const twice = [...shown('sliding', steady(12)), ...shown('sliding', steady(12))]
    const { findings, sound } = judge(twice)
    expect(findings).toEqual([expect.objectContaining({ kind: 'shorter-loop', length: 12, frame: 12, hint: true })])
    expect(sound).toBe(true)
    expect(kinds(shown('sliding', steady(24)))).toEqual([])
  })
  it('hints at there and back', () => {
    expect(kinds(shown('bobbing', steady(24)))).toEqual(['there-and-back'])
    expect(kinds(shown('turning', steady(24)))).not.toContain('there-and-back')
  })
  it('hints at a kink where the direction changes at the seam alone', () => {
    // Half a turn there, with its way back: it turns at the seam and half-way, which is no kink of the seam.
    const swing = steady(24).map((t) => 0.25 * (1 - Math.abs(2 * t - 1)))
    expect(kinds(shown('turning', swing))).not.toContain('kink')
  })
  it('hints at strobing where the picture moves by nearly half of its pitch', () => {
    // Spokes of one wheel, eight of them alike, each frame 22° on: two frames later they are nearly where they were.
    const wheel = steady(24).map((_, n) => {
      const context = createCanvas(48, 48).getContext('2d')
      context.fillStyle = '#0b2230'
      context.fillRect(0, 0, 48, 48)
      context.translate(24, 24)
      context.rotate((n * 22 * Math.PI) / 180)
      context.fillStyle = '#f2b54a'
      for (let i = 0; i < 8; i++) {
        context.rotate(Math.PI / 4)
        context.fillRect(6, -2.5, 16, 5)
      }
      const { data } = context.getImageData(0, 0, 48, 48)
      return { width: 48, height: 48, data: new Uint8ClampedArray(data) }
    })
    expect(kinds(wheel)).toContain('strobes')
    expect(kinds(shown('turning', steady(24)))).not.toContain('strobes')
  })
  it('is still, and has nothing to mend, where nothing moves', () => {
    const still = new Array<Picture>(8).fill(shown('turning', [0])[0])
    expect(judge(still)).toMatchObject({ sound: true, findings: [], seam: { verdict: 'still' } })
    expect(judge(still.slice(0, 1), { playsForever: false }).findings).toEqual([])
  })
})

describe('delays', () => {
  const pictures = shown('turning', steady(24))
  it('that round an even pace to what a GIF can say are no fault, at any rate', () => {
    fc.assert(
      fc.property(fc.constantFrom(...COMMON_RATES), (rate) => {
        const delaysMs = gifTiming(24, rate).delaysCs.map((cs) => 10 * cs)
        const frames = pictures.slice(0, delaysMs.length)
        expect(kinds(frames, { delaysMs }).filter((kind) => /delay/.test(kind))).toEqual([])
      }),
    )
  })
  it('that take turns, or pause once on purpose, are none either', () => {
    const alternating = pictures.map((_, n) => (n % 2 === 0 ? 40 : 80))
    expect(kinds(pictures, { delaysMs: alternating })).toEqual([])
    expect(kinds(pictures, { delaysMs: pictures.map((_, n) => (n === 23 ? 800 : 40)) })).toEqual([])
  })
  it('that viewers replace are named, at the first of them', () => {
    const { findings } = judge(pictures, { delaysMs: pictures.map((_, n) => (n > 4 ? 10 : 40)) })
    expect(findings.find(({ kind }) => kind === 'delay-too-short')).toMatchObject({ frame: 5 })
  })
})

describe('holds', () => {
  it('have their lengths round the ring', () => {
    expect(holdsOf([false, true, false, true])).toEqual([
      { start: 1, length: 2 },
      { start: 3, length: 2 },
    ])
    expect(holdsOf([true, false, false, true])).toEqual([
      { start: 2, length: 1 },
      { start: 3, length: 3 },
    ])
    expect(holdsOf([true, true, true])).toEqual([])
    expect(holdsOf([true, false, true])).toEqual([{ start: 2, length: 3 }])
  })
  it('are told from the noise of a lossy encoder, and from slow motion', () => {
    const noisy = (pictures: readonly Picture[]) =>
      pictures.map(({ width, height, data }, n) => ({
        width,
        height,
        data: data.map((v, i) => (i % 4 === 3 ? v : v + (((i * 31 + n * 17) % 5) - 2))),
      }))
    const held = heldSteps(seriesOf(noisy(shown('on twos', steady(24))).map((picture) => descriptorOf(picture))))
    expect(held).toEqual(Array.from({ length: 24 }, (_, n) => n % 2 === 0))
    expect(heldSteps(seriesOf(shown('bobbing', steady(24)).map((picture) => descriptorOf(picture))))).not.toContain(
      true,
    )
  })
})

describe('a picture made smaller', () => {
  it('keeps its shape and its mean, and clear pixels have no colour', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.integer({ min: 1, max: 300 }), fc.nat(255), (w, h, v) => {
        const data = new Uint8ClampedArray(w * h * 4).map((_, i) => (i % 4 === 3 ? 255 : v))
        const small = reducePicture({ width: w, height: h, data }, 40)
        expect(Math.max(small.width, small.height)).toBeLessThanOrEqual(Math.max(40, 1))
        expect(small.data).toHaveLength(small.width * small.height * 4)
        expect(small.data.every((each, i) => each === (i % 4 === 3 ? 255 : v))).toBe(true)
      }),
      { numRuns: 60 },
    )
    const half: Picture = {
      width: 2,
      height: 1,
      data: new Uint8ClampedArray([200, 100, 50, 255, 0, 0, 0, 0]),
    }
    expect([...reducePicture(half, 1).data]).toEqual([200, 100, 50, 128])
  })
  it('is described at a size under the ceiling, however many there are', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20_000 }), (count) => {
        const side = judgedSide(count)
        expect(side).toBeGreaterThanOrEqual(24)
        expect(side).toBeLessThanOrEqual(128)
        if (side > 24) expect(count * side * side * 3 * 1.34 * 4).toBeLessThanOrEqual(128 * 2 ** 20 + 1)
      }),
    )
  })
})
