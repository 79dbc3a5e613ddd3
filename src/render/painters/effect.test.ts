import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '@/core/closing'
import { formatLoop, type Layer, type Loop, parseLoop } from '@/core/document'
import { addEffect, addMask, behindLayer, canUngroup, maskedBy, newLayer, withTint } from '@/core/edit'
import { pictureOfTable, tableOf } from '@/core/effects'
import { evaluate, evaluateUnreduced } from '@/core/evaluate'
import { greatestDifference, type Picture } from '@/core/image'
import { LAYER_KINDS } from '@/core/layers'
import { type Medium, madeAsset } from '@/core/media'
import { evenly } from '@/core/motion'
import { quay } from '@/core/testing/quay'
import { NodeRenderer, picturesInNode, renderInNode } from '../node'
import { pngInNode } from '../png-node'

const SIZE = { width: 64, height: 48 }
const clouds = (values = {}): Layer =>
  newLayer('texture', 'Clouds', { ...SIZE, x: 32, y: 24, size: 16, ...values }, 'clouds')
const pier: Loop = { ...quay, ...SIZE, length: 24, background: '#0b2230', layers: [clouds()] }
const drawn = (loop: Loop, frame = 0): Picture => renderInNode(evaluate(loop, frame))
const pixel = ({ width, data }: Picture, x: number, y: number) => [
  ...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4),
]

const EFFECTS = LAYER_KINDS.filter(({ effect }) => effect)
const onAll = (loop: Loop, kind: string, values = {}): Loop => {
  const made = addEffect(loop, [], kind, 0, 'effect')
  if (!made) throw new Error('an effect can be put on all')
  const layers = made.loop.layers.map((layer) =>
    layer.id === 'effect' ? { ...layer, values: { ...layer.values, ...values } } : layer,
  )
  return { ...made.loop, layers }
}

describe.each(EFFECTS.map(({ kind }) => kind))('the effect %s', (kind) => {
  it('is stored, comes home, and is the same one loop later', () => {
    const loop = onAll(pier, kind)
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    expect(checkMotions(loop).every(({ home }) => home)).toBe(true)
    for (const frame of [0, 5, 11.5]) {
      const later = renderInNode(evaluateUnreduced(loop, frame + loop.length))
      expect(greatestDifference(renderInNode(evaluateUnreduced(loop, frame)), later)).toBeLessThanOrEqual(1)
    }
  })
  it('changes nothing at no strength, and nothing outside of what it holds', () => {
    const plain = drawn(pier)
    expect(drawn(onAll(pier, kind, { strength: 0 })).data).toEqual(plain.data)
    if (kind === 'displacement') return
    const loop = onAll(pier, kind)
    const place = newLayer('rectangle', 'Place', { x: -16, y: 0, width: 32, height: 48, radius: 0 }, 'place')
    const within = (acts: string) => ({
      ...loop,
      layers: loop.layers.map((layer) =>
        layer.id === 'effect' ? { ...layer, values: { ...layer.values, acts }, layers: [place] } : layer,
      ),
    })
    const inside = drawn(within('within its layers'))
    const outside = drawn(within('outside them'))
    for (const [x, y] of [
      [40, 10],
      [60, 40],
    ] as const)
      expect(pixel(inside, x, y)).toEqual(pixel(plain, x, y))
    for (const [x, y] of [
      [4, 10],
      [28, 40],
    ] as const)
      expect(pixel(outside, x, y)).toEqual(pixel(plain, x, y))
  })
  it('of a tile makes a tile: the frame moved on by whole pixels is changed alike', () => {
    if (['vignette', 'displacement', 'grain'].includes(kind)) return
    fc.assert(
      fc.property(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -2, max: 2 }), (across, down) => {
        const dx = across * 8
        const dy = down * 8
        const still = drawn(onAll({ ...pier, layers: [clouds()] }, kind))
        const moved = drawn(onAll({ ...pier, layers: [clouds({ driftX: dx / 64, driftY: dy / 48 })] }, kind))
        for (const [x, y] of [
          [3, 5],
          [40, 31],
        ] as const)
          for (let c = 0; c < 3; c++) {
            const there = pixel(moved, (((x + dx) % 64) + 64) % 64, (((y + dy) % 48) + 48) % 48)
            expect(Math.abs(there[c] - pixel(still, x, y)[c])).toBeLessThanOrEqual(2)
          }
      }),
      { numRuns: 6 },
    )
  })
})

describe('effects on layers', () => {
  const buoy = newLayer('ellipse', 'Buoy', { x: 20, y: 24, width: 20, height: 20, fill: '#cc4020' }, 'buoy')
  const two: Loop = { ...pier, layers: [clouds(), buoy] }
  const turn = { hue: 0, width: 360, turn: 120 }

  it('change the layer alone, in a group of its own, and more of them go in front', () => {
    const first = addEffect(two, ['buoy'], 'colourRange', 0, 'one')
    if (!first) throw new Error('it can be put there')
    const group = first.loop.layers[1]
    expect(group?.layers?.map(({ name }) => name)).toEqual(['Buoy', 'Hue range'])
    const second = addEffect(first.loop, ['buoy'], 'sharpen', 0, 'two')
    expect(second?.loop.layers[1]?.layers?.map(({ name }) => name)).toEqual(['Buoy', 'Hue range', 'Sharpen'])
    expect(second?.loop.layers).toHaveLength(2)
    const turned = withValues(first.loop, 'one', turn)
    expect(pixel(drawn(turned), 20, 24)).toEqual([32, 204, 64, 255])
    expect(pixel(drawn(turned), 50, 24)).toEqual(pixel(drawn(two), 50, 24))
  })
  it('are not taken out of their group, where they would change everything', () => {
    const made = addEffect(two, ['buoy'], 'levels', 0)
    expect(canUngroup(made?.loop.layers[1] as Layer)).toBe(false)
  })
  it('act in their order: what is inverted and then warmed is not what is warmed and then inverted', () => {
    const inverted = addEffect(two, [], 'levels', 0, 'invert')
    const both = addEffect((inverted as { loop: Loop }).loop, [], 'temperature', 0, 'warm') as { loop: Loop }
    const set = withValues(withValues(both.loop, 'invert', { toBlack: 1, toWhite: 0 }), 'warm', { temperature: 1 })
    const [a, b, c, d] = set.layers as readonly [Layer, Layer, Layer, Layer]
    const other = { ...set, layers: [a, b, d, c] }
    expect(greatestDifference(drawn(set), drawn(other))).toBeGreaterThan(20)
  })
  it('in a grade act together, as strongly as it says', () => {
    const grade = addEffect(two, [], 'grade', 0, 'grade') as { loop: Loop }
    const inside = addEffect(grade.loop, ['grade'], 'levels', 0, 'levels') as { loop: Loop }
    expect(inside.loop.layers.at(-1)?.layers?.map(({ id }) => id)).toEqual(['levels'])
    const set = withValues(inside.loop, 'levels', { toBlack: 1, toWhite: 0 })
    const [r, g, b] = pixel(drawn(two), 20, 24) as [number, number, number]
    expect(pixel(drawn(set), 20, 24)).toEqual([255 - r, 255 - g, 255 - b, 255])
    const half = pixel(drawn(withValues(set, 'grade', { strength: 0.5 })), 20, 24)
    for (const value of half.slice(0, 3)) expect(Math.abs(value - 127.5)).toBeLessThanOrEqual(1)
  })
  it('move: strength is keyed, and each value', () => {
    const loop = onAll(pier, 'levels')
    const moving = {
      ...loop,
      layers: loop.layers.map((l) => (l.id === 'effect' ? { ...l, motions: { gamma: evenly(1) } } : l)),
    }
    expect(checkMotions(moving).map(({ property, home }) => [property.label, home])).toContainEqual(['gamma', false])
  })
  it('show what lies behind them for their histogram', () => {
    const made = addEffect(two, ['buoy'], 'levels', 0, 'levels') as { loop: Loop }
    const hidden = behindLayer(made.loop, 'levels')
    expect(greatestDifference(drawn(hidden), drawn(two))).toBe(0)
    expect(greatestDifference(drawn(behindLayer(made.loop, 'buoy')), drawn(pier))).toBe(0)
  })
})

describe('a table of colours', () => {
  it('that the document holds is looked up in when it is drawn', async () => {
    const exchanged = pictureOfTable(tableOf(4, ([r = 0, g = 0, b = 0]) => [b, g, r]))
    const file = await madeAsset('image/png', new Uint8Array(await pngInNode(exchanged)))
    const media = [{ kind: 'table', id: 'dusk', name: 'Dusk', size: 4, file } as Medium]
    const sea = newLayer('rectangle', 'Sea', { x: 32, y: 24, ...SIZE, radius: 0, fill: '#f2b54a' }, 'sea')
    const table = newLayer('colourTable', 'Dusk', { table: 'dusk' }, 'effect')
    const loop = { ...pier, media, layers: [sea, table] }
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    const renderer = new NodeRenderer(SIZE.width, SIZE.height)
    const [r, g, b] = pixel(renderer.picture(loop, 0, await picturesInNode(loop)), 10, 10) as [number, number, number]
    for (const [found, meant] of [
      [r, 0x4a],
      [g, 0xb5],
      [b, 0xf2],
    ] as const)
      expect(Math.abs(found - meant)).toBeLessThanOrEqual(1)
    // Without its file nothing is looked up.
    expect(pixel(renderer.picture(loop, 0), 10, 10)).toEqual([0xf2, 0xb5, 0x4a, 255])
  })
})

const withValues = (loop: Loop, id: string, values: object): Loop => {
  const visit = (layers: readonly Layer[]): Layer[] =>
    layers.map((layer) => ({
      ...layer,
      values: layer.id === id ? { ...layer.values, ...(values as Layer['values']) } : layer.values,
      ...(layer.layers && { layers: visit(layer.layers) }),
    }))
  return { ...loop, layers: visit(loop.layers) }
}

describe('masks', () => {
  const sea: Loop = {
    ...pier,
    layers: [newLayer('rectangle', 'Sea', { x: 32, y: 24, ...SIZE, radius: 0, fill: '#f2b54a' }, 'sea')],
  }
  const painted = (strokes: object[]) => {
    const mask = newLayer('brush', 'Mask', { strokes: strokes as never }, 'mask')
    const made = addMask(sea, ['sea'], mask, 0)
    if (!made) throw new Error('a mask can be made')
    return made.loop
  }
  const stroke = { size: 16, softness: 0, strength: 1, points: [-20, 0, 1, 20, 0, 1] }

  it('that are painted show what they cover; until something is painted, all', () => {
    expect(drawn(painted([])).data).toEqual(drawn(sea).data)
    const picture = drawn(painted([stroke]))
    expect(pixel(picture, 32, 24)).toEqual([242, 181, 74, 255])
    expect(pixel(picture, 32, 4)).toEqual([11, 34, 48, 255])
    const taken = drawn(painted([stroke, { ...stroke, size: 6, erases: true, points: [0, 0, 1] }]))
    expect(pixel(taken, 32, 24)).toEqual([11, 34, 48, 255])
    expect(pixel(taken, 16, 24)).toEqual([242, 181, 74, 255])
  })
  it('are stored stroke by stroke, and 500 of them are small', () => {
    const strokes = Array.from({ length: 500 }, (_, i) => ({ ...stroke, points: [i % 64, i % 48, 1, 20, i / 10, 0.5] }))
    const loop = painted(strokes)
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
  })
  it('feather, thin out and turn round', () => {
    const plain = painted([stroke])
    const with_ = (values: object) => drawn(withValues(plain, plain.layers[0]?.id as string, values))
    const [open, shut] = [
      [242, 181, 74],
      [11, 34, 48],
    ] as const
    const share = (picture: Picture, x: number, y: number) => (pixel(picture, x, y)[0] - shut[0]) / (open[0] - shut[0])
    expect(share(with_({ mask: 'inverse' }), 32, 24)).toBeCloseTo(0, 2)
    expect(share(with_({ mask: 'inverse' }), 32, 4)).toBeCloseTo(1, 2)
    expect(share(with_({ density: 0.4 }), 32, 4)).toBeCloseTo(0.6, 1)
    expect(share(with_({ density: 0.4 }), 32, 24)).toBeCloseTo(1, 2)
    const soft = with_({ feather: 4 })
    expect(share(soft, 32, 16)).toBeGreaterThan(0.3)
    expect(share(soft, 32, 16)).toBeLessThan(0.7)
  })
  it('by brightness show where the frontmost layer is bright, or dark', () => {
    const halves = newLayer(
      'rectangle',
      'Halves',
      { x: 16, y: 24, width: 32, height: 48, radius: 0, fill: '#ffffff' },
      'half',
    )
    const black = newLayer(
      'rectangle',
      'Black',
      { x: 48, y: 24, width: 32, height: 48, radius: 0, fill: '#000000' },
      'black',
    )
    const both = { ...newLayer('group', 'Both'), layers: [halves, black] }
    const masked = (mask: string) => ({
      ...sea,
      layers: [{ ...newLayer('group', 'Masked', { mask }), layers: [...sea.layers, both] }],
    })
    expect(pixel(drawn(masked('brightness')), 10, 20)).toEqual([242, 181, 74, 255])
    expect(pixel(drawn(masked('brightness')), 50, 20)).toEqual([11, 34, 48, 255])
    expect(pixel(drawn(masked('darkness')), 10, 20)).toEqual([11, 34, 48, 255])
    expect(pixel(drawn(masked('darkness')), 50, 20)).toEqual([242, 181, 74, 255])
  })
  it('are known as masks, and shown as a tint over all that they would hide', () => {
    const loop = painted([stroke])
    expect(maskedBy(loop, 'mask')?.name).toBe('Sea in a mask')
    expect(maskedBy(loop, 'sea')).toBeNull()
    const tinted = drawn(withTint(loop, 'mask', '#ff0000'))
    expect(pixel(tinted, 32, 4)).toEqual([242, 181, 74, 255])
    expect(pixel(tinted, 32, 24)[0]).toBeGreaterThan(242)
    expect(withTint(loop, 'sea', '#ff0000')).toBe(loop)
  })
})
