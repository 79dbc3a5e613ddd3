import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { createElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { checkPath } from '@/cli/check'
import { render } from '@/cli/render'
import { unzipProject, zipProject } from '@/codecs'
import { svgOf } from '@/codecs/write'
import { checkMotions, motionRemedies, showsTheSame, withRemedy } from '@/core/closing'
import { changeLayer, findLayer, formatLoop, type Layer, type Loop, LoopFileError, parseLoop } from '@/core/document'
import { movingNames, newEvent, newLayer, newLoop, newMotion, newTremble, setMotion, setValue } from '@/core/edit'
import { evaluate, evaluateUnreduced, valuesAt } from '@/core/evaluate'
import { LAYER_KINDS, layerKind, type Property, propertyType } from '@/core/layers'
import { inexpressible } from '@/core/output'
import { formatGap, judgeLoop } from '@/core/seam'
import { anyLoop } from '@/core/testing/arbitrary'
import { renderInNode } from '@/render/node'
import { PropertyField } from '@/studio/compose/properties/property-field'
import { ValueField } from '@/studio/compose/properties/value-field'
import { KindIcon } from '@/studio/compose/tools/kind-icon'

/**
 * A kind of layer, a type of property and a type of display node that exist in this file alone: sea marks, a few dots about a
 * point that is keyed on the stage. All that the product does with layers it does with them, by the tables that they stand in.
 */

vi.mock('@/core/layers/types/all', async (original) => {
  const { PROPERTY_TYPES } = await original<typeof import('@/core/layers/types/all')>()
  const { coordinate } = await import('@/core/schemas')
  const z = await import('zod/mini')
  const pair = z.tuple([coordinate, coordinate])
  const point = {
    type: 'point',
    channels: ['x', 'y'],
    schema: () => pair,
    mixing: {
      schema: pair,
      mix: (a: number[], b: number[], t: number) => a.map((x, i) => x + ((b[i] as number) - x) * t),
      distance: (a: number[], b: number[]) => Math.hypot(...a.map((x, i) => (b[i] as number) - x)),
      threshold: () => 0.05,
      unit: () => 'px',
      distanceText: (_: unknown, distance: number) => `${distance.toFixed(1)} px`,
      accumulates: true,
      start: (_: unknown, [x = 0, y = 0]: number[]) => ({ to: [x + 40, y], carriesOn: false }),
      flash: () => [0, 0],
      tremble: () => 4,
      shake: ([x = 0, y = 0]: number[], by: number) => [x + by, y],
      towards: (a: number[], b: number[], share: number) => a.map((x, i) => x + share * (b[i] as number)),
      spread: () => [10, 0],
      is: (value: unknown) => Array.isArray(value) && value.length === 2 && typeof value[0] === 'number',
    },
    points: {
      of: ([x = 0, y = 0]: number[]) => [{ x, y }],
      moved: (_: unknown, __: number, to: { x: number; y: number }) => [to.x, to.y],
    },
    examples: () => [
      [0, 0],
      [30, -20],
    ],
  }
  return { PROPERTY_TYPES: [...PROPERTY_TYPES, point] }
})

vi.mock('@/core/layers/kinds', async (original) => {
  const { LAYER_KINDS } = await original<typeof import('@/core/layers/kinds')>()
  const { PLACEMENT } = await import('@/core/layers/placement')
  const marks = {
    kind: 'marks',
    label: 'Sea marks',
    shortcut: 'k',
    holdsLayers: false,
    properties: {
      aim: { type: 'point', label: 'aim', section: 'buoys', default: [0, 0], moves: true },
      ...PLACEMENT,
    },
    draw: ({ aim }: { aim: readonly [number, number] }) => ({
      type: 'dots',
      radius: 6,
      colour: '#f2b54a',
      places: [aim, [aim[0], aim[1] + 20]],
    }),
    outline: () => [
      ['M', -6, 0],
      ['L', 6, 0],
    ],
    bounds: () => ({ x: -6, y: -6, width: 12, height: 12 }),
    fromDrag: (from: { x: number; y: number }) => ({ x: from.x, y: from.y }),
  }
  return { LAYER_KINDS: [...LAYER_KINDS, marks] }
})

vi.mock('@/core/display/types/all', async (original) => {
  const { NODE_TYPES } = await original<typeof import('@/core/display/types/all')>()
  const { transformPoint } = await import('@/core/path')
  type Dots = { places: readonly [number, number][]; radius: number; colour: string }
  const placed = ({ places }: Dots, matrix: never) => places.map(([x, y]) => transformPoint(matrix, { x, y }))
  const dots = {
    type: 'dots',
    parts: () => 1,
    look: (node: Dots, matrix: never) => [node.colour, node.radius, placed(node, matrix)],
    box: (node: Dots, matrix: never) => {
      const [{ x, y }] = placed(node, matrix) as [{ x: number; y: number }]
      return { x: x - 6, y: y - 6, width: 12, height: 32 }
    },
    mark: (node: Dots, matrix: never) => placed(node, matrix),
    vectors: [],
  }
  return { NODE_TYPES: [...NODE_TYPES, dots] }
})

vi.mock('@/render/painters/all', async (original) => {
  const { PAINTERS } = await original<typeof import('@/render/painters/all')>()
  const dots = {
    type: 'dots',
    paint: (
      _: unknown,
      context: OffscreenCanvasRenderingContext2D,
      node: { places: [number, number][]; radius: number; colour: string },
      transform: [number, number, number, number, number, number],
    ) => {
      context.setTransform(...transform)
      context.fillStyle = node.colour
      for (const [x, y] of node.places) context.fillRect(x - node.radius, y - node.radius, 12, 12)
    },
    hits: () => true,
  }
  return { PAINTERS: [...PAINTERS, dots] }
})

const clock = { rate: { num: 20, den: 1 }, length: 20 }
const marks = (values: object = {}): Layer => newLayer('marks', 'Sea marks', { x: 60, y: 60, ...values }, 'marks')
const harbour = (layer: Layer): Loop => ({
  ...newLoop({ name: 'Harbour', kind: 'loader', width: 120, height: 120, background: '#0b2230', ...clock }, 'harbour'),
  layers: [layer],
})
const aim = layerKind('marks').properties.aim as Property
/** There and back, as a motion begins. */
const swaying = harbour(setMotion(marks(), 'aim', newMotion(aim, [0, 0] as never)))
const aimAt = (loop: Loop, frame: number) => valuesAt(loop.layers[0] as Layer, frame, loop.length).aim
/** The middle of what is lit in a frame. */
function litAt(loop: Loop, frame: number): { x: number; y: number } {
  const { data, width } = renderInNode(evaluate(loop, frame), 120, 120)
  let x = 0
  let y = 0
  let count = 0
  for (let i = 0; i < data.length; i += 4)
    if ((data[i] as number) > 200) {
      x += (i / 4) % width
      y += Math.floor(i / 4 / width)
      count++
    }
  return { x: x / count, y: y / count }
}

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-tables-'))
})
afterAll(() => rm(folder, { recursive: true }))

describe('a kind, a type of property and a type of node that stand in the tables alone', () => {
  it('are saved and read again, and what is not sound is refused in words', async () => {
    expect(parseLoop(formatLoop(swaying))).toEqual(swaying)
    expect(await unzipProject(await zipProject(swaying))).toEqual(swaying)
    const broken = formatLoop(swaying).replace(/"value": \[\s*40,\s*0\s*\]/, '"value": [ 40 ]')
    expect(broken).not.toBe(formatLoop(swaying))
    expect(() => parseLoop(broken)).toThrow(LoopFileError)
  })

  it('are drawn where they are aimed', () => {
    expect(litAt(swaying, 0)).toEqual({ x: expect.closeTo(59.5, 0), y: expect.closeTo(69.5, 0) })
    expect(litAt(swaying, 10).x).toBeCloseTo(99.5, 0)
  })

  it('are keyed by a drag on the stage: a point of the value is moved at the playhead', () => {
    const { points } = propertyType(aim)
    const value = aimAt(swaying, 5)
    expect(points?.of(value as never)).toEqual([{ x: expect.closeTo(20, 1), y: 0 }])
    const dragged = points?.moved(value as never, 0, { x: 12, y: -30 }) as never
    const keyed = changeLayer(swaying, 'marks', (layer) => setValue(layer, 'aim', dragged, 5, swaying.length))
    expect(findLayer(keyed, 'marks')?.motions.aim?.keys.map(({ at, value }) => [at, value])).toEqual([
      [0, [0, 0]],
      [0.25, [12, -30]],
      [0.5, [40, 0]],
    ])
    expect(aimAt(keyed, 5)).toEqual([12, -30])
  })

  it('tremble and have events', () => {
    const irregular = {
      ...marks(),
      trembles: { aim: newTremble(aim) },
      events: { aim: newEvent(aim, [9, 9] as never, 20) },
    }
    const loop = harbour({ ...irregular, values: { ...irregular.values, aim: [9, 9] } })
    const places = Array.from({ length: 20 }, (_, n) => aimAt(loop, n) as readonly number[])
    expect(new Set(places.map(([x]) => x)).size).toBeGreaterThan(5)
    expect(places.filter(([x, y]) => x === 0 && y === 0)).toHaveLength(3)
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    // A point that is set while it trembles is then where it was set.
    const set = changeLayer(loop, 'marks', (layer) => setValue(layer, 'aim', [7, -3], 4, 20))
    const [x, y] = aimAt(set, 4) as [number, number]
    expect([x, y]).toEqual([expect.closeTo(7, 6), expect.closeTo(-3, 6)])
  })

  it('are listed: by the tools, the panel, the fields of their keys, and among what moves', () => {
    expect(LAYER_KINDS.map(({ label }) => label)).toContain('Sea marks')
    expect(renderToStaticMarkup(createElement(KindIcon, { kind: layerKind('marks') }))).toContain('<path')
    const common = { property: aim, clock, onChange: () => {} }
    const panel = renderToStaticMarkup(
      createElement(PropertyField, { ...common, layerId: 'marks', value: [12, -30] as never }),
    )
    expect(panel).toContain('aim, x')
    expect(panel).toContain('value="-30"')
    const key = renderToStaticMarkup(
      createElement(ValueField, { ...common, label: 'Value of key 1', value: [7, 8] as never }),
    )
    expect(key).toContain('Value of key 1, y')
    expect(movingNames(swaying.layers[0] as Layer)).toEqual(['aim'])
  })

  it('are judged: what does not come home is named with its gap, and has a remedy', () => {
    const [home] = checkMotions(swaying)
    expect(home).toMatchObject({ name: 'aim', home: true })
    const keys = [0, 1].map((at) => ({ at, value: [30 * at, 40 * at], ease: 'linear' }))
    const away = changeLayer(swaying, 'marks', (layer) =>
      setMotion(layer, 'aim', { keys, after: 'accumulate', period: { cycles: 1 }, phase: 0 }),
    )
    const [report] = checkMotions(away)
    expect([report?.home, report && formatGap(report)]).toEqual([false, '50.0 px'])
    expect(judgeLoop(away, checkMotions(away), null)).toMatchObject({
      verdict: 'jumps',
      sentence: expect.stringContaining('Sea marks, aim: ends 50.0 px away'),
    })
    expect(aimAt(away, 30)).toEqual([45, 60])
    expect(evaluateUnreduced(away, 30).nodes[0]).toMatchObject({
      places: [
        [45, 60],
        [45, 80],
      ],
    })
    const [remedy] = motionRemedies(away, 'marks', 'aim')
    if (remedy) expect(checkMotions(withRemedy(away, 'marks', 'aim', remedy))[0]?.home).toBe(true)
    expect(remedy).toBeDefined()
    expect(showsTheSame(evaluate(away, 0), evaluate(away, 5))).toBe(false)
    expect(showsTheSame(evaluate(away, 3), evaluate(away, 23))).toBe(true)
  })

  it('are exported and checked on the command line; a vector file names what it leaves out', async () => {
    const source = join(folder, 'harbour.cyclon.json')
    await writeFile(source, formatLoop(swaying))
    const out = join(folder, 'harbour.gif')
    const plain = { scale: 1, repeats: 1, frames: null, background: 'kept' as const, quality: null, cores: 1 }
    expect((await render(source, { ...plain, out })).join()).toContain('proven: closes')
    expect((await readFile(out)).length).toBeGreaterThan(500)
    for (const path of [source, out]) {
      const [checked] = await checkPath(path, 30)
      expect(checked?.entry).toMatchObject({ seam: { verdict: 'closes' } })
    }
    expect(inexpressible(swaying, 'svg')).toEqual([{ layer: 'Sea marks', what: expect.stringContaining('left out') }])
    expect(svgOf(swaying)).toContain('<svg')
  })

  it('come in documents that are made at random, and are functions on the ring like everything else', () => {
    let met = 0
    fc.assert(
      fc.property(anyLoop, fc.integer({ min: -300, max: 300 }), (loop, n) => {
        if (JSON.stringify(loop.layers).includes('"kind":"marks"')) met++
        expect(evaluate(loop, n)).toEqual(evaluate(loop, n + loop.length))
        expect(parseLoop(formatLoop(loop))).toEqual(loop)
      }),
      { numRuns: 200 },
    )
    expect(met).toBeGreaterThan(10)
  })
})
