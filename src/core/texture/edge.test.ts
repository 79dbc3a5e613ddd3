import { describe, expect, it } from 'vitest'
import type { Picture } from '../image'
import { hasEdge, TILE_FAULTS, TILE_KINDS, tileCase } from '../testing/tiles'
import { HEALS, healed, judgeTile, usualBand } from '.'

const SEEDS = [1, 2, 3, 4, 5]

describe('the edge of a tile', () => {
  it('is told on a labelled corpus: eleven kinds of picture, sound, cut across, down and both, and slightly brighter to the right', () => {
    const matrix = { edgeFound: 0, edgeMissed: 0, soundSaid: 0, soundAccused: 0 }
    const wrong: string[] = []
    for (const kind of TILE_KINDS)
      for (const fault of TILE_FAULTS)
        for (const seed of SEEDS) {
          const report = judgeTile(tileCase(kind, fault, seed))
          for (const axis of ['x', 'y'] as const) {
            const edge = hasEdge(kind, fault, axis)
            const found = report[axis].verdict === 'shows-an-edge'
            if (edge && found) matrix.edgeFound++
            else if (edge) matrix.edgeMissed++
            else if (found) matrix.soundAccused++
            else matrix.soundSaid++
            if (edge !== found) wrong.push(`${kind} ${fault} ${axis} ${seed}: ${report[axis].ratio.toFixed(2)}`)
          }
        }
    const { edgeFound, edgeMissed, soundSaid, soundAccused } = matrix
    expect(soundAccused / (soundAccused + soundSaid), wrong.join(', ')).toBeLessThan(0.02)
    expect(edgeMissed / (edgeFound + edgeMissed), wrong.join(', ')).toBeLessThan(0.1)
  })
  it('is not told of a picture that is too small for it', () => {
    const speck: Picture = { width: 1, height: 40, data: new Uint8ClampedArray(160) }
    expect(() => judgeTile(speck)).toThrow('too small to tell an edge in')
  })
  it('is none where a picture is of one colour, clear or not', () => {
    for (const value of [0, 255]) {
      const flat: Picture = { width: 20, height: 20, data: new Uint8ClampedArray(1600).fill(value) }
      expect([judgeTile(flat).x.verdict, judgeTile(flat).y.verdict]).toEqual(['closes', 'closes'])
    }
  })
})

describe('a tile that is healed', () => {
  it.each(HEALS)('by %s shows less of an edge, and mostly none, and none that it had not', (by) => {
    let closes = 0
    let all = 0
    for (const kind of ['clouds', 'ridges', 'cells', 'ripples', 'photograph'])
      for (const seed of SEEDS.slice(0, 3)) {
        const broken = tileCase(kind, 'x', seed)
        const before = judgeTile(broken)
        const mended = healed(broken, 'x', by, usualBand(broken.width))
        const after = judgeTile(mended)
        expect(after.x.ratio, `${kind} ${seed}`).toBeLessThan(before.x.ratio)
        expect(after.y.verdict, `${kind} ${seed}`).toBe('closes')
        all++
        if (after.x.verdict === 'closes') closes++
        if (by === 'fill') expect([mended.width, mended.height]).toEqual([broken.width, broken.height])
        else expect(mended.width).toBe(broken.width - usualBand(broken.width))
      }
    expect(closes / all).toBeGreaterThanOrEqual(by === 'fill' ? 0.6 : 0.85)
  })
  it('is mended down as it is across', () => {
    const broken = tileCase('clouds', 'y', 2)
    const after = judgeTile(healed(broken, 'y', 'blend', usualBand(broken.height)))
    expect([after.x.verdict, after.y.verdict]).toEqual(['closes', 'closes'])
  })
  it('refuses a band that does not fit', () => {
    const tile = tileCase('clouds', 'x', 1)
    for (const band of [0, 1, tile.width]) expect(() => healed(tile, 'x', 'cut', band)).toThrow('does not fit')
  })
})
