import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { checkMotions, motionRemedies, withMeant, withRemedy } from '../closing'
import type { Layer, Loop } from '../document'
import { newLayer, newLoop } from '../edit'
import { evaluate, valuesAt } from '../evaluate'
import type { Picture } from '../image'
import { layerKind } from '../layers'
import type { Motion } from '../motion'
import { describeFrame, judgeClip, judgeLoop } from '.'

const quay = newLoop({
  name: 'Quay',
  kind: 'loader',
  width: 240,
  height: 160,
  background: '#0b2230',
  rate: { num: 30, den: 1 },
  length: 30,
})
const moving = (kind: string, values: object, motions: Layer['motions'], more: Partial<Layer> = {}): Layer => ({
  ...newLayer(kind, `The ${kind}`, { x: 120, y: 80, ...values }),
  motions,
  ...more,
})
const linear = (values: readonly number[], after: Motion['after'] = 'repeat', ease = 'linear'): Motion => ({
  keys: values.map((value, i) => ({ at: i / (after === 'repeat' ? values.length : values.length - 1), value, ease })),
  after,
  period: { cycles: 1 },
  phase: 0,
})
const framesOf = (loop: Loop): Picture[] =>
  Array.from({ length: loop.length }, (_, n) => renderInNode(evaluate(loop, n), 96, 64))
const judged = (pictures: readonly Picture[]) =>
  judgeClip(
    pictures.map((picture) => describeFrame(picture)),
    { delaysMs: pictures.map(() => 40), playsForever: true },
  )
/** The words of Compose, of the file, and of the file four times over. */
function all(loop: Loop) {
  const pictures = framesOf(loop)
  const file = judged(pictures)
  const compose = judgeLoop(loop, checkMotions(loop), file.seam)
  const fourfold = judged([...pictures, ...pictures, ...pictures, ...pictures])
  return {
    compose,
    file: file.seam.verdict,
    fourfold: fourfold.seam.verdict,
    findings: file.findings.map(({ kind }) => kind),
  }
}

describe('one judge', () => {
  const post = newLayer('rectangle', 'Post', { width: 14, height: 120, fill: '#f2b54a' })
  const row = (values: object): Loop => ({
    ...quay,
    layers: [
      moving(
        'copies',
        { count: 4, spacing: 'pitch', pitch: 30, ...values },
        { shift: linear([0, 1], 'accumulate') },
        { layers: [post] },
      ),
    ],
  })

  it('names a row whose ends are in sight, at one cycle and at four, and fills the frame', () => {
    const { compose, file, fourfold } = all(row({}))
    expect(file).toBe('jumps')
    expect(fourfold).toBe('jumps')
    expect(compose).toMatchObject({ verdict: 'jumps', fault: { name: 'shift', home: false } })
    expect(compose.sentence).toContain('ends at the left and the right are in sight')
    const loop = row({})
    const id = loop.layers[0]?.id ?? ''
    const [remedy] = motionRemedies(loop, id, 'shift')
    expect(remedy?.label).toMatch(/^Copies to fill the frame: \d+ copies instead of 4/)
    const filled = withRemedy(loop, id, 'shift', remedy as never)
    expect(all(filled)).toMatchObject({ compose: { verdict: 'closes' }, file: 'closes', fourfold: 'closes' })
  })
  it('lets a row go on whose ends lie outside the frame, behind a mask, or on a ring; and looks into groups and grids', () => {
    const verdict = (loop: Loop) => judgeLoop(loop, checkMotions(loop), null).verdict
    const shift = { shift: linear([0, 1], 'accumulate') }
    const held = (values: object) =>
      moving('copies', { x: 0, y: 0, pitch: 30, spacing: 'pitch', ...values }, shift, { layers: [post] })
    const mask = newLayer('rectangle', 'Window', { width: 60, height: 60 })
    const grouped = (values: object, layers: readonly Layer[]): Loop => ({
      ...quay,
      layers: [{ ...newLayer('group', 'Group', { x: 120, y: 80, ...values }), layers }],
    })
    expect(verdict(row({ count: 13 }))).toBe('closes')
    expect(verdict(row({ arrangement: 'ring', count: 8, spacing: 'count' }))).toBe('closes')
    expect(verdict(grouped({}, [held({ count: 6 })]))).toBe('jumps')
    expect(verdict(grouped({ mask: 'shape' }, [held({ count: 6 }), mask]))).toBe('closes')
    expect(verdict(grouped({ scaleX: 0.5 }, [held({ count: 13 })]))).toBe('jumps')
    expect(verdict(row({ arrangement: 'grid', columns: 3, rows: 2 }))).toBe('jumps')
    expect(verdict(row({ arrangement: 'grid', columns: 13, rows: 2 }))).toBe('closes')
    expect(verdict(row({ arrangement: 'path', path: 'M-60 0L60 0', count: 4, spacing: 'count' }))).toBe('jumps')
    expect(verdict(row({ arrangement: 'path', path: 'M-160 0L160 0', count: 9, spacing: 'count' }))).toBe('closes')
  })
  it('names a recording that is not closed, and closes it', () => {
    const drag = Array.from({ length: 30 }, (_, i) => 40 + 5 * i + 3 * Math.sin(i))
    const loop: Loop = { ...quay, layers: [moving('ellipse', { width: 24, height: 24 }, { x: linear(drag) })] }
    const { compose, file } = all(loop)
    expect(file).toBe('jumps')
    expect(compose).toMatchObject({ verdict: 'jumps', fault: { name: 'x' } })
    expect(compose.sentence).toContain('not closed')
    for (const remedy of motionRemedies(loop, loop.layers[0]?.id ?? '', 'x').slice(0, 1)) {
      const closed = withRemedy(loop, loop.layers[0]?.id ?? '', 'x', remedy)
      expect(all(closed)).toMatchObject({ compose: { verdict: 'closes' }, file: 'closes' })
    }
  })
  it('names a snap back that takes a frame and a half', () => {
    const keys = Array.from({ length: 45 }, (_, i) => ({ at: (i * 44.5) / 44 / 46, value: 30 + 4 * i, ease: 'linear' }))
    const motion: Motion = { keys, after: 'repeat', period: { cycles: 1 }, phase: 0 }
    const loop: Loop = { ...quay, length: 46, layers: [moving('ellipse', { width: 24, height: 24 }, { x: motion })] }
    expect(all(loop)).toMatchObject({ compose: { verdict: 'jumps' }, file: 'jumps' })
  })
  it.each([1, 3, 7, 12, 20])('lets a tremble close, seed %i', (seed) => {
    const trembles = { x: { amount: 12, detail: 6, cycles: 1, seed, phase: 0 } }
    const loop: Loop = { ...quay, layers: [moving('ellipse', { width: 40, height: 40 }, {}, { trembles })] }
    expect(all(loop)).toMatchObject({ compose: { verdict: 'closes' }, file: 'closes' })
  })
  it('closes what steps at the seam as it steps elsewhere; what steps there alone jumps', () => {
    const held = (values: number[]): Loop => ({
      ...quay,
      layers: [moving('ellipse', { width: 24, height: 24 }, { x: linear(values, 'repeat', 'hold') })],
    })
    expect(all(held([60, 180]))).toMatchObject({ compose: { verdict: 'closes' }, file: 'closes' })
    expect(all(held([60, 80, 100, 120, 140, 160]))).toMatchObject({ compose: { verdict: 'jumps' }, file: 'jumps' })
  })
  it('says what an event that happens at the seam alone does, and where it comes from', () => {
    const turn = { rotation: linear([0, 360], 'accumulate') }
    const events = { opacity: { value: 0, frames: 1, at: [0], cycles: 1 } }
    const loop: Loop = { ...quay, layers: [moving('rectangle', { width: 90, height: 20 }, turn, { events })] }
    const { compose, file } = all(loop)
    expect(file).toBe('blank-frame')
    expect(compose.verdict).toBe('blank-frame')
    expect(compose.sentence).toContain('opacity')
  })
  it('judges the shorter loop that lies inside', () => {
    const pictures = framesOf(row({}))
    const twice = judged([...pictures, ...pictures])
    expect(twice.seam).toMatchObject({ verdict: 'jumps', frame: 59 })
    expect(twice.findings.find(({ kind }) => kind === 'jumps')?.message).toContain('30 frames long, 2 times over')
  })
  it('calls a wheel of five even steps no jump, and one of five with a gap one', () => {
    const wheel = (values: readonly number[]): Loop => ({
      ...quay,
      length: 5,
      layers: [moving('rectangle', { width: 120, height: 16 }, { rotation: linear(values, 'repeat', 'hold') })],
    })
    expect(all(wheel([0, 36, 72, 108, 144])).file).toBe('closes')
    expect(all(wheel([0, 10, 20, 30, 40])).file).toBe('jumps')
  })
})

describe('bounds of a property', () => {
  it('do not stop a hue that goes round more often than its range is wide', () => {
    const range = layerKind('colourRange')?.properties.turn ?? null
    if (!range) throw new Error('there is a kind whose hues turn')
    const turn: Motion = { ...linear([0, 12 * 360], 'accumulate'), period: { cycles: 1 } }
    const layer = { ...newLayer('colourRange', 'Hues', {}), motions: { turn } }
    const at = (n: number) => Number(valuesAt(layer, n, 120).turn)
    const hue = (x: number) => ((x % 360) + 360) % 360
    for (let n = 0; n < 120; n++) expect(hue(at(n))).toBeCloseTo(hue((n * 12 * 360) / 120), 6)
  })
  it('are those that a motion is judged under', () => {
    // Beyond its range it is drawn as its end: it holds there and comes back by a leap of what is seen, not of what is keyed.
    const fade = linear([0, 0.9, 1.8, 2.7])
    const loop: Loop = { ...quay, layers: [moving('ellipse', { width: 60, height: 60 }, { opacity: fade })] }
    const [report] = checkMotions(loop)
    expect(Math.max(...(report?.speeds ?? []))).toBeLessThanOrEqual(1)
  })
})

describe('what is meant', () => {
  const slow = { rotation: linear([0, 360], 'accumulate', 'ease-in-out') }
  const beam = (motions: Layer['motions'], more: Partial<Layer> = {}) =>
    moving('rectangle', { width: 90, height: 20, fill: '#f2b54a' }, motions, more)
  const rested = { rotation: { ...(slow.rotation as Motion), restMeant: true as const } }
  const verdict = (loop: Loop) => judgeLoop(loop, checkMotions(loop), judged(framesOf(loop)).seam).verdict

  it('of a rest explains that rest, and no other: not that of a hidden layer, nor one in a loop that is not placed', () => {
    expect(verdict({ ...quay, layers: [beam(slow)] })).toBe('hesitates')
    expect(verdict({ ...quay, layers: [beam(rested)] })).toBe('closes')
    expect(verdict({ ...quay, layers: [beam(slow), beam(rested, { hidden: true })] })).toBe('hesitates')
    const inner = {
      id: 'a',
      name: 'Inner',
      width: 240,
      height: 160,
      background: null,
      length: 30,
      layers: [beam(rested)],
    }
    expect(verdict({ ...quay, loops: [inner as unknown as Loop['loops'][number]], layers: [beam(slow)] })).toBe(
      'hesitates',
    )
  })
  it('of a cut lets it pass, wherever in the loop it lies, and is taken back', () => {
    const snap = (phase: number): Loop => {
      const keys = [
        { at: 0, value: 60, ease: 'linear' },
        { at: 0.96, value: 180, ease: 'linear' },
      ]
      const x: Motion = { keys, after: 'repeat', period: { cycles: 1 }, phase }
      return { ...quay, layers: [moving('ellipse', { width: 24, height: 24 }, { x })] }
    }
    for (const phase of [0, 0.3, 0.7]) {
      const loop = snap(phase)
      const id = loop.layers[0]?.id ?? ''
      expect(verdict(loop)).toBe('jumps')
      const meant = withMeant(loop, id, 'x', 'cut', true)
      expect(verdict(meant)).toBe('closes')
      expect(verdict(withMeant(meant, id, 'x', 'cut', false))).toBe('jumps')
    }
  })
  it('of a rest does not explain that another motion rests at the same frame', () => {
    const loop: Loop = { ...quay, layers: [beam(rested), beam(slow)] }
    const [first, second] = checkMotions(loop)
    if (!first || !second) throw new Error('both beams turn')
    // The second one slows down to a quarter of its greatest speed, which is too fast to count as hesitating by itself.
    const eased = {
      ...second,
      hesitates: false,
      speeds: second.speeds.map((speed) => Math.max(speed, 0.25 * Math.max(...second.speeds))),
    }
    const pictures = { ...judged(framesOf(loop)).seam, verdict: 'hesitates', frame: 29 } as const
    expect(judgeLoop(loop, [first, eased], pictures).verdict).toBe('hesitates')
    expect(judgeLoop(loop, [first, { ...eased, evenness: null }], pictures).verdict).toBe('closes')
    expect(judgeLoop(loop, [first], pictures).verdict).toBe('closes')
  })
  it('is an event that hides what has grown large until it is small again', () => {
    const swell: Motion = {
      keys: [
        { at: 0, value: 6, ease: 'linear' },
        { at: 1, value: 120, ease: 'linear' },
      ],
      after: 'alternate',
      period: { cycles: 2 },
      phase: 0,
    }
    const events = { opacity: { value: 0, frames: 14, at: [0.5], cycles: 1 } }
    const disc = (more: Partial<Layer>) =>
      moving('ellipse', { x: 120, fill: '#f2b54a' }, { width: swell, height: swell }, more)
    const loop: Loop = { ...quay, layers: [disc({ events })] }
    expect(all(loop)).toMatchObject({ file: 'jumps', compose: { verdict: 'closes' } })
    // The same pictures in a document that holds no event are a jump.
    expect(judgeLoop({ ...quay, layers: [disc({})] }, checkMotions(loop), judged(framesOf(loop)).seam).verdict).toBe(
      'jumps',
    )
  })
  it('is an event wherever it begins: three dots that blink in turn close at every phase', () => {
    for (const begins of [0, 5, 11, 29]) {
      const layers = [0, 1, 2].map((i) =>
        moving(
          'ellipse',
          { x: 60 + 60 * i, width: 30, height: 30, fill: '#f2b54a' },
          {},
          {
            events: { opacity: { value: 0.1, frames: 10, at: [((10 * i + begins) / 30) % 1], cycles: 1 } },
          },
        ),
      )
      expect(verdict({ ...quay, layers }), `begins at ${begins}`).toBe('closes')
    }
  })
})

describe('grounds', () => {
  it('tell a fringe that grows from what closes, and say over which', () => {
    const glow = linear([0, 1], 'repeat', 'linear')
    const layer = newLayer('ellipse', 'Halo', { x: 120, y: 80, width: 120, height: 120, fill: '#ffffff' })
    const halo = {
      ...layer,
      motions: {
        opacity: {
          ...glow,
          keys: [
            { at: 0, value: 0, ease: 'linear' },
            { at: 0.99, value: 1, ease: 'linear' },
          ],
        },
      },
    }
    const beam = moving(
      'rectangle',
      { width: 60, height: 16, fill: '#123a4c' },
      { rotation: linear([0, 360], 'accumulate') },
    )
    const clip = judged(framesOf({ ...quay, background: null, layers: [halo as Layer, beam] }))
    expect(clip.seam).toMatchObject({ verdict: 'closes', grounds: { white: 'closes', black: 'jumps' } })
    expect(clip.findings.filter(({ hint }) => !hint)).toEqual([expect.objectContaining({ kind: 'fringe' })])
    expect(clip.findings[0]?.message).toMatch(/^Over white .*closes; over dark pages/)
    expect(clip.sound).toBe(false)
  })
})
