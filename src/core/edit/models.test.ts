import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { type ModelNode, modelsIn } from '../display'
import { changeLayer, findLayer, formatLoop, type Layer, type Loop, parseLoop } from '../document'
import { evaluate, evaluateUnreduced } from '../evaluate'
import { turnOf } from '../layers'
import type { StillPicture } from '../media'
import { evenly } from '../motion'
import { dot, lengthOf, placed, turnedBy, unit } from '../solid'
import { quay } from '../testing/quay'
import { testModel } from '../testing/test-model'
import {
  addModel,
  addPart,
  begunLoop,
  centredTurn,
  exchangeModel,
  freeCamera,
  heldStill,
  modelOf,
  movesAbout,
  newLayer,
  passesOver,
  seenFreely,
  shorterTurn,
  standsInFrame,
  turningAbout,
  withAxis,
  withPivot,
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

describe('the pivot and the axis of a model', () => {
  const coordinate = fc.double({ min: -3, max: 3, noNaN: true })
  const point = fc.tuple(coordinate, coordinate, coordinate)
  const first = () => {
    const { loop, id } = turning()
    return { loop, layer: findLayer(loop, id) as Layer }
  }
  it('lie where they are put, whatever the pivot was before, and the point there stays as it turns', () => {
    fc.assert(
      fc.property(point, fc.double({ min: 0, max: 360, noNaN: true }), (at, degrees) => {
        const { layer } = first()
        const moved = withPivot(layer, capstan, at)
        const turn = turnOf(capstan, moved.values)
        for (const [i, x] of turn.pivot.entries()) expect(x).toBeCloseTo(at[i] as number, 3)
        for (const x of placed(turnedBy(turn, degrees), turn.pivot)) expect(x).toBeCloseTo(0, 6)
      }),
    )
  })
  it('go to the middle of a part; one that is not there changes nothing', () => {
    const { layer } = first()
    const [part] = capstan.parts
    const about = turningAbout(layer, capstan, part?.name ?? '')
    for (const [i, x] of turnOf(capstan, about.values).pivot.entries())
      expect(x).toBeCloseTo(part?.centre[i] as number, 3)
    expect(turningAbout(layer, capstan, 'no such part')).toBe(layer)
  })
  it('have the name of one of the axes of the model where they are next to it, and numbers elsewhere', () => {
    fc.assert(
      fc.property(point.filter((v) => lengthOf(v) > 0.1).map(unit), (way) => {
        const { values } = withAxis(first().layer, way)
        const turn = turnOf(capstan, values)
        const off = Math.acos(Math.min(1, dot(turn.axis, way))) * (180 / Math.PI)
        expect(off).toBeLessThan(values.axis === 'drawn' ? 0.1 : 4.1)
      }),
    )
    expect(withAxis(first().layer, [0, 0.999, 0.0447]).values.axis).toBe('y, upright')
  })
})

describe('a model whose file has changed', () => {
  it('is found by the layers of its parts, in placed loops, too, whatever the parts are called now', () => {
    const { loop, id } = turning()
    const [part] = capstan.parts
    const made = addPart(loop, id, part?.name ?? '')
    if (!made) throw new Error('it has that part')
    const whole = { ...made.loop, loops: [{ ...made.loop, id: 'inner', loops: undefined }] } as unknown as Loop
    const renamed = { ...capstan, parts: capstan.parts.map((each) => ({ ...each, name: `${each.name}, new` })) }
    const now = exchangeModel(whole, renamed)
    for (const layers of [now.layers, now.loops[0]?.layers])
      expect(layers?.[0]?.layers?.[0]?.values.part).toBe(`${part?.name}, new`)
    expect(modelOf(now, now.layers[0] as Layer)).toBe(renamed)
    expect(exchangeModel(whole, { ...capstan, id: 'another' })).toBe(whole)
  })
})

describe('a free view', () => {
  it('shows the model alone as it turns, from where it is asked for, and leaves the camera of the layer', () => {
    const { loop, id } = turning()
    const sight = { around: 40, above: 20, distance: 3 }
    const seen = seenFreely(loop, id, sight, { width: 200, height: 150 })
    expect([seen.width, seen.height, seen.layers.length]).toEqual([200, 150, 1])
    const node = (of: Loop, frame: number) => evaluate(of, frame).nodes[0] as ModelNode
    expect(node(seen, 7).placement).toEqual(node(loop, 7).placement)
    expect(node(seen, 7).camera).toEqual(
      freeCamera(capstan, findLayer(loop, id)?.values ?? {}, sight, { width: 200, height: 150 }),
    )
    expect(node(seen, 7).camera).not.toEqual(node(loop, 7).camera)
    expect(seenFreely(loop, 'nothing', sight, { width: 200, height: 150 })).toBe(loop)
  })
})

describe('a clip that is held still', () => {
  const still: StillPicture = {
    kind: 'picture',
    id: 'held',
    name: 'Wake, frame 3',
    width: 64,
    height: 48,
    file: { id: 'f'.repeat(64), type: 'image/png', bytes: 10 },
  }
  it('lies over a frame of itself in a mask, with the strokes that are given, and can be stored', () => {
    const layer = newLayer('clip', 'Wake', { x: 30, y: 20, width: 64, height: 48 })
    const stroke = { size: 12, softness: 0.4, strength: 1, points: [0, 0, 1, 5, 0, 1] }
    const { loop, mask } = heldStill({ ...quay, layers: [layer] }, layer, still, [stroke])
    expect(loop.layers.map(({ kind, layers }) => [kind, layers?.map((each) => each.kind)])).toEqual([
      ['picture', undefined],
      ['group', ['clip', 'brush']],
    ])
    expect(loop.layers[0]?.values).toMatchObject({ x: 30, y: 20, width: 64, height: 48, picture: 'held' })
    expect(findLayer(loop, mask)?.values.strokes).toEqual([stroke])
    expect(parseLoop(formatLoop(loop)).layers).toEqual(loop.layers)
    const bare = heldStill({ ...quay, layers: [layer] }, layer, still)
    expect(findLayer(bare.loop, bare.mask)?.values.strokes).toEqual([])
  })
})
