import { describe, expect, it } from 'vitest'
import { newLayer } from '../edit'
import { evaluate } from '../evaluate'
import { quay } from '../testing/quay'
import { formatLoop, type Layer, type Loop, parseLoop, withColours } from '.'

const stops = [
  { at: 0.25, colour: 'var(--lamp)' },
  { at: 0.75, colour: '#0b2230' },
]
const pier: Layer = {
  ...newLayer(
    'rectangle',
    'Pier',
    { fill: 'var(--sea)', fillKind: 'linear', fillTo: '#ffffff', fillStops: stops },
    'pier',
  ),
  events: { fill: { value: 'var(--lamp)', frames: 2, at: [0.5], cycles: 1 } },
}
const loop: Loop = {
  ...quay,
  background: 'var(--sea)',
  palette: [
    { name: 'sea', colour: '#123a4c' },
    { name: 'lamp', colour: '#f2b54a' },
  ],
  layers: [pier],
}
const stopsOf = (each: Loop) => {
  const [node] = evaluate(each, 0).nodes
  return node?.type === 'shape' ? node.fill?.gradient?.stops.map(({ colour }) => colour) : undefined
}

describe('named colours', () => {
  it('stand wherever a colour does: ground, fill, the colours of a gradient, events', () => {
    expect(evaluate(loop, 0).background).toBe('#123a4c')
    expect(stopsOf(loop)).toEqual(['#123a4c', '#f2b54a', '#0b2230', '#ffffff'])
    expect(withColours(loop).layers[0]?.events?.fill?.value).toBe('#f2b54a')
  })
  it('change all that use them, and are clear where the palette has them no more', () => {
    const green = { ...loop, palette: [{ name: 'lamp', colour: '#79c9b4' }] }
    expect(stopsOf(green)).toEqual(['transparent', '#79c9b4', '#0b2230', '#ffffff'])
  })
  it('leave the document as it is: the names are kept in files, with the colours of a gradient', () => {
    const kept = parseLoop(formatLoop(loop))
    expect(kept.layers[0]?.values.fillStops).toEqual(stops)
    expect(kept).toEqual(loop)
  })
  it('refuse what is no colour, and say where it stands', () => {
    const broken = JSON.parse(formatLoop(loop))
    broken.layers[0].values.fillStops[1].colour = 'lampish'
    expect(() => parseLoop(JSON.stringify(broken))).toThrow(/fillStops\[1\]\.colour/)
    broken.layers[0].values.fillStops[1] = { at: 2, colour: '#fff' }
    expect(() => parseLoop(JSON.stringify(broken))).toThrow(/fillStops\[1\]\.at/)
  })
})
