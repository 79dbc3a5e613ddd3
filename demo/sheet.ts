import { fraction } from '../src/core/clock'
import type { Loop } from '../src/core/document'
import { placeLoop } from '../src/core/edit'
import { beaconLoader, boardingBuoys, lensSweep, tideGauge, winchChain } from './loaders'
import { CREAM, demoLoop, layer, SEA_INK, withPlainIds } from './parts'
import { buntingStripes } from './textures'

const CELL = { width: 280, height: 210 }

/** Six loaders of different periods on one sheet: each runs whole cycles at its own pace in twelve seconds. */
export function pierSheet(): Loop {
  const sheet = demoLoop('pier-sheet', 'Pier sheet', {
    width: 960,
    height: 640,
    background: SEA_INK,
    rate: fraction(25),
    length: 300,
  })
  const loops = [beaconLoader(), boardingBuoys(), lensSweep(), tideGauge(), buntingStripes(), winchChain()]
  const placed = loops.reduce((current, inner) => placeLoop(current, inner).loop, sheet)
  const layers = placed.layers.map((each, i) => {
    const { width, height } = each.values
    const scale = Math.min(CELL.width / Number(width), CELL.height / Number(height))
    return {
      ...each,
      values: {
        ...each.values,
        x: 170 + 310 * (i % 3),
        y: 150 + 310 * Math.floor(i / 3),
        width: Number(width) * scale,
        height: Number(height) * scale,
      },
    }
  })
  const names = layers.map((each, i) =>
    layer('text', `sheet-name-${i}`, `Name of ${each.name}`, {
      text: each.name,
      face: 'regular',
      size: 20,
      x: Number(each.values.x),
      y: Number(each.values.y) + 132,
      fill: CREAM,
    }),
  )
  return withPlainIds({ ...placed, layers: [...layers, ...names] })
}
