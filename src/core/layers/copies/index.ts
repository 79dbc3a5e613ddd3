import { EFFECTS } from '../effects'
import type { LayerKind } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'
import { copyCount, endPlaces, isAlike, isFigure, linksOf, placesOf, roundCount, rowOf } from './places'
import { COPIES, type CopiesValues, MAX_COPIES } from './properties'

/** A ring of copies that are all alike looks the same one place on, as long as it turns about its own middle. */
const turnEquivalence = (values: Values): number => {
  const { arrangement, turned, pivotX, pivotY, scaleX, scaleY } = values
  const even = pivotX === 0 && pivotY === 0 && scaleX === scaleY
  return arrangement === 'ring' && turned === 'turned' && even && isAlike(values) ? 360 / roundCount(values) : 360
}

/** One place on where all copies are alike, a whole round where those that leave come in again; else never. */
const shiftEquivalence = (values: Values): number | undefined =>
  isAlike(values) ? 1 : isFigure(values) ? roundCount(values) : undefined

/** Copies of its children in a row, a ring, a grid or along a path. */
export const copies: LayerKind = {
  kind: 'copies',
  icon: 'rows',
  label: 'Copies',
  shortcut: null,
  properties: {
    ...COPIES,
    shift: { ...COPIES.shift, equivalence: shiftEquivalence },
    ...PLACEMENT,
    rotation: { ...PLACEMENT.rotation, equivalence: turnEquivalence },
    ...EFFECTS,
  },
  holdsLayers: true,
  repeats: {
    along: 'shift',
    count: copyCount,
    most: MAX_COPIES,
    staggered: ({ stagger }) => stagger !== 0,
    backwards: (values) => ({ ...values, stagger: -Number(values.stagger) + 0 }),
    ends: endPlaces,
    row: rowOf,
  },
  note: {
    section: 'copies',
    text: (values) => {
      if (!isFigure(values)) return null
      const { count, pitch } = linksOf(values)
      const home = values.stagger ? '' : ': home after one of them'
      return `${count} places, ${Number(pitch.toFixed(3))} px apart${home}`
    },
  },
  draw: (values, inside) => {
    const { changes, stagger } = values as unknown as CopiesValues
    const alike = stagger === 0 && changes.length === 0 ? inside.layers() : null
    return {
      type: 'group',
      children: placesOf(values).map(({ transform, shift, share }) => ({
        type: 'group',
        layerId: '',
        transform,
        opacity: 1,
        blend: 'normal',
        children: alike ?? inside.layers(shift, changes, share),
      })),
    }
  },
  outline: null,
  bounds: () => null,
  placesInside: (values) => placesOf(values).map(({ transform }) => transform),
  fromDrag: () => ({}),
}

export { linksOf }
