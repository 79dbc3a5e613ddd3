import { polygonPath } from '../../path'
import { centredBox, defineShape, dragBox, sizeProperty } from '../kind'

export const polygon = defineShape({
  kind: 'polygon',
  label: 'Polygon or star',
  shortcut: 'p',
  properties: {
    radius: sizeProperty('radius', 80),
    corners: {
      type: 'number',
      label: 'corners',
      section: 'shape',
      unit: '',
      default: 6,
      min: 3,
      max: 120,
      step: 1,
      whole: true,
    },
    inner: {
      type: 'number',
      label: 'inner radius',
      section: 'shape',
      unit: 'share',
      default: 1,
      min: 0.01,
      max: 1,
      step: 0.05,
      moves: true,
    },
  },
  outline: ({ radius, corners, inner }) => {
    const star = inner < 1
    const count = star ? corners * 2 : corners
    return polygonPath(
      Array.from({ length: count }, (_, i) => {
        const angle = (i / count) * 2 * Math.PI - Math.PI / 2
        const r = star && i % 2 === 1 ? radius * inner : radius
        return { x: r * Math.cos(angle), y: r * Math.sin(angle) }
      }),
    )
  },
  bounds: ({ radius }) => centredBox(2 * radius, 2 * radius),
  fromDrag: (from, to) => {
    const { x, y, width, height } = dragBox(from, to)
    return { x, y, radius: Math.max(width, height) / 2 }
  },
  fold: ({ corners }) => corners,
})
