import { describe, expect, it } from 'vitest'
import type { Layer, Loop } from '../document'
import type { StillPicture } from '../media'
import { quay } from '../testing/quay'
import { newLayer } from './edit'
import { exchangeMedium } from './media'

const still = (width: number, height: number, id = 'pier'): StillPicture => ({
  kind: 'picture',
  id,
  name: 'Pier',
  width,
  height,
  file: { id: 'a'.repeat(64), type: 'image/png', bytes: width },
})
const shown = (picture: string, width: number, height: number): Layer =>
  newLayer('picture', `Shows ${picture}`, { picture, width, height }, `layer-${picture}-${width}`)

describe('a medium that is exchanged', () => {
  const group = { ...newLayer('group', 'Quay', {}, 'group'), layers: [shown('pier', 60, 40)] }
  const loop: Loop = {
    ...quay,
    media: [still(120, 80), still(50, 50, 'buoy')],
    layers: [shown('pier', 120, 80), group, shown('buoy', 50, 50)],
  }
  const sizes = ({ layers }: Pick<Loop, 'layers'>): unknown[] =>
    layers.flatMap(({ values, layers: held }) => [
      [values.width, values.height],
      ...(held ? sizes({ layers: held }) : []),
    ])

  it('takes the layers that show it along, so that its pixels keep their scale, and leaves the others', () => {
    const changed = exchangeMedium(loop, still(90, 60))
    expect(changed.media.map((each) => (each as StillPicture).width)).toEqual([90, 50])
    expect(sizes(changed)).toEqual([
      [90, 60],
      [undefined, undefined],
      [45, 30],
      [50, 50],
    ])
    expect(changed.layers[2]).toEqual(loop.layers[2])
    // The original stays as it was.
    expect(sizes(loop)[0]).toEqual([120, 80])
  })
  it('is nothing to a loop that has none of its id', () => {
    expect(exchangeMedium(loop, still(1, 1, 'other'))).toBe(loop)
  })
})
