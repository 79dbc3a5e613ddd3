import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { modelsIn } from '../display'
import { changeLayer, formatLoop, type Loop, parseLoop } from '../document'
import { evaluate, evaluateUnreduced } from '../evaluate'
import { evenly } from '../motion'
import { quay } from '../testing/quay'
import { testModel } from '../testing/test-model'
import {
  addModel,
  addPart,
  begunLoop,
  centredTurn,
  modelOf,
  movesAbout,
  newLayer,
  passesOver,
  shorterTurn,
  standsInFrame,
} from '.'

const capstan = testModel()
const turning = (frames = 120): { loop: Loop; id: string } =>
  addModel({ ...quay, width: 320, height: 240, length: frames }, capstan)
const withTurn = (loop: Loop, id: string, travel: number) =>
  changeLayer(loop, id, (layer) => {
    const turn = layer.motions.turn
    if (!turn) throw new Error('it turns')
    return {
      ...layer,
      motions: { turn: { ...turn, keys: turn.keys.map((key, i) => ({ ...key, value: i * travel })) } },
    }
  })

describe('a model in a loop', () => {
  it('turns evenly once, comes home, is stored and read again', () => {
    const { loop, id } = turning()
    expect(checkMotions(loop).map(({ layer, name, home }) => [layer.id, name, home])).toEqual([[id, 'turn', true]])
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    expect(modelsIn(evaluate(loop, 7).nodes)).toEqual([{ model: 'capstan', file: capstan.file.id, occlusion: false }])
    const begun = begunLoop(
      { name: 'Capstan', kind: 'turntable', width: 64, height: 48, background: null, rate: quay.rate, length: 30 },
      undefined,
      capstan,
    )
    expect(begun.layers.map(({ kind, values }) => [kind, values.width, values.pivot])).toEqual([
      ['model', 64, 'centre of mass'],
    ])
  })
  it('is at unreduced time N + x what it is at x, and after a part of a turn by its fold it has come home', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 119, noNaN: true }), fc.integer({ min: 1, max: 12 }), (x, parts) => {
        const { loop, id } = turning()
        const sixths = withTurn(loop, id, 60 * parts)
        expect(checkMotions(sixths).every(({ home }) => home)).toBe(true)
        const whole = withTurn(loop, id, 360 * parts)
        const at = (frame: number) =>
          JSON.stringify(
            evaluateUnreduced(whole, frame).nodes.map(
              (node) => 'placement' in node && node.placement.map((v) => v.toFixed(6).replace(/^-(0\.0+)$/, '$1')),
            ),
          )
        expect(at(x + 120)).toBe(at(x))
      }),
      { numRuns: 20 },
    )
    const { loop, id } = turning()
    expect(checkMotions(withTurn(loop, id, 45))[0]?.home).toBe(false)
    // Beside its centre, or lit by lamps that turn with it, a sixth is to be seen.
    for (const values of [{ aboutX: 0.1 }, { pivot: 'middle' }, { lights: 'turn with it' }]) {
      const beside = changeLayer(withTurn(loop, id, 60), id, (layer) => ({
        ...layer,
        values: { ...layer.values, ...values },
      }))
      expect(checkMotions(beside)[0]?.home).toBe(false)
    }
  })
  it('with a fold is offered the loop that is as many times shorter, at the same pace', () => {
    const { loop, id } = turning()
    const shorter = shorterTurn(loop, id)
    expect(shorter).toMatchObject({ times: 6, length: 20 })
    expect(checkMotions(shorter?.loop as Loop).every(({ home }) => home)).toBe(true)
    expect(shorterTurn(shorter?.loop as Loop, id)).toBeNull()
    // Not where something else moves, which would have to be faster.
    const two = addModel(loop, { ...capstan, id: 'other' })
    expect(shorterTurn(two.loop, id)).toBeNull()
  })
  it('has parts that move by themselves; then the whole no longer looks the same after a sixth', () => {
    const { loop, id } = turning()
    const made = addPart(loop, id, 'Bar 2')
    if (!made) throw new Error('it has that part')
    const [holder] = made.loop.layers
    expect(holder?.layers?.map(({ kind, values }) => [kind, values.part])).toEqual([['part', 'Bar 2']])
    expect(checkMotions(withTurn(made.loop, id, 60))[0]?.home).toBe(false)
    expect(addPart(made.loop, id, 'Bar 2')).toEqual({ loop: made.loop, id: made.id })
    expect(addPart(loop, id, 'Anchor')).toBeNull()
    const [node] = evaluate(made.loop, 0).nodes
    const parts = node?.type === 'model' ? node.parts : []
    expect(parts.map((part) => [part.node, part.placement])).toEqual([
      [2, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]],
    ])
    // Its x and y are no px of the frame.
    const moving = newLayer('part', 'Bar 2', { part: 'Bar 2' })
    expect([standsInFrame(moving), movesAbout({ ...moving, motions: { x: evenly(1) } })]).toEqual([false, false])
    // Turned about its own centre, that stays.
    const turned = changeLayer(made.loop, made.id, (part) => ({
      ...part,
      values: { ...part.values, rotation: 90, x: 0.5 },
    }))
    const [moved] = evaluate(turned, 0).nodes
    const at = moved?.type === 'model' ? (moved.parts[0]?.placement ?? []) : []
    const [x, y, z] = capstan.parts[2]?.centre ?? [0, 0, 0]
    const put = [0, 1, 2].map(
      (row) =>
        (at[row] as number) * x + (at[4 + row] as number) * y + (at[8 + row] as number) * z + (at[12 + row] as number),
    )
    expect(put[0]).toBeCloseTo(x + 0.5 * 4, 5)
    expect(put[1]).toBeCloseTo(y, 5)
    expect(put[2]).toBeCloseTo(z, 5)
  })
  it('has its passes put over it, which turn and are seen alike', () => {
    const { loop, id } = turning()
    const made = passesOver(loop, id)
    expect(made?.loop.layers.map(({ values }) => [values.pass, values.blend])).toEqual([
      ['colour', 'normal'],
      ['occlusion', 'multiply'],
      ['wireframe', 'normal'],
    ])
    const [first, ...others] = evaluate(made?.loop as Loop, 33).nodes
    for (const node of others) {
      if (node.type !== 'model' || first?.type !== 'model') throw new Error('all are models')
      expect([node.placement, node.camera]).toEqual([first.placement, first.camera])
    }
    expect(new Set(made?.loop.layers.map((layer) => layer.id)).size).toBe(3)
    expect(passesOver(quay, 'gone')).toBeNull()
  })
  it('is put into the middle of itself again', () => {
    const { loop, id } = turning()
    const aside = changeLayer(loop, id, (layer) => ({
      ...layer,
      values: { ...layer.values, pivot: 'origin of the file', aboutZ: 0.2 },
    }))
    const [layer] = aside.layers
    if (!layer) throw new Error('it is there')
    expect(modelOf(aside, layer)).toBe(capstan)
    expect(centredTurn(layer, capstan).values).toMatchObject({ pivot: 'centre of mass', aboutZ: 0 })
  })
})
