import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { type BusyPair, busyPairs, tremblings } from '../../../bench/corpus/busy'
import { casesOf } from '../../../bench/corpus/faults'
import { SCENES } from '../../../bench/corpus/scenes'
import { renderInNode } from '../../render/node'
import { newLayer } from '../edit'
import { evaluate } from '../evaluate'
import { type Picture, reducePicture } from '../image'
import { quay } from '../testing/quay'
import { describeFrame, type JudgedFrame, judgeClip, judgedSide } from '.'

const timing = (frames: readonly unknown[]) => ({ delaysMs: frames.map(() => 40), playsForever: true })
const judge = (frames: readonly JudgedFrame[]) => judgeClip(frames, timing(frames))
const described = (pictures: readonly Picture[]): JudgedFrame[] =>
  pictures.map((picture) => describeFrame(picture, judgedSide(pictures.length)))
const turnedBy = <T>(frames: readonly T[], k: number): T[] => [...frames.slice(k), ...frames.slice(0, k)]

describe('something small that leaps in a picture that lives', () => {
  /** One of each ground and mover, of the middle size; all of them are in bench/corpus/busy-run.ts. */
  const wanted = (pair: BusyPair) => pair.size > 0.055 && pair.size < 0.12 && pair.mover !== 'is one of six movers'
  let pairs: BusyPair[] = []
  beforeAll(() => {
    pairs = [...busyPairs(['plain', 'ripples', 'grain'])].filter(wanted)
  })

  it('is found at its frame and its place, and what is sound is not accused', () => {
    expect(pairs.length).toBe(12)
    let found = 0
    for (const { sound, leaping, mover } of pairs) {
      const { seam } = judge(described(leaping))
      if (seam.verdict === 'jumps' && seam.frame === leaping.length - 1) found++
      expect(judge(described(sound)).findings.filter(({ hint }) => !hint)).toEqual([])
      if (mover !== 'crosses and snaps back' || !seam.leap) continue
      const [from, to] = seam.leap.places
      expect(seam.leap.change).toBe('moves')
      expect([from, to].map((place) => (place ? place.x + place.width / 2 : 0).toFixed(1))).toEqual(['0.8', '0.2'])
    }
    // A size that is reset by less than the reach of the search on waves as high is not seen.
    expect(found).toBeGreaterThanOrEqual(11)
  })
  it('is found wherever the file begins', () => {
    for (const { leaping } of pairs.filter(({ ground }) => ground === 'ripples').slice(0, 2)) {
      const frames = described(leaping)
      for (const k of [1, 9, 20]) {
        const { seam, findings } = judge(turnedBy(frames, k))
        expect(seam).toMatchObject({ verdict: 'jumps', frame: frames.length - 1 - k })
        expect(findings[0]).toMatchObject({ kind: 'jumps-inside', leap: { frame: frames.length - 1 - k } })
      }
    }
  })
})

describe('what trembles', () => {
  it('is not taken for a leap by itself, however far it goes in a frame', () => {
    const counts = new Map<string, number>()
    for (const name of ['x', 'rotation', 'opacity', 'scaleX'] as const)
      for (const detail of [1, 3, 4])
        for (let seed = 0; seed < 3; seed++)
          for (const length of [24, 40]) {
            const amount = { x: 12, rotation: 20, opacity: 0.3, scaleX: 0.3 }[name]
            const values = {
              x: 48,
              y: 48,
              width: 40,
              height: 24,
              fill: '#f2b54a',
              opacity: name === 'opacity' ? 0.6 : 1,
            }
            const trembles = { [name]: { amount, detail, cycles: 1, seed, phase: 0 } }
            const sail = { ...newLayer('rectangle', 'Sail', values), trembles }
            const loop = { ...quay, width: 96, height: 96, background: '#0b2230', length, layers: [sail] }
            const pictures = Array.from({ length }, (_, n) => renderInNode(evaluate(loop, n), 96, 96))
            const { verdict } = judge(described(pictures)).seam
            counts.set(verdict, (counts.get(verdict) ?? 0) + 1)
          }
    expect(counts.get('jumps') ?? 0).toBe(0)
    // A fade so slow that most of its frames are alike in 8 bits may be said to show one twice.
    expect(counts.get('closes')).toBeGreaterThanOrEqual(69)
    expect([...counts.values()].reduce((a, b) => a + b)).toBe(72)
  })
  it('is not taken for one on waves', () => {
    const scenes = [...tremblings(['ripples'])].filter(({ detail }) => detail <= 6)
    expect(scenes.length).toBe(18)
    for (const { what, detail, pictures } of scenes)
      expect(judge(described(pictures)).seam.verdict, `${what}, ${detail}`).toBe('closes')
  })
})

describe('a verdict', () => {
  it('does not depend on where frame 0 lies: sound and faulty clips of every scene', () => {
    const shape = { size: 48, frames: 24, delayMs: 40 }
    let tried = 0
    let drifting = 0
    for (const scene of SCENES)
      for (const { pictures, fault } of casesOf(scene, shape)) {
        if (/plays|delay/.test(fault)) continue
        const frames = described(pictures)
        const N = frames.length
        const k = 1 + (tried % (N - 1))
        const judged = [judge(frames), judge(turnedBy(frames, k))] as const
        const { verdict, frame } = judged[0].seam
        const turned = judged[1].seam
        expect(turned.verdict, `${scene.name}, ${fault}, begun at ${k}`).toBe(verdict)
        // Of frames that show one picture any may be named.
        const is = frame === null ? null : (frame - k + N) % N
        const apart = is === null || turned.frame === null ? 0 : Math.abs(is - turned.frame)
        if (verdict === 'jumps' || verdict === 'blank-frame') expect(apart, `${scene.name}, ${fault}`).toBe(0)
        const drifts = judged.map(({ findings }) => findings.find(({ kind }) => kind === 'drift'))
        if (drifts[0])
          expect(((drifts[0].frame as number) - k + N) % N, `${scene.name}, ${fault}`).toBe(drifts[1]?.frame)
        else expect(drifts[1], `${scene.name}, ${fault}`).toBeUndefined()
        drifting += drifts[0] ? 1 : 0
        tried++
      }
    expect(tried).toBeGreaterThan(150)
    expect(drifting).toBeGreaterThanOrEqual(5)
  })
})

describe('too few frames', () => {
  /** A disc on a part of a circle, `turn` of it in `count` frames; below a whole turn it leaps back at the seam. */
  const circling = (count: number, turn: number, size = 160): Picture[] =>
    Array.from({ length: count }, (_, n) => {
      const angle = (2 * Math.PI * turn * n) / count
      const x = size / 2 + 0.35 * size * Math.cos(angle)
      const y = size / 2 + 0.35 * size * Math.sin(angle)
      const data = new Uint8ClampedArray(4 * size * size)
      for (let i = 0; i < data.length; i += 4) {
        const lit = Math.hypot(((i / 4) % size) - x, Math.floor(i / 4 / size) - y) < 0.08 * size
        data.set(lit ? [242, 181, 74, 255] : [11, 34, 48, 255], i)
      }
      return { width: size, height: size, data }
    })
  it('of a fast mover that leaps are never called closed, at any size', () => {
    for (const size of [48, 96, 160, 320])
      for (const count of [6, 8, 10]) {
        const { verdict } = judge(described(circling(count, 0.75, size))).seam
        expect(['jumps', 'too-few-frames'], `${count} frames of ${size} px`).toContain(verdict)
      }
  })
  it('of a wheel that turns evenly are enough', () => {
    expect(judge(described(circling(8, 1))).seam.verdict).not.toBe('jumps')
  })
})

describe('what is small in large frames', () => {
  const lights = (leap: boolean): JudgedFrame[] =>
    Array.from({ length: 24 }, (_, n) => {
      const width = 1920
      const height = 1080
      const data = new Uint8ClampedArray(4 * width * height).fill(255)
      const words = new Uint32Array(data.buffer).fill(0xff302210)
      for (let light = 0; light < 24; light++) {
        const x = 30 + 78 * light
        const way = leap ? 0.6 * n : n
        const y = Math.floor((45 * way + 97 * light) % height)
        for (let dy = 0; dy < 2; dy++)
          for (let dx = 0; dx < 2; dx++) words[((y + dy) % height) * width + x + dx] = 0xff708090
      }
      return describeFrame({ width, height, data }, judgedSide(24))
    })
  it('is no stillness, whether it closes or jumps', () => {
    expect(judge(lights(false)).seam.verdict).not.toBe('still')
    expect(judge(lights(true)).seam.verdict).not.toBe('still')
  })
  it('is not seen where nothing moves', () => {
    const [first] = lights(false)
    expect(judge(new Array<JudgedFrame>(8).fill(first as JudgedFrame)).seam.verdict).toBe('still')
  })
})

describe('a frame that is described', () => {
  it('is the same wherever in memory its bytes begin', () => {
    const bytes = Uint8ClampedArray.from({ length: 4 * 40 * 30 }, (_, i) => (i % 4 === 3 ? 255 : (i >> 4) % 251))
    const shifted = new Uint8ClampedArray(bytes.length + 1)
    shifted.set(bytes, 1)
    const size = { width: 40, height: 30 }
    expect(describeFrame({ ...size, data: shifted.subarray(1) }).overWhite).toEqual(
      describeFrame({ ...size, data: bytes }).overWhite,
    )
  })
  it('is the same whether it is reduced before or then', () => {
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 300 }), fc.nat(255), (side, value) => {
        const data = new Uint8ClampedArray(4 * side * 40).map((_, i) => (i % 4 === 3 ? 255 : (i * value) % 251))
        const picture = { width: side, height: 40, data }
        expect(describeFrame(picture, 64).overWhite).toEqual(describeFrame(reducePicture(picture, 64)).overWhite)
      }),
      { numRuns: 30 },
    )
  })
})
