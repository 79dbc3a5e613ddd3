import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { checkMotions, withMeant } from '../closing'
import { formatLoop, type Layer, type Loop, parseLoop } from '../document'
import { newLayer, newLoop } from '../edit'
import { evaluate } from '../evaluate'
import type { Picture } from '../image'
import type { Motion } from '../motion'
import { median } from '../statistics'
import { judgeLoop, judgeSeam } from '.'

const N = 36
const lamp = newLoop({
  name: 'Lamp',
  kind: 'loader',
  width: 96,
  height: 96,
  background: '#0b2230',
  rate: { num: 24, den: 1 },
  length: N,
})
const motion = (
  values: [number, number][],
  after: Motion['after'],
  ease = 'linear',
  more: Partial<Motion> = {},
): Motion => ({
  keys: values.map(([at, value]) => ({ at, value, ease })),
  after,
  period: { cycles: 1 },
  phase: 0,
  ...more,
})
const withMotions = (kind: string, values: object, motions: Record<string, Motion>): Layer => ({
  ...newLayer(kind, `Moving ${kind}`, { x: 48, y: 48, ...values }),
  motions,
})
const turn = (degrees: number, ease = 'linear', more: Partial<Motion> = {}) =>
  motion(
    [
      [0, 0],
      [1, degrees],
    ],
    'accumulate',
    ease,
    more,
  )
const beam = (rotation: Motion): Loop => ({
  ...lamp,
  layers: [withMotions('rectangle', { y: 28, width: 12, height: 44, pivotY: 20, fill: '#f2b54a' }, { rotation })],
})
const frames = (loop: Loop): Picture[] =>
  Array.from({ length: loop.length }, (_, n) => renderInNode(evaluate(loop, n), 64, 64))

const loops: Record<string, Loop> = {
  'a turning beam': beam(turn(360)),
  'a bobbing dot': {
    ...lamp,
    layers: [
      withMotions(
        'ellipse',
        { width: 20, height: 20 },
        {
          y: motion(
            [
              [0, 20],
              [0.5, 70],
            ],
            'repeat',
            'ease-in-out',
          ),
        },
      ),
    ],
  },
  'a growing arc': {
    ...lamp,
    layers: [
      withMotions(
        'ellipse',
        { width: 60, height: 60, fill: null, stroke: '#f2b54a', cap: 'round' },
        {
          spanStart: motion(
            [
              [0, 0],
              [1, 1],
            ],
            'accumulate',
            'cubic-bezier(0.6, 0, 0.6, 1)',
          ),
          spanEnd: motion(
            [
              [0, 0.08],
              [1, 1.08],
            ],
            'accumulate',
            'cubic-bezier(0.2, 0.4, 0.4, 1)',
          ),
          rotation: turn(360),
        },
      ),
    ],
  },
  'a fast dot that never overlaps itself': {
    ...lamp,
    layers: [
      withMotions(
        'ellipse',
        { width: 6, height: 6, pivotY: 40, y: 8 },
        { rotation: turn(360, 'linear', { period: { cycles: 3 } }) },
      ),
    ],
  },
  'a stepped drum': beam(turn(360, 'steps(9)')),
  'a transparent spinner': { ...beam(turn(360)), background: null },
}

describe('the seam of pictures', () => {
  it.each(Object.entries(loops))('%s closes', (_, loop) => {
    expect(judgeSeam(frames(loop)).verdict).toBe('closes')
  })

  const moving = Object.entries(loops).filter(([name]) => name !== 'a stepped drum')
  it.each(moving)('%s repeats a frame when its last frame is its first again', (_, loop) => {
    const shown = frames(loop)
    const report = judgeSeam([...shown, shown[0]])
    expect(report.verdict === 'repeats-a-frame' || _ === 'a bobbing dot').toBe(true)
    if (report.verdict === 'repeats-a-frame') expect(report.frame).toBe(N)
  })
  it.each(moving)('%s jumps when a sixth of it is missing', (name, loop) => {
    const cut = frames(loop).slice(0, (5 * N) / 6)
    const expected =
      name === 'a fast dot that never overlaps itself' || name === 'a bobbing dot' ? /jumps|closes/ : /jumps/
    expect(judgeSeam(cut).verdict).toMatch(expected)
  })
  it.each(Object.entries(loops))('%s blinks when its last frame is empty', (_, loop) => {
    const shown = frames(loop)
    const blank = renderInNode({ ...evaluate(loop, 0), nodes: [] }, 64, 64)
    const report = judgeSeam([...shown.slice(0, -1), blank])
    expect(report).toMatchObject({ verdict: 'blank-frame', frame: N - 1 })
  })
  it('hesitates where a turn eases once per turn', () => {
    expect(judgeSeam(frames(beam(turn(360, 'ease-in-out')))).verdict).toBe('hesitates')
  })
  it('closes where it is said that its rest is meant, says so, and hesitates again when that is taken back', () => {
    const loop = beam(turn(360, 'ease-in-out'))
    const judged = (of: Loop) => judgeLoop(of, checkMotions(of), judgeSeam(frames(of)))
    const [layer] = loop.layers as [Layer]
    expect(judged(loop).verdict).toBe('hesitates')
    const meant = withMeant(loop, layer.id, 'rotation', 'rest', true)
    expect(judged(meant)).toMatchObject({ verdict: 'closes', fault: null })
    expect(judged(meant).sentence).toContain('Its rest is meant.')
    expect(parseLoop(formatLoop(meant))).toEqual(meant)
    expect(judged(withMeant(meant, layer.id, 'rotation', 'rest', false))).toEqual(judged(loop))
    // A jump is not excused by it.
    const cut = withMeant(beam(turn(300)), layer.id, 'rotation', 'rest', true)
    expect(judged({ ...cut, layers: cut.layers }).verdict).toBe('jumps')
  })
  it('is still where nothing moves', () => {
    expect(judgeSeam(frames(lamp)).verdict).toBe('still')
    expect(judgeSeam(frames(lamp).slice(0, 1)).verdict).toBe('still')
  })
  /** Stripes of 64 px that slide by some way from frame to frame, and are home after the last. */
  const sliding = (ways: readonly number[]): Picture[] => {
    const whole = ways.reduce((sum, way) => sum + way, 0)
    let at = 0
    return ways.map((way) => {
      const data = new Uint8ClampedArray(4 * 64 * 8).fill(255)
      for (let i = 0; i < 64 * 8; i++) {
        const value = 128 + 90 * Math.sin((2 * Math.PI * ((i % 64) - 64 * at)) / 64)
        data.set([value, value, value], 4 * i)
      }
      at += way / whole
      return { width: 64, height: 8, data }
    })
  }
  it('that stands out of its neighbours jumps where steps follow each other smoothly, and not where all of them jitter', () => {
    // Fast for a third of the loop, slow for the rest; the seam lies in the slow part and is no step of the fast one.
    const paced = (jitter: number, seam: number) =>
      Array.from({ length: 36 }, (_, n) => {
        const pace = 1 + 2 * Math.max(0, Math.sin((2 * Math.PI * (n - 9)) / 36)) ** 2
        return (n === 35 ? seam : pace) * (n % 2 ? 1 : 1 + jitter)
      })
    expect(judgeSeam(sliding(paced(0, 1))).verdict).toBe('closes')
    expect(judgeSeam(sliding(paced(0, 1.75)))).toMatchObject({ verdict: 'jumps', frame: 35 })
    expect(judgeSeam(sliding(paced(0.2, 2.1))).verdict).toBe('closes')
  })
  it('needs frames of one size', () => {
    expect(() => judgeSeam([])).toThrow('at least one')
    const small = renderInNode(evaluate(lamp, 0), 8, 8)
    const large = renderInNode(evaluate(lamp, 0), 9, 8)
    expect(() => judgeSeam([small, large])).toThrow('one size')
  })
  it('takes the median of both middles', () =>
    expect([median([3, 1, 2]), median([4, 1, 2, 3]), median([])]).toEqual([2, 2.5, 0]))
})

describe('the verdict on an open loop', () => {
  const judge = (loop: Loop) => judgeLoop(loop, checkMotions(loop), judgeSeam(frames(loop)))
  it('names the motion, the gap and the reason', () => {
    const verdict = judge(beam(turn(350)))
    expect(verdict.verdict).toBe('jumps')
    expect(verdict.fault?.name).toBe('rotation')
    expect(verdict.sentence).toContain('ends 10° away')
  })
  it('is strict about a gap that pictures hide', () => {
    expect(judge(beam(turn(359))).verdict).toBe('jumps')
  })
  it('names a frame shown twice where both ends are keyed alike in a free motion', () => {
    const free = motion(
      [
        [0, 0],
        [0.5, 90],
        [1, 0],
      ],
      'once',
      'linear',
      { period: { frames: N - 1 } },
    )
    const verdict = judge(beam(free))
    expect(verdict.verdict).toBe('repeats-a-frame')
    expect(verdict.sentence).toContain('frame 35 already shows what frame 0 shows')
  })
  it('closes where everything comes home, a keyed tick at the seam included', () => {
    expect(judge(loops['a growing arc']).verdict).toBe('closes')
    expect(
      judge(
        beam(
          motion(
            [
              [0, 0],
              [0.5, 40],
            ],
            'repeat',
            'hold',
          ),
        ),
      ).verdict,
    ).toBe('closes')
  })
  it('does not mind what is hidden', () => {
    const loop = beam(turn(350))
    const hidden = { ...loop, layers: loop.layers.map((layer) => ({ ...layer, hidden: true })) }
    expect(judge(hidden).verdict).toBe('still')
  })
})
