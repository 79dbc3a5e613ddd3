import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { changeLayer, findLayer, type Layer, type Loop } from '../document'
import { layerKind } from '../layers'
import { anyMotion } from '../testing/arbitrary'
import { quay } from '../testing/quay'
import { newLayer } from './edit'
import { editOf, repeatEdit } from './repeat-edit'

const layers = [
  newLayer('ellipse', 'Lamp', { x: 100, y: 50, fill: '#f2b54a', width: 40 }, 'lamp'),
  newLayer('ellipse', 'Buoy', { x: 300, y: 90, fill: '#79c9b4', width: 60 }, 'buoy'),
  newLayer('text', 'Sign', { x: 20, y: 20 }, 'sign'),
]
const loop: Loop = { ...quay, layers }
const edited = (change: (layer: Layer) => Layer) => changeLayer(loop, 'lamp', change)
const repeated = (after: Loop, ...ids: string[]) => {
  const edit = editOf(loop, after)
  if (!edit) throw new Error('nothing was edited')
  return repeatEdit(after, ids, edit)
}

describe('an edit', () => {
  it('moves others by as much, and sets all else to the same, as far as they have it', () => {
    const after = edited((layer) => ({ ...layer, values: { ...layer.values, x: 130, fill: '#ef7f5f', width: 80 } }))
    const made = repeated(after, 'buoy', 'sign')
    expect(findLayer(made, 'buoy')?.values).toMatchObject({ x: 330, y: 90, fill: '#ef7f5f', width: 80 })
    expect(findLayer(made, 'sign')?.values).toMatchObject({ x: 50, y: 20, fill: '#ef7f5f' })
    expect(findLayer(made, 'sign')?.values).not.toHaveProperty('width')
    // The original stays as it is.
    expect(findLayer(made, 'lamp')).toBe(findLayer(after, 'lamp'))
  })
  it('hides and locks', () => {
    const made = repeated(
      edited((layer) => ({ ...layer, hidden: true })),
      'buoy',
    )
    expect(findLayer(made, 'buoy')).toMatchObject({ hidden: true, locked: false })
  })
  it('gives motions from where others stand, which come home as the first does, and takes them away', () => {
    const y = layerKind('ellipse').properties.y
    if (!y) throw new Error('an ellipse has a place')
    fc.assert(
      fc.property(anyMotion(y, true), (motion) => {
        const after = edited((layer) => ({ ...layer, motions: { y: motion } }))
        const made = repeated(after, 'buoy')
        const own = findLayer(made, 'buoy')?.motions.y
        expect(own?.keys.map(({ value }) => Number(value) - 40)).toEqual(
          motion.keys.map(({ value }) => expect.closeTo(Number(value), 6)),
        )
        const [first, second] = checkMotions(made).map(({ home }) => home)
        expect(second).toBe(first)
        const without = editOf(
          made,
          changeLayer(made, 'lamp', (layer) => ({ ...layer, motions: {} })),
        )
        expect(without && findLayer(repeatEdit(made, ['buoy'], without), 'buoy')?.motions).toEqual({})
      }),
      { numRuns: 60 },
    )
  })
  it('of no layer is none: a new one, one that is gone, another frame', () => {
    expect(editOf(loop, loop)).toBeNull()
    expect(editOf(loop, { ...loop, layers: [...layers, newLayer('ellipse', 'New')] })).toBeNull()
    expect(editOf(loop, { ...loop, layers: layers.slice(1) })).toBeNull()
    expect(editOf(loop, { ...loop, width: 9 })).toBeNull()
    expect(
      editOf(
        loop,
        edited((layer) => ({ ...layer })),
      ),
    ).toBeNull()
  })
})
