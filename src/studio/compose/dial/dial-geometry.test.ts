import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layerKind } from '@/core/layers'
import { cyclePosition, type Motion } from '@/core/motion'
import { anyMotion } from '@/core/testing/arbitrary'
import { beadPlace, beadsOf, cycleStarts, frameAngle, frameAtPoint, onDial } from './dial-geometry'

const rotation = layerKind('ellipse').properties.rotation
if (!rotation) throw new Error('an ellipse turns')
const anyLength = fc.integer({ min: 2, max: 240 })

describe('the dial', () => {
  it('has the seam at the top and runs clockwise', () => {
    expect(onDial(10, frameAngle(0, 48)).y).toBeCloseTo(-10)
    expect(onDial(10, frameAngle(12, 48)).x).toBeCloseTo(10)
  })
  it('finds the frame under a point', () => {
    fc.assert(
      fc.property(
        anyLength,
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        fc.double({ min: 1, max: 100, noNaN: true }),
        (length, share, radius) => {
          expect(frameAtPoint(onDial(radius, frameAngle(share * length, length)), length)).toBeCloseTo(
            share * length,
            6,
          )
        },
      ),
    )
  })
  it('puts every bead where its key is', () => {
    fc.assert(
      fc.property(anyMotion(rotation), anyLength, (motion, length) => {
        for (const bead of beadsOf(motion, length)) {
          const at = motion.keys[bead.index]?.at ?? -1
          const { q } = cyclePosition(motion, bead.frame, length)
          expect(q - bead.cycle).toBeCloseTo(at, 5)
          expect(beadPlace(motion, bead, bead.frame, length)).toBeCloseTo(at, 5)
        }
      }),
    )
  })
  it('parts tied cycles into equal segments', () => {
    const motion: Motion = {
      keys: [{ at: 0, value: 0, ease: 'linear' }],
      after: 'repeat',
      period: { cycles: 3 },
      phase: 0,
    }
    expect(cycleStarts(motion, 48)).toEqual([0, 16, 32])
    expect(cycleStarts({ ...motion, phase: 0.25 }, 48)).toEqual([12, 28, 44])
  })
})
