import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { findLayer, formatLoop, type Layer, type Loop, parseLoop } from '../document'
import { evaluate, evaluateUnreduced } from '../evaluate'
import { beltLinks, layerKind, linksOf } from '../layers'
import { isClosed, pathLength, pathOf } from '../path'
import { quay } from '../testing/quay'
import { beltAround, chainAround, copiesAlong, makeCopies, newLayer, stageBounds } from '.'

const pier: Loop = { ...quay, width: 480, height: 240, length: 40 }
const dot = newLayer('ellipse', 'Dot', { x: 240, y: 120, width: 20, height: 20 }, 'dot')
const drums = [
  newLayer('ellipse', 'Left drum', { x: 120, y: 120, width: 100, height: 100 }, 'left'),
  newLayer('ellipse', 'Right drum', { x: 360, y: 120, width: 60, height: 60 }, 'right'),
]
const bobbing: Layer = {
  ...dot,
  motions: {
    y: {
      keys: [
        { at: 0, value: 120, ease: 'ease-in-out' },
        { at: 0.5, value: 60, ease: 'ease-in-out' },
      ],
      after: 'repeat',
      period: { cycles: 1 },
      phase: 0,
    },
  },
}
const copied = (values = {}, layers: readonly Layer[] = [bobbing]) => {
  const made = makeCopies({ ...pier, layers }, ['dot'], 0, values)
  if (!made) throw new Error('a dot can be copied')
  return made
}
const nodesOf = (loop: Loop, frame: number) => {
  const [node] = evaluate(loop, frame).nodes
  return node?.type === 'group' ? node.children : []
}

describe('copies', () => {
  it('stand about the middle of what is copied, and are a file like any other', () => {
    const { loop, id } = copied({ count: 3, span: 200 })
    expect(stageBounds(loop, [id], 0)).toEqual({ x: 130, y: 110, width: 220, height: 20 })
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    expect(makeCopies(pier, ['nobody'], 0)).toBeNull()
  })
  it('staggered show what the first shows, each so much later', () => {
    const { loop } = copied({ stagger: 0.1, count: 5 })
    const height = (frame: number, copy: number) => {
      const node = nodesOf(loop, frame)[copy]
      return node?.type === 'group' ? node.children[0]?.transform[5] : null
    }
    for (let copy = 0; copy < 5; copy++)
      for (let n = 0; n < 40; n += 7) expect(height(n, copy)).toBeCloseTo(height(n + 4 * copy, 0) as number, 9)
  })
  it('are staggered from the centre, or in a seeded order', () => {
    const shiftsOf = (values: object) => {
      const { loop, id } = copied({ count: 5, stagger: 0.1, ...values })
      const layer = findLayer(loop, id) as Layer
      return (
        nodesOf(loop, 0)
          .map((node) => (node.type === 'group' ? node.children[0]?.transform[5] : 0))
          .join() && layer.values
      )
    }
    expect(shiftsOf({ staggerBy: 'centre' })).toMatchObject({ staggerBy: 'centre' })
    const heights = (seed: number) =>
      nodesOf(copied({ count: 9, stagger: 0.1, staggerBy: 'shuffle', seed }).loop, 0).map((node) =>
        node.type === 'group' ? (node.children[0]?.transform[5] ?? 0).toFixed(3) : '',
      )
    expect(heights(1)).toEqual(heights(1))
    expect(new Set(heights(1))).toEqual(new Set(heights(2)))
    expect(heights(1)).not.toEqual(heights(2))
    const centre = nodesOf(copied({ count: 5, stagger: 0.1, staggerBy: 'centre' }).loop, 0).map((node) =>
      node.type === 'group' ? node.children[0]?.transform[5] : 0,
    )
    expect(centre[0]).toBeCloseTo(centre[4] as number)
    expect(centre[1]).toBeCloseTo(centre[3] as number)
    expect(centre[2]).not.toBeCloseTo(centre[3] as number)
  })
  it('change from first to last by what is asked', () => {
    const changes = [
      { property: 'opacity', to: -0.8 },
      { property: 'fill', to: '#000000' },
    ]
    const nodes = nodesOf(copied({ count: 5, changes }).loop, 0).flatMap((node) =>
      node.type === 'group' ? node.children : [],
    )
    expect(nodes.map(({ opacity }) => Number(opacity.toFixed(3)))).toEqual([1, 0.8, 0.6, 0.4, 0.2])
    const last = nodes[4]
    expect(last?.type === 'shape' && last.fill?.colour).toBe('#000000')
  })
  it('come home by one pitch, one place of a ring, or one link; staggered ones by a whole round', () => {
    const shifted = (values: object, travel: number) => {
      const { loop, id } = copied(values, [dot])
      const layers = loop.layers.map((layer) =>
        layer.id === id
          ? {
              ...layer,
              motions: {
                shift: {
                  keys: [
                    { at: 0, value: 0, ease: 'linear' },
                    { at: 1, value: travel, ease: 'linear' },
                  ],
                  after: 'accumulate' as const,
                  period: { cycles: 1 },
                  phase: 0,
                },
              },
            }
          : layer,
      )
      const changed = { ...loop, layers }
      const [report] = checkMotions(changed)
      return {
        home: report?.home,
        same: JSON.stringify(evaluateUnreduced(changed, 0)) === JSON.stringify(evaluateUnreduced(changed, 40)),
      }
    }
    for (const arrangement of ['row', 'ring', 'grid', 'path']) {
      // A row comes home by one place only where nobody sees its ends.
      const filled = { count: 41, spacing: arrangement === 'row' ? 'pitch' : 'count', pitch: 20, columns: 41 }
      expect(shifted({ arrangement, ...filled }, 1)).toEqual({ home: true, same: true })
      expect(shifted({ arrangement }, 0.5)).toMatchObject({ home: false })
    }
    expect(shifted({ arrangement: 'ring', count: 6, stagger: 0.1 }, 1).home).toBe(false)
    expect(shifted({ arrangement: 'ring', count: 6, stagger: 0.1 }, 6).home).toBe(true)
    expect(shifted({ arrangement: 'row', stagger: 0.1 }, 1).home).toBe(false)
  })
  it('in a ring make it as symmetric as they are many', () => {
    const { equivalence } = layerKind('copies').properties.rotation as { equivalence: (values: object) => number }
    const ring = { ...newLayer('copies', 'Ring', { arrangement: 'ring', count: 8, spacing: 'count' }).values }
    expect(equivalence(ring)).toBe(45)
    expect(equivalence({ ...ring, stagger: 0.1 })).toBe(360)
    expect(equivalence({ ...ring, turned: 'upright' })).toBe(360)
  })
})

describe('belts and chains', () => {
  const stage = { ...pier, layers: drums }
  it('round two drums close, with a whole number of links at the fitted pitch', () => {
    for (const around of [beltAround, chainAround]) {
      const made = around(stage, ['left', 'right'], 0)
      const layer = made && findLayer(made.loop, made.id)
      if (!layer) throw new Error('two drums can be run round')
      const path = pathOf(String(layer.values.path))
      expect(isClosed(path)).toBe(true)
      const { count, pitch } = layer.kind === 'belt' ? beltLinks(layer.values) : linksOf(layer.values)
      expect(count * pitch).toBeCloseTo(pathLength(path), 3)
      expect(checkMotions(made.loop)[0]).toMatchObject({ home: true, goesOn: true, evenness: expect.closeTo(1, 6) })
      expect(evaluateUnreduced(made.loop, 40)).toEqual(evaluateUnreduced(made.loop, 0))
    }
  })
  it('round what is not round run round its hull', () => {
    const box = newLayer('rectangle', 'Box', { x: 100, y: 100, width: 80, height: 40, radius: 0 }, 'box')
    const made = beltAround({ ...pier, layers: [box] }, ['box'], 0)
    const layer = made && findLayer(made.loop, made.id)
    expect(pathLength(pathOf(String(layer?.values.path))) / 240).toBeCloseTo(1, 1)
    expect(beltAround(pier, [], 0)).toBeNull()
  })
  it('of any mark length keep the marks even: the dash is the pitch', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: 5, max: 90, noNaN: true }),
        (markLength, pitch) => {
          const belt = newLayer('belt', 'Belt', { markLength, pitch })
          const [node] = evaluate({ ...pier, layers: [belt] }, 0).nodes
          const marks = node?.type === 'group' ? node.children[1] : undefined
          const dash = marks?.type === 'shape' ? (marks.stroke?.dash ?? []) : []
          expect(dash.reduce((a, b) => a + b, 0)).toBeCloseTo(beltLinks(belt.values).pitch, 6)
        },
      ),
    )
  })
})

describe('copies along a figure', () => {
  it('stand on its outline, evenly by true length', () => {
    const figure = newLayer('ellipse', 'Figure', { x: 200, y: 100, width: 160, height: 160 }, 'figure')
    const made = copiesAlong({ ...pier, layers: [dot, figure] }, ['dot', 'figure'], 0)
    if (!made) throw new Error('a figure has an outline')
    const group = evaluate(made.loop, 0).nodes.find((node) => node.layerId === made.id)
    const places =
      group?.type === 'group' ? group.children.map(({ transform }) => Math.hypot(transform[4], transform[5])) : []
    expect(places).toHaveLength(12)
    for (const away of places) expect(away).toBeCloseTo(80, 1)
    expect(copiesAlong({ ...pier, layers: [dot] }, ['dot'], 0)).toBeNull()
  })
})
