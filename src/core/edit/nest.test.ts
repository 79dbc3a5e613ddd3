import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { formatLoop, type Loop, parseLoop, withColours } from '../document'
import { evaluate } from '../evaluate'
import { evenly } from '../motion'
import { wakeOf } from '../testing/media'
import { quay } from '../testing/quay'
import { excerptOf, innerView, newLayer, pasteLayers, placeClip, placeLoop, withInner, withoutUnused } from '.'

const wheel = (id: string, length = 10): Loop => ({
  ...quay,
  id,
  name: id,
  width: 100,
  height: 50,
  length,
  layers: [
    {
      ...newLayer('polygon', 'Wheel', { x: 50, y: 25, radius: 20 }, `${id}-wheel`),
      motions: { rotation: evenly(360) },
    },
  ],
})
const pier: Loop = { ...quay, id: 'pier', name: 'Pier', width: 400, height: 300, length: 60 }

describe('a placed loop', () => {
  it('runs as many whole cycles as come nearest to its own pace, and comes home', () => {
    const { loop, layer } = placeLoop(pier, wheel('lens'))
    expect(layer.motions.time?.period).toEqual({ cycles: 6 })
    expect(checkMotions(loop).map(({ home, inside }) => [home, inside?.name ?? null])).toEqual([
      [true, null],
      [true, 'lens'],
    ])
    const inner = (n: number) => JSON.stringify(evaluate(loop, n).nodes)
    expect(inner(3)).toBe(inner(13))
    expect(inner(3)).not.toBe(inner(4))
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
  })
  it('brings the clips that it shows along, once, and they go with its last place', () => {
    const clip = wakeOf([40, 40])
    const inner = placeClip(wheel('lens'), clip).loop
    const once = placeLoop(pier, inner).loop
    const twice = placeLoop(once, { ...inner, id: 'other' }).loop
    expect(twice.media).toEqual([clip])
    expect(withoutUnused(twice)).toBe(twice)
    expect(withoutUnused({ ...twice, layers: [] })).toMatchObject({ media: [], loops: [] })
    const view = innerView(twice, 'lens')
    if (!view) throw new Error('the lens is placed')
    expect(view.media).toEqual([clip])
    expect(withInner(twice, { ...view, media: [] }).media).toEqual([])
    expect(parseLoop(formatLoop(twice))).toEqual(twice)
  })
  it('shows in all its places what is changed in the one that is placed', () => {
    const once = placeLoop(pier, wheel('lens')).loop
    const twice = placeLoop(once, wheel('lens')).loop
    expect(twice.loops).toHaveLength(1)
    const view = innerView(twice, 'lens')
    if (!view) throw new Error('the lens is placed')
    const [drawn] = view.layers
    const changed = withInner(twice, {
      ...view,
      layers: drawn ? [{ ...drawn, values: { ...drawn.values, radius: 5 } }] : [],
    })
    const texts = evaluate(changed, 0).nodes.map((node) => JSON.stringify(node).replaceAll(/"layerId":"[^"]*"/g, ''))
    const parts = changed.layers.map(({ values }) => values.loop)
    expect(parts).toEqual(['lens', 'lens'])
    expect(texts[0]).toBe(texts[1])
    expect(evaluate(changed, 0)).not.toEqual(evaluate(twice, 0))
  })
  it('is never placed in itself, directly or by way of another', () => {
    expect(() => placeLoop(pier, pier)).toThrow('“Pier” cannot be placed here')
    const tower = placeLoop(wheel('tower'), wheel('lens')).loop
    const both = placeLoop(pier, tower).loop
    const lens = innerView(both, 'lens')
    if (!lens) throw new Error('the lens is placed')
    expect(() => placeLoop(lens, tower, 'lens')).toThrow('placed in itself')
    expect(() => placeLoop(lens, wheel('cloud'), 'lens')).not.toThrow()
  })
  it('that reaches itself is refused in a file, as is one that is not there', () => {
    const tower = placeLoop(wheel('tower'), wheel('lens')).loop
    const both = placeLoop(pier, tower).loop
    const placing = tower.layers.find(({ kind }) => kind === 'loop')
    const around = {
      ...both,
      loops: both.loops.map((inner) =>
        inner.id === 'lens' && placing
          ? { ...inner, layers: [{ ...placing, values: { ...placing.values, loop: 'tower' } }] }
          : inner,
      ),
    }
    expect(() => parseLoop(formatLoop(around))).toThrow('is placed in itself')
    expect(() => parseLoop(formatLoop({ ...both, loops: [] }))).toThrow('names a loop that the document does not hold')
  })
  it('keeps its own colours where a name means another one outside', () => {
    const green = {
      ...wheel('lens'),
      palette: [
        { name: 'lamp', colour: '#00ff00' },
        { name: 'sea', colour: '#000080' },
      ],
    }
    const lamp = {
      ...green,
      layers: green.layers.map((layer) => ({
        ...layer,
        values: { ...layer.values, fill: 'var(--lamp)', stroke: 'var(--sea)' },
      })),
    }
    const { loop } = placeLoop({ ...pier, palette: [{ name: 'lamp', colour: '#ffaa00' }] }, lamp)
    const shown = withColours(loop).loops[0]?.layers[0]?.values
    expect(shown).toMatchObject({ fill: '#00ff00', stroke: '#000080' })
    expect(loop.palette.map(({ name }) => name)).toEqual(['lamp', 'sea'])
  })
  it('is left out of the document when nothing shows it any more', () => {
    const { loop } = placeLoop(pier, placeLoop(wheel('tower'), wheel('lens')).loop)
    expect(loop.loops).toHaveLength(2)
    expect(withoutUnused(loop)).toBe(loop)
    expect(withoutUnused({ ...loop, layers: [] }).loops).toEqual([])
  })
})

describe('layers that are copied', () => {
  const clip = wakeOf([40, 40])
  const held: Loop = placeClip(
    placeLoop({ ...pier, palette: [{ name: 'lamp', colour: '#f6b84b' }] }, wheel('lens')).loop,
    clip,
  ).loop
  const ids = held.layers.map(({ id }) => id)
  it('come with what they show, and with nothing else', () => {
    expect(excerptOf(held, ids)).toMatchObject({ loops: [{ id: 'lens' }], media: [clip] })
    expect(excerptOf(held, [ids[0] ?? ''])).toMatchObject({ loops: [{ id: 'lens' }], media: [] })
    expect(excerptOf(held, [])).toMatchObject({ layers: [], loops: [], media: [] })
    const group = { ...newLayer('group', 'Raft'), layers: held.layers }
    expect(excerptOf({ ...held, layers: [group] }, [ids[1] ?? '']).layers.map(({ id }) => id)).toEqual([ids[1]])
  })
  it('are pasted in front, with fresh ids, and come home as they did; also into another loop', () => {
    for (const into of [held, { ...quay, layers: [] }]) {
      const { loop, ids: pasted } = pasteLayers(into, excerptOf(held, ids))
      expect(loop.layers.slice(-2).map(({ id }) => id)).toEqual(pasted)
      expect(new Set(loop.layers.map(({ id }) => id)).size).toBe(loop.layers.length)
      expect(checkMotions(loop).every(({ home }) => home)).toBe(true)
      expect(parseLoop(formatLoop(loop))).toEqual(loop)
    }
  })
  it('keep their colours where a name means another one', () => {
    const lamp = newLayer('ellipse', 'Lamp', { fill: 'var(--lamp)' })
    const excerpt = excerptOf({ ...held, layers: [lamp] }, [lamp.id])
    const other = { ...quay, layers: [], palette: [{ name: 'lamp', colour: '#ffffff' }] }
    expect(pasteLayers(other, excerpt).loop.layers[0]?.values.fill).toBe('#f6b84b')
    expect(pasteLayers({ ...quay, layers: [], palette: [] }, excerpt).loop).toMatchObject({
      palette: [{ name: 'lamp', colour: '#f6b84b' }],
    })
  })
  it('are refused where a loop would be placed in itself', () => {
    const excerpt = excerptOf(held, [ids[0] ?? ''])
    expect(() => pasteLayers(held, excerpt, 'lens')).toThrow('placed in itself')
    expect(() => pasteLayers({ ...quay, id: 'lens' }, excerpt)).toThrow('placed in itself')
  })
})
