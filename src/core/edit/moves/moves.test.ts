import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fraction } from '../../clock'
import { checkMotions } from '../../closing'
import { formatLoop, type Layer, type Loop, parseLoop } from '../../document'
import { evaluate } from '../../evaluate'
import { cyclesFor, farFor, lackingFor, MOVES, moveNamed, newLayer, newLoop, takeMove } from '..'

const clocks = fc.record({
  rate: fc.constantFrom(fraction(12), fraction(25), fraction(30000, 1001), fraction(60)),
  length: fc.integer({ min: 12, max: 600 }),
})
const brief = { name: 'Quay lamp', kind: 'loader', width: 480, height: 300, background: null } as const
const layersFor = (name: string): Layer[] =>
  name === 'drift'
    ? [
        {
          ...newLayer('copies', 'Row', { x: 240, y: 150, arrangement: 'ring', count: 6 }),
          layers: [newLayer('ellipse', 'Dot')],
        },
        newLayer('belt', 'Belt', { x: 240, y: 150 }),
      ]
    : [
        newLayer('ellipse', 'Buoy', { x: 120, y: 150, width: 60, height: 60, stroke: '#f6b84b', opacity: 0.8 }),
        newLayer('line', 'Mast', { x: 360, y: 150, stroke: '#f6b84b', rotation: 12 }),
      ]
const ids = (layers: readonly Layer[]) => layers.map(({ id }) => id)
const heldIn = (loop: Loop, layers: readonly Layer[]): Loop => ({ ...loop, layers })

describe('a motion to take', () => {
  for (const { name, label } of MOVES)
    it(`${label.toLowerCase()}: comes home on every layer that can take it, at every rate, length, stagger and phase`, () => {
      const numbers = fc.record({
        phase: fc.double({ min: 0, max: 1, noNaN: true }),
        stagger: fc.double({ min: -1, max: 1, noNaN: true }),
      })
      fc.assert(
        fc.property(clocks, numbers, (clock, { phase, stagger }) => {
          const layers = layersFor(name)
          const loop = heldIn(newLoop({ ...brief, ...clock }), layers)
          for (const layer of layers) expect(lackingFor(layer, moveNamed(name))).toBeNull()
          const made = takeMove(loop, ids(layers), { name, phase, stagger })
          expect(made).not.toEqual(loop)
          for (const { home, layer, name: property } of checkMotions(made))
            expect(home, `${layer.name} ${property}`).toBe(true)
          // The later frame is drawn like the first one.
          const here = evaluate(made, 5)
          const there = evaluate(made, 5 + made.length)
          expect(there.nodes).toEqual(here.nodes)
          expect(parseLoop(formatLoop(made)).layers).toEqual(made.layers)
        }),
        { numRuns: 20 },
      )
    })
  it('is taken once more as if it had been taken so at first', () => {
    for (const { name } of MOVES) {
      const layers = layersFor(name)
      const loop = heldIn(newLoop({ ...brief, rate: fraction(25), length: 100 }), layers)
      const once = takeMove(loop, ids(layers), { name })
      const wanted = { name, far: 7, cycles: 3, phase: 0.25, stagger: 0.1 }
      expect(takeMove(once, ids(layers), wanted), name).toEqual(takeMove(loop, ids(layers), wanted))
    }
  })
  it('runs whole cycles nearest to its own time, and steps whole rounds', () => {
    const clock = { rate: fraction(25), length: 100 }
    expect(cyclesFor(clock, moveNamed('turn'), 1)).toBe(2)
    expect(cyclesFor(clock, moveNamed('breathe'), 0.1)).toBe(1)
    expect(cyclesFor(clock, moveNamed('tick'), 12)).toBe(12)
    expect(cyclesFor(clock, moveNamed('turn and rest'), 4)).toBe(4)
    const [buoy] = layersFor('tick') as [Layer]
    const loop = heldIn(newLoop({ ...brief, ...clock }), [buoy])
    const asked = takeMove(loop, [buoy.id], { name: 'tick', far: 6, cycles: 8 })
    expect(asked.layers[0]?.motions.rotation?.period).toEqual({ cycles: 6 })
    expect(cyclesFor({ rate: fraction(25), length: 5 }, moveNamed('breathe'), 0.1)).toBe(1)
  })
  it('goes as far as the layer is large', () => {
    const [buoy] = layersFor('bounce') as [Layer]
    expect(farFor(buoy, moveNamed('bounce'))).toBe(60)
    expect(farFor(buoy, moveNamed('swing'))).toBe(22)
    expect(farFor(buoy, moveNamed('chase'))).toBe(0)
  })
  it('starts later on each of several layers', () => {
    const layers = layersFor('bob')
    const loop = heldIn(newLoop({ ...brief, rate: fraction(25), length: 50 }), layers)
    const made = takeMove(loop, ids(layers), { name: 'bob', phase: 0.5, stagger: 0.2 })
    expect(made.layers.map(({ motions }) => motions.y?.phase)).toEqual([0.5, expect.closeTo(0.3, 12)])
    const blinking = takeMove(loop, ids(layers), { name: 'blink', stagger: 0.2 })
    expect(blinking.layers.map(({ events }) => events?.opacity?.at)).toEqual([[0.5], [expect.closeTo(0.7, 12)]])
  })
  it('says what a layer lacks, and leaves it as it is', () => {
    const bare = newLayer('ellipse', 'Buoy', { stroke: null })
    const loop = heldIn(newLoop({ ...brief, rate: fraction(25), length: 50 }), [bare])
    expect(lackingFor(bare, moveNamed('chase'))).toBe('“Buoy” needs a stroke first.')
    expect(lackingFor(bare, moveNamed('drift'))).toContain('has nothing that could')
    for (const name of ['chase', 'drift']) expect(takeMove(loop, [bare.id], { name })).toBe(loop)
    expect(takeMove(loop, ['nothing'], { name: 'turn' })).toBe(loop)
    expect(() => takeMove(loop, [bare.id], { name: 'jump' })).toThrow('no motion to take')
  })
})
