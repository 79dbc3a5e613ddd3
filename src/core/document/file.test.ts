import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newLayer, newLoop } from '../edit'
import { anyLoop } from '../testing/arbitrary'
import { formatLoop, type Loop, LoopFileError, loopJsonSchema, parseLoop, readStates } from '.'

const beacon: Loop = {
  ...newLoop({
    name: 'Beacon',
    kind: 'loader',
    width: 320,
    height: 240,
    background: '#0b2230',
    rate: { num: 30000, den: 1001 },
    length: 48,
  }),
  layers: [
    {
      ...newLayer('ellipse', 'Arc'),
      motions: {
        rotation: {
          keys: [{ at: 0, value: 1.1, ease: 'linear' }],
          after: 'repeat',
          period: { cycles: 2 },
          phase: 0.25,
        },
      },
    },
  ],
}

const refusal = (text: string): LoopFileError => {
  try {
    parseLoop(text)
  } catch (error) {
    if (error instanceof LoopFileError) return error
    throw error
  }
  throw new Error('the file was not refused')
}

type Json = Record<string, unknown>
type Step = string | number
const pathText = (path: readonly Step[]) =>
  path.reduce<string>(
    (text, part) => (typeof part === 'number' ? `${text}[${part}]` : `${text}${text && '.'}${part}`),
    '',
  )

/** Every place in a document, from the outside in. */
function* everyPath(value: unknown, path: Step[] = []): Generator<Step[]> {
  if (path.length > 0) yield path
  if (Array.isArray(value)) for (const [i, item] of value.entries()) yield* everyPath(item, [...path, i])
  else if (value && typeof value === 'object')
    for (const [key, item] of Object.entries(value)) yield* everyPath(item, [...path, key])
}

/** A copy of the document with the value at a path replaced. */
function replaced(document: Loop, path: readonly Step[], value: unknown): string {
  const copy = structuredClone(document) as unknown as Json
  const parent = path.slice(0, -1).reduce<Json>((at, step) => at[step] as Json, copy)
  parent[path.at(-1) as string] = value
  return JSON.stringify(copy)
}

describe('a loop file', () => {
  it('is read back to the last number', () => {
    fc.assert(
      fc.property(anyLoop, (loop) => {
        expect(parseLoop(formatLoop(loop))).toEqual(loop)
      }),
    )
  })

  it('is refused with the path of the field, whichever field is wrong', () => {
    fc.assert(
      fc.property(anyLoop, fc.nat(), (loop, pick) => {
        const paths = [...everyPath(loop)].filter(([top]) => top !== 'format')
        const path = paths[pick % paths.length] as Step[]
        const value = path.reduce<unknown>((at, step) => (at as Json)[step], loop)
        const wrong = typeof value === 'object' && value !== null ? 7 : { nonsense: true }
        const { faults } = refusal(replaced(loop, path, wrong))
        expect(faults.map((fault) => fault.path)).toContain(pathText(path))
      }),
      { numRuns: 400 },
    )
  })

  it.each([
    ['', 'empty'],
    ['{"format": "cyclon-loop", "version"', 'breaks off before its end'],
    ['GIF89a<<<>', 'not valid JSON'],
    ['[]', 'not a Cyclon loop'],
    ['null', 'not a Cyclon loop'],
    ['{"format":"spreadsheet"}', 'not a Cyclon loop'],
    ['{"format":"cyclon-loop","version":7}', 'newer Cyclon (file version 7'],
    [`${'['.repeat(100_000)}${']'.repeat(100_000)}`, 'nests its parts too deeply'],
  ])('%.30s… is refused: %s', (text, message) => {
    const error = refusal(text)
    expect(error.message).toContain(message)
    expect(error.advice.length).toBeGreaterThan(10)
  })

  it('is refused when it is huge, without being parsed', () => {
    expect(refusal(' '.repeat(33 * 1024 * 1024).concat('{}')).message).toContain('larger than 32 MB')
  })

  it.each<[readonly Step[], unknown, string]>([
    [['length'], 0, 'length'],
    [['length'], 12.5, 'length'],
    [['width'], 100_000, 'width'],
    [['rate', 'num'], 1_001_000, 'rate'],
    [['rate'], { num: 48, den: 2 }, 'rate'],
    [['background'], 'sea green please', 'background'],
    [['layers', 0, 'values', 'fill'], 'url(javascript:alert(1))', 'layers[0].values.fill'],
    [['layers', 0, 'values', 'opacity'], 1.5, 'layers[0].values.opacity'],
    [['layers', 0, 'kind'], 'script', 'layers[0].kind'],
    [['layers', 0, 'id'], '<img src=x>', 'layers[0].id'],
    [['layers', 0, 'motions', 'rotation', 'period', 'cycles'], 2.5, 'layers[0].motions.rotation.period.cycles'],
    [['layers', 0, 'motions', 'rotation', 'keys', 0, 'at'], 1, 'layers[0].motions.rotation.keys[0].at'],
    [['layers', 0, 'motions', 'rotation', 'keys', 0, 'ease'], 'bouncy', 'layers[0].motions.rotation.keys[0].ease'],
    [['layers', 0, 'motions', 'cap'], {}, 'layers[0].motions.cap'],
    [['surprise'], true, 'surprise'],
  ])('is refused for %j = %j', (path, value, fault) => {
    const error = refusal(replaced(beacon, path, value))
    expect(error.faults[0]?.path).toBe(fault)
    expect(error.message).toContain(fault)
  })

  it('has states that share their layers read as one', () => {
    const renamed = { ...beacon, name: 'Beacon, renamed' }
    const [first, second] = readStates([beacon, renamed])
    expect([first, second]).toEqual([beacon, renamed])
    expect(first?.layers[0]).toBe(second?.layers[0])
    const broken = { ...beacon, layers: [{ ...beacon.layers[0], kind: 'script' }] }
    expect(() => readStates([beacon, broken])).toThrow('layers[0]')
    expect(() => readStates([beacon, { ...beacon, layers: [...beacon.layers, ...beacon.layers] }])).toThrow('this id')
  })

  it('is refused when two layers share an id', () => {
    const twice = { ...beacon, layers: [...beacon.layers, ...beacon.layers] }
    expect(refusal(JSON.stringify(twice)).faults[0]).toEqual({
      path: 'layers[1].id',
      message: 'another layer has this id',
    })
  })

  it('cannot reach the prototype of anything', () => {
    const text = JSON.stringify(beacon).replace('{', '{"__proto__":{"polluted":true},')
    expect(() => parseLoop(text)).toThrow(LoopFileError)
    expect(({} as Json).polluted).toBeUndefined()
  })
  it('has its published schema up to date (npm run docs:schema)', () => {
    const published = readFileSync(new URL('../../../docs/loop.schema.json', import.meta.url), 'utf8')
    expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(loopJsonSchema())))
  })
})
