import { describe, expect, it } from 'vitest'
import type { Layer, Loop } from '../document'
import { newLayer } from '../edit'
import { evaluate } from '../evaluate'
import type { Motion } from '../motion'
import { evenly } from '../motion'
import { quay } from '../testing/quay'
import { checkMotions, motionRemedies, withRemedy } from '.'

const turning = (name: string, motion: Partial<Motion>, values = {}): Layer => ({
  ...newLayer('polygon', name, { x: 5, y: 5, radius: 4, corners: 3, ...values }, name),
  motions: { rotation: { ...evenly(360), ...motion } },
})

describe('a longer loop', () => {
  it('is offered where a motion comes home only there, and everything else keeps its pace', () => {
    // +6° in every cycle of 10 frames: with three corners it is home after twenty of them.
    const creeping = turning('pointer', {
      keys: [0, 1].map((at) => ({ at, value: 6 * at, ease: 'linear' })),
      period: { cycles: 1 },
    })
    const loop: Loop = { ...quay, length: 10, layers: [creeping, turning('drum', {})] }
    const remedy = motionRemedies(loop, 'pointer', 'rotation').find(({ kind }) => kind === 'longer')
    expect(remedy).toMatchObject({ times: 20 })
    expect(remedy?.label).toContain('200 f long: 20 cycles')
    const longer = withRemedy(loop, 'pointer', 'rotation', remedy as NonNullable<typeof remedy>)
    expect(longer.length).toBe(200)
    expect(checkMotions(longer).map(({ home, goesOn }) => home && goesOn)).toEqual([true, true])
    for (const n of [3, 17, 144])
      expect(evaluate(longer, n).nodes[1]?.transform[1]).toBeCloseTo(evaluate(loop, n % 10).nodes[1]?.transform[1] ?? 9)
  })
  it('lets a free period end with the loop, and is not offered where none is in reach', () => {
    const free = (frames: number): Loop => ({
      ...quay,
      length: 10,
      layers: [
        turning('bell', {
          keys: [0, 0.5].map((at) => ({ at, value: 40 * at, ease: 'ease-in-out' })),
          after: 'repeat',
          period: { frames },
        }),
      ],
    })
    const longer = (frames: number) =>
      motionRemedies(free(frames), 'bell', 'rotation').find(({ kind }) => kind === 'longer')
    expect(longer(7)).toMatchObject({ times: 7, motion: { period: { cycles: 10 } } })
    expect(longer(Math.PI)).toBeUndefined()
  })
})
