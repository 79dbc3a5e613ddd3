import { defineShape, sizeProperty } from '../kind'

/** A straight line about its middle; it lies level where its rotation is 0. */
export const line = defineShape({
  kind: 'line',
  label: 'Line',
  shortcut: 'l',
  open: true,
  properties: { length: sizeProperty('length', 200) },
  outline: ({ length }) => [
    ['M', -length / 2, 0],
    ['L', length / 2, 0],
  ],
  bounds: ({ length }) => ({ x: -length / 2, y: 0, width: length, height: 0 }),
  fromDrag: (from, to) => ({
    x: (from.x + to.x) / 2,
    y: (from.y + to.y) / 2,
    length: Math.max(1, Math.hypot(to.x - from.x, to.y - from.y)),
    rotation: Number(((Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI).toFixed(2)),
  }),
  fold: () => 2,
})
