import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { boundNumber } from '../bounds'
import { type Clock, changeClock } from '../clock'
import { changeSpeed, repeatLoop } from '../closing'
import type { DisplayList } from '../display'
import {
  allLayers,
  changeLayer,
  findLayer,
  formatLoop,
  type Layer,
  type Loop,
  moveLayer,
  parseLoop,
  removeLayers,
} from '../document'
import { evaluate } from '../evaluate'
import { greatestDifference } from '../image'
import { layerKind } from '../layers'
import { type Motion, stretchTravel } from '../motion'
import { anyLoop } from '../testing/arbitrary'
import {
  beltAround,
  centrePivot,
  chainAround,
  changeKey,
  copiesAlong,
  copyKeys,
  duplicateLayers,
  freeName,
  groupLayers,
  keyOnCurve,
  makeCopies,
  moveKeys,
  movesAbout,
  newLayer,
  newLoop,
  newTremble,
  pasteKeys,
  removeKeys,
  reverseKeys,
  reverseLoop,
  setAfter,
  setMotion,
  setTremble,
  setValue,
  shiftPhase,
  stageBounds,
  startAtEndOf,
  stretchKeys,
  switchPeriod,
  turnPath,
  ungroup,
} from '.'

const empty = newLoop({
  name: 'Pier',
  kind: 'loader',
  width: 200,
  height: 200,
  background: '#0b2230',
  rate: { num: 24, den: 1 },
  length: 24,
})
const dot = newLayer('ellipse', 'Dot', { x: 40, y: 60, width: 30, height: 20 }, 'dot')
const post = newLayer('rectangle', 'Post', { x: 120, y: 80, rotation: 30 }, 'post')
const pier = { ...empty, layers: [dot, post] }
const sameLook = (a: DisplayList, b: DisplayList) => greatestDifference(renderInNode(a), renderInNode(b)) <= 3

/** A new value for a key, where the motion is one of numbers. */
const valueLike = ({ keys }: Motion, value: number) => (typeof keys[0]?.value === 'number' ? { value } : {})
const withClock = (loop: Loop, { rate, length }: Clock): Loop => ({ ...loop, rate, length })

describe('editing a loop', () => {
  it('never changes the loop it was given', () => {
    fc.assert(
      fc.property(anyLoop, (loop) => {
        const before = structuredClone(loop)
        const ids = allLayers(loop).map(({ id }) => id)
        groupLayers(loop, ids.slice(0, 2), 3)
        duplicateLayers(loop, ids.slice(0, 1))
        removeLayers(loop, ids.slice(-1))
        for (const layer of allLayers(loop)) setValue(layer, 'x', 5, 2, loop.length)
        expect(loop).toEqual(before)
      }),
    )
  })

  it('leaves a document that can be saved and opened again, whatever is done to it, with however wild numbers', () => {
    const wild = fc.oneof(fc.constantFrom(0, -1e12, 1e12, 1e-12), fc.double({ min: -1e9, max: 1e9, noNaN: true }))
    const step = fc.record({
      what: fc.constantFrom(
        'set',
        'key',
        'pivot',
        'group',
        'ungroup',
        'copy',
        'move',
        'after',
        'travel',
        'arrange',
        'keys',
        'times',
        'tremble',
        'path',
        'clock',
      ),
      pick: fc.nat(),
      other: fc.nat(),
      number: wild,
    })
    fc.assert(
      fc.property(anyLoop, fc.array(step, { maxLength: 12 }), (random, steps) => {
        const end = steps.reduce((loop, { what, pick, other, number }): Loop => {
          const layers = allLayers(loop)
          const layer = layers[pick % layers.length]
          if (!layer) return loop
          const { id } = layer
          const change = (to: (each: Layer) => Layer) => changeLayer(loop, id, to)
          const names = Object.keys(layer.motions)
          const name = names[other % names.length]
          const onMotion = (to: (motion: Motion) => Motion) =>
            name ? change((each) => setMotion(each, name, to(each.motions[name] as Motion))) : loop
          const numbers = Object.entries(layerKind(layer.kind).properties).filter(([, p]) => p.type === 'number')
          switch (what) {
            case 'set':
              return change((each) =>
                setValue(each, numbers[other % numbers.length]?.[0] ?? 'x', number, other % 50, loop.length),
              )
            case 'key':
              return onMotion((motion) =>
                changeKey(motion, other % 4, { at: number, ...valueLike(motion, number) }, loop.length),
              )
            case 'pivot':
              return change((each) => centrePivot(each, other % 50, loop.length))
            case 'group':
              return groupLayers(
                loop,
                layers.slice(pick % layers.length).map((each) => each.id),
                other % 50,
              )
            case 'ungroup':
              return ungroup(loop, id)
            case 'copy':
              return duplicateLayers(loop, [id]).loop
            case 'move':
              return moveLayer(loop, id, { id: layers[other % layers.length]?.id ?? id, side: 'inside' })
            case 'after':
              return onMotion((motion) =>
                switchPeriod(setAfter(motion, 'alternate'), other % 2 === 0, other, loop.length),
              )
            case 'travel':
              return onMotion((motion) =>
                motion.after === 'accumulate' ? stretchTravel(motion as Motion<number>, number) : motion,
              )
            case 'arrange': {
              const make = [makeCopies, beltAround, chainAround, copiesAlong][other % 4] as typeof makeCopies
              return make(loop, [id, layers[other % layers.length]?.id ?? id], other % 50)?.loop ?? loop
            }
            case 'keys':
              return onMotion((motion) => {
                const chosen = motion.keys.map((_, i) => i).filter((i) => (other >> i) % 2 === 0)
                const edits = [
                  () => moveKeys(motion, chosen, number, number, loop.length),
                  () => stretchKeys(motion, chosen, 'first', number, loop.length),
                  () => reverseKeys(motion, chosen),
                  () => removeKeys(motion, chosen),
                  () => keyOnCurve(motion, (other % 100) / 100, motion.keys[0]?.value ?? 0, loop.length),
                  () => pasteKeys(motion, copyKeys(motion, chosen, loop.length), other % 50, loop.length),
                  () => startAtEndOf(motion, motion, loop.length),
                ]
                return edits[other % edits.length]?.() ?? motion
              })
            case 'times': {
              const edits = [
                () => (loop.length < 1000 && layers.length < 40 ? repeatLoop(loop, 2) : loop),
                () => reverseLoop(loop),
                () => shiftPhase(loop, (other % 100) / 100),
                () => (name ? changeSpeed(loop, id, name, 2, false) : loop),
              ]
              return edits[other % edits.length]?.() ?? loop
            }
            case 'tremble':
              return change((each) => {
                const tremble = {
                  ...newTremble(layerKind(each.kind).properties.x as never),
                  amount: boundNumber(number),
                }
                return setTremble(each, 'x', tremble)
              })
            case 'path':
              return change((each) => (movesAbout(each) ? turnPath(each, number, 1.5, other % 50, loop.length) : each))
            default:
              return withClock(loop, changeClock(loop, { length: number }, 'rate'))
          }
        }, random)
        expect(parseLoop(formatLoop(end))).toEqual(end)
      }),
      { numRuns: 300 },
    )
  })
  it('keeps groups from standing too deep', () => {
    let loop: Loop = pier
    for (let i = 0; i < 40; i++) loop = groupLayers(loop, [loop.layers[0]?.id ?? ''], 0)
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    expect(groupLayers(loop, [loop.layers[0]?.id ?? ''], 0)).toBe(loop)
  })

  it('groups and takes apart again without changing the picture', () => {
    const grouped = groupLayers(pier, ['dot', 'post'], 0, 'both')
    expect(grouped.layers.map(({ id }) => id)).toEqual(['both'])
    expect(sameLook(evaluate(grouped, 0), evaluate(pier, 0))).toBe(true)
    const apart = ungroup(grouped, 'both')
    expect(apart.layers.map(({ id }) => id)).toEqual(['dot', 'post'])
    expect(sameLook(evaluate(apart, 0), evaluate(pier, 0))).toBe(true)
  })
  it('takes a turned and scaled group apart without changing the picture', () => {
    const grouped = groupLayers(pier, ['dot', 'post'], 0, 'both')
    const values = { rotation: 40, scaleX: 0.8, scaleY: 0.8, x: 12, y: 20 }
    const group = findLayer(grouped, 'both') as Layer
    const turned = { ...grouped, layers: [{ ...group, values: { ...group.values, ...values } }] }
    expect(sameLook(evaluate(ungroup(turned, 'both'), 0), evaluate(turned, 0))).toBe(true)
  })
  it('leaves a fading group together', () => {
    const grouped = groupLayers(pier, ['dot', 'post'], 0, 'both')
    const group = findLayer(grouped, 'both') as Layer
    const faded = { ...grouped, layers: [{ ...group, values: { ...group.values, opacity: 0.5 } }] }
    expect(ungroup(faded, 'both')).toBe(faded)
  })

  it('centres the pivot without moving the picture, and the turn no longer wobbles', () => {
    const off = { ...pier, layers: [newLayer('group', 'Pair', { pivotX: 90, pivotY: -30, rotation: 25 }, 'pair')] }
    const holding = moveLayer(moveLayer(pier, 'dot', { id: 'post', side: 'front' }), 'post', {
      id: 'dot',
      side: 'back',
    })
    expect(holding.layers.map(({ id }) => id)).toEqual(['post', 'dot'])
    const group = { ...(off.layers[0] as Layer), layers: pier.layers }
    const centred = centrePivot(group, 0, 24)
    expect(sameLook(evaluate({ ...off, layers: [centred] }, 0), evaluate({ ...off, layers: [group] }, 0))).toBe(true)
    const turnedBy = (layer: Layer, angle: number) =>
      stageBounds({ ...off, layers: [setValue(layer, 'rotation', angle, 0, 24)] }, ['pair'], 0)
    const centre = (layer: Layer, angle: number) => {
      const box = turnedBy(layer, angle)
      return box ? box.x + box.width / 2 : Number.NaN
    }
    expect(centre(centred, 205)).toBeCloseTo(centre(centred, 25), 6)
    expect(Math.abs(centre(group, 205) - centre(group, 25))).toBeGreaterThan(20)
  })

  it('moves layers in front of, behind and into others, but no group into itself', () => {
    const front = moveLayer(pier, 'dot', { id: 'post', side: 'front' })
    expect(front.layers.map(({ id }) => id)).toEqual(['post', 'dot'])
    const grouped = groupLayers(pier, ['dot'], 0, 'box')
    const inside = moveLayer(grouped, 'post', { id: 'box', side: 'inside' })
    expect(findLayer(inside, 'box')?.layers?.map(({ id }) => id)).toEqual(['dot', 'post'])
    expect(moveLayer(inside, 'box', { id: 'dot', side: 'front' })).toBe(inside)
  })
  it('gives copies fresh ids and names', () => {
    const { loop, copies } = duplicateLayers(pier, ['dot'])
    expect(loop.layers.map(({ name }) => name)).toEqual(['Dot', 'Dot 2', 'Post'])
    expect(new Set(allLayers(loop).map(({ id }) => id)).size).toBe(3)
    expect(copies).toHaveLength(1)
    expect(freeName(loop, 'Dot 2')).toBe('Dot 3')
  })
})
