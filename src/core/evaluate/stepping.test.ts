import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import type { Loop } from '../document'
import { newLayer } from '../edit'
import { evenly } from '../motion'
import { quay } from '../testing/quay'
import { evaluate } from '.'

describe('the stepping case', () => {
  const drum = (corners: number, cycles: number): Loop => ({
    ...quay,
    length: 180,
    layers: [
      {
        ...newLayer('polygon', 'Drum', { radius: 4, corners }, 'drum'),
        motions: {
          rotation: {
            ...evenly(40),
            keys: [
              { at: 0, value: 0, ease: 'hold' },
              { at: 1, value: 40, ease: 'hold' },
            ],
            period: { cycles },
          },
        },
      },
      newLayer('line', 'Mark', {}, 'mark'),
    ],
  })
  /** A drum without symmetry, so that a turn must be whole. */
  const plain = (cycles: number) => {
    const loop = drum(3, cycles)
    return { ...loop, layers: loop.layers.map((layer) => ({ ...layer, values: { ...layer.values, pivotX: 1 } })) }
  }
  const home = (loop: Loop) => checkMotions(loop).every((report) => report.home)
  it('makes nine equal steps per turn, home after exactly nine cycles and not one before', () => {
    for (let cycles = 1; cycles <= 9; cycles++) expect(home(plain(cycles))).toBe(cycles === 9)
    const angles = Array.from({ length: 180 }, (_, n) => evaluate(plain(9), n).nodes[0]?.transform as readonly number[])
    const turns = angles.map(([a = 0, b = 0]) => Math.round(((Math.atan2(b, a) * 180) / Math.PI + 360) % 360))
    expect([...new Set(turns)]).toEqual([0, 40, 80, 120, 160, 200, 240, 280, 320])
    for (const turn of new Set(turns)) expect(turns.filter((each) => each === turn)).toHaveLength(20)
  })
  it('is home after three on a drum of three like sides', () => {
    for (let cycles = 1; cycles <= 3; cycles++) expect(home(drum(3, cycles))).toBe(cycles === 3)
  })
})
