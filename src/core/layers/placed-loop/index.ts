import { EFFECTS } from '../effects'
import { centredBox, type LayerKind, sizeProperty, timeProperty } from '../kind'
import { PLACEMENT } from '../placement'

/** Another loop of the document, placed as a layer. Its time is a property: it runs by moving it. */
export const placedLoop: LayerKind = {
  kind: 'loop',
  icon: 'film',
  label: 'Placed loop',
  shortcut: null,
  properties: {
    loop: { type: 'reference', to: 'loop', label: 'loop', section: 'shape', default: '' },
    time: timeProperty,
    width: sizeProperty('width', 240),
    height: sizeProperty('height', 240),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: false,
  running: 'time',
  draw: (values, inside) => {
    const picture = inside.loop(String(values.loop), Number(values.time))
    if (!picture) return { type: 'group', children: [] }
    const width = Number(values.width)
    const height = Number(values.height)
    const clip = centredBox(width, height)
    const { background } = picture
    const fit = [width / picture.width, 0, 0, height / picture.height, -width / 2, -height / 2] as const
    const inner = { layerId: '', opacity: 1, blend: 'normal' } as const
    return {
      type: 'group',
      clip,
      children: [
        {
          ...inner,
          type: 'group',
          transform: fit,
          children: [
            ...(background ? [{ ...inner, ...ground(picture.width, picture.height, background) }] : []),
            ...picture.nodes,
          ],
        },
      ],
    }
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: () => ({}),
}

const ground = (width: number, height: number, colour: string) =>
  ({
    type: 'shape',
    transform: [1, 0, 0, 1, 0, 0],
    stroke: null,
    fill: { colour, path: [['M', 0, 0], ['L', width, 0], ['L', width, height], ['L', 0, height], ['Z']] },
  }) as const
