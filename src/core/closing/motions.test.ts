import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changeKey, newLayer, newMotion, removeKey, setAfter, setKeyAtFrame, setMotion, switchPeriod } from '../edit'
import { propertyAt } from '../evaluate'
import { layerKind } from '../layers'
import { type Motion, travel } from '../motion'
import { anyMotion } from '../testing/arbitrary'
import { checkMotion } from '.'

const dot = newLayer('ellipse', 'Dot', { x: 40, y: 60, width: 30, height: 20 }, 'dot')
const { rotation, opacity } = layerKind('ellipse').properties
if (!rotation || !opacity) throw new Error('every layer turns and fades')

describe('motions', () => {
  it('come home when they are new, whatever property they move', () => {
    for (const kind of ['ellipse', 'rectangle', 'polygon', 'group'])
      for (const [name, property] of Object.entries(layerKind(kind).properties)) {
        if (!property.moves) continue
        const layer = newLayer(kind, kind, { stroke: '#fff', fill: '#000', dash: [4, 4] })
        const moving = setMotion(layer, name, newMotion(property, (layer.values[name] as number) ?? '#fff'))
        expect(checkMotion(moving, name, 48)).toMatchObject({ home: true, hesitates: false, repeatsFrame: false })
      }
  })
  it('turn evenly by a whole turn when a rotation starts to move', () => {
    expect(newMotion(rotation, 15)).toMatchObject({
      after: 'accumulate',
      keys: [
        { value: 15, ease: 'linear' },
        { value: 375, ease: 'linear' },
      ],
    })
  })
  it('take a value at the playhead as a key there, in whichever cycle it stands', () => {
    fc.assert(
      fc.property(
        anyMotion(rotation),
        fc.integer({ min: 2, max: 90 }),
        fc.nat(89),
        fc.integer({ min: -90, max: 90 }),
        (motion, length, frame, value) => {
          fc.pre(motion.keys.every((key) => !/start|both/.test(key.ease)) && motion.after !== 'accumulate')
          const n = frame % length
          const layer = { ...dot, motions: { rotation: setKeyAtFrame(motion, value, n, length) } }
          expect(Number(propertyAt(layer, 'rotation', n, length))).toBeCloseTo(value, 3)
        },
      ),
    )
  })
  it('keep keys between their neighbours and inside the cycle', () => {
    fc.assert(
      fc.property(anyMotion(rotation), fc.nat(4), fc.double({ min: -3, max: 3, noNaN: true }), (motion, pick, at) => {
        const { keys } = changeKey(motion, pick % motion.keys.length, { at }, 48)
        for (const [i, key] of keys.entries()) {
          expect(key.at).toBeGreaterThanOrEqual(i === 0 ? 0 : (keys[i - 1]?.at ?? 0))
          expect(key.at).toBeLessThanOrEqual(motion.after === 'repeat' ? 1 - 1e-9 : 1)
        }
      }),
    )
  })
  it('never lose their last key', () => {
    const one = setAfter(newMotion(rotation, 0), 'repeat')
    expect(removeKey(one, 0)).toBe(one)
  })
  it('leave the end key out in repeat, and close with it elsewhere', () => {
    const turn = newMotion(rotation, 0)
    expect(setAfter(turn, 'repeat').keys).toHaveLength(1)
    const swing = newMotion(opacity, 1)
    expect(setAfter(swing, 'once').keys.at(-1)).toMatchObject({ at: 1, value: 1 })
    expect(travel(setAfter(swing, 'accumulate') as Motion<number>)).toBe(0)
  })
  it('keep their period when they are freed, and take the nearest whole number of cycles when tied', () => {
    const free = switchPeriod(newMotion(rotation, 0), false, 0, 48)
    expect(free.period).toEqual({ frames: 48 })
    expect(switchPeriod({ ...free, period: { frames: 20 } }, true, 0, 48).period).toEqual({ cycles: 2 })
  })
})
