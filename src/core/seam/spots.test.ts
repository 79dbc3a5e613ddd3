import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { TEST_CLIP, TEST_PICTURE } from '../../cli/test-media'
import { NodeRenderer, picturesInNode } from '../../render/node'
import { checkMotions, repeatLoop, shorterLoops } from '../closing'
import { drawingsOf, type Layer, type Loop } from '../document'
import { newLayer } from '../edit'
import { evenly } from '../motion'
import { quay } from '../testing/quay'
import { seenLoop } from '../testing/seen'
import { isSeenToComeHome, spotDifference } from '.'

async function comesHome(loop: Loop): Promise<boolean> {
  const renderer = new NodeRenderer(loop.width, loop.height)
  const pictures = await picturesInNode(loop)
  return isSeenToComeHome(loop, async (frame, look) => renderer.picture(loop, frame, pictures, look))
}

/** A wheel of four spokes, each an eighth of the frame wide, that turns by a part of a turn. */
const wheel = (degrees: number, ...fills: string[]): Loop => {
  const spokes = fills.map(
    (fill, i): Layer => ({
      ...newLayer('rectangle', `Spoke ${i}`, {
        x: 0,
        y: -40,
        pivotY: 40,
        width: 20,
        height: 60,
        rotation: 90 * i,
        fill,
      }),
      id: `spoke-${i}`,
    }),
  )
  const hub: Layer = { ...newLayer('group', 'Wheel', { x: 80, y: 80 }), motions: { rotation: evenly(degrees) } }
  return { ...quay, width: 160, height: 160, length: 24, layers: [{ ...hub, layers: spokes }] }
}
const AMBER = '#f2b54a'

describe('what is offered as a shorter loop', () => {
  it('is seen to be home at its end, of whatever it is made', async () => {
    let documents = 0
    let offered = 0
    const drawn = seenLoop({ clip: TEST_CLIP, picture: TEST_PICTURE }).filter((loop) => drawingsOf(loop) <= 2000)
    await fc.assert(
      fc.asyncProperty(drawn, fc.integer({ min: 2, max: 4 }), async (loop, times) => {
        fc.pre(checkMotions(loop).some(({ visible, inside }) => visible && inside === null))
        const shorter = shorterLoops(repeatLoop(loop, times)).slice(0, 2)
        if (shorter.length > 0) documents++
        for (const { loop: each } of shorter) {
          offered++
          expect(await comesHome(each)).toBe(true)
        }
      }),
      { numRuns: 120 },
    )
    expect(documents).toBeGreaterThanOrEqual(20)
    expect(offered).toBeGreaterThanOrEqual(25)
  })
  it('is refused where one of four like parts is of another colour, or it is out by a few degrees', async () => {
    expect(await comesHome(wheel(90, AMBER, AMBER, AMBER, AMBER))).toBe(true)
    expect(await comesHome(wheel(360, AMBER, AMBER, AMBER, '#e86f5a'))).toBe(true)
    expect(await comesHome(wheel(90, AMBER, AMBER, AMBER, '#e86f5a'))).toBe(false)
    expect(await comesHome(wheel(85, AMBER, AMBER, AMBER, AMBER))).toBe(false)
  })
})

describe('the difference of spots', () => {
  it('is small for an edge that is smoothed otherwise, and large for what is elsewhere or is not there', () => {
    const side = 40
    const bar = (from: number, share: number, alpha = 255) => {
      const data = new Uint8ClampedArray(4 * side * side)
      for (let i = 0; i < side * side; i++) {
        const x = i % side
        const cover = x < from ? 0 : x === from ? share : 1
        data.set([255 * cover, 255 * cover, 255 * cover, alpha], 4 * i)
      }
      return { width: side, height: side, data }
    }
    expect(spotDifference(bar(20, 0.5), bar(20, 0.9))).toBeLessThan(24)
    expect(spotDifference(bar(20, 0.5), bar(25, 0.5))).toBeGreaterThan(100)
    expect(spotDifference(bar(20, 0.5), bar(20, 0.5, 0))).toBeGreaterThan(100)
  })
})
