import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '@/core/closing'
import type { Loop } from '@/core/document'
import { anyLoop } from '@/core/testing/arbitrary'
import { busyLoop } from '../../../../bench/drawing'
import { DIAL } from './dial-geometry'
import { dialRings, MAX_RINGS } from './lanes'

const ringsOf = (loop: Loop, selection: readonly string[] = []) => dialRings(loop, checkMotions(loop), selection)
const motionsIn = (loop: Loop) => loop.layers.reduce((sum, { motions }) => sum + Object.keys(motions).length, 0)

describe('the rings of the dial', () => {
  it('are one for each motion where they can be told apart', () => {
    const { lanes, bands } = ringsOf(busyLoop(12))
    expect(lanes).toHaveLength(motionsIn(busyLoop(12)))
    expect(bands).toEqual([])
  })
  it('are one for each period where they are many, and those of what is selected beside them', () => {
    const loop = busyLoop(300)
    const all = ringsOf(loop)
    expect(all.lanes).toEqual([])
    expect(all.bands.map(({ label }) => label.replace(/^\d+ motions, /, ''))).toEqual([
      '1 cycle: all come home',
      '2 cycles: all come home',
      '3 cycles: all come home',
    ])
    expect(all.bands.reduce((sum, { count }) => sum + count, 0)).toBe(motionsIn(loop))
    const one = ringsOf(loop, ['l2'])
    expect(one.lanes.map(({ name }) => name)).toEqual(['rotation', 'opacity'])
    expect(one.bands.reduce((sum, { count }) => sum + count, 0)).toBe(motionsIn(loop) - 2)
  })
  it('hold every motion and every layer that rests once, side by side, inside the dial, whatever is selected', () => {
    fc.assert(
      fc.property(anyLoop, fc.nat(400), fc.nat(60), (own, copies, chosen) => {
        const layers = Array.from({ length: copies }, (_, i) =>
          own.layers.map((each) => ({ ...each, id: `${each.id} ${i}` })),
        ).flat()
        const loop = { ...own, layers: layers.filter(({ layers: held }) => held === undefined) }
        const selection = loop.layers.slice(0, chosen).map(({ id }) => id)
        const { lanes, bands } = dialRings(loop, [], selection)
        const rows = loop.layers.reduce((sum, { motions }) => sum + Math.max(1, Object.keys(motions).length), 0)
        expect(lanes.length + bands.reduce((sum, { count }) => sum + count, 0)).toBe(rows)
        expect(lanes.length + bands.length).toBeLessThanOrEqual(MAX_RINGS)
        const rings = [...lanes, ...bands]
        for (const [i, { inner, outer }] of rings.entries()) {
          expect(outer).toBeGreaterThan(inner)
          expect(outer).toBeLessThanOrEqual((rings[i - 1]?.inner ?? DIAL.outer) + 1e-9)
          expect(inner).toBeGreaterThanOrEqual(DIAL.inner - 1e-9)
        }
      }),
      { numRuns: 60 },
    )
  })
  it('say where one of many does not come home', () => {
    const loop = busyLoop(60)
    const broken = {
      ...loop,
      layers: loop.layers.map((layer, i) =>
        i === 1 && layer.motions.y
          ? { ...layer, motions: { y: { ...layer.motions.y, after: 'accumulate' as const } } }
          : layer,
      ),
    }
    expect(ringsOf(loop).bands.every(({ home }) => home)).toBe(true)
    expect(
      ringsOf(broken)
        .bands.filter(({ home }) => !home)
        .map(({ label }) => label),
    ).toEqual([expect.stringContaining('not all come home')])
  })
})
