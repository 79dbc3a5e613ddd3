import jsep from 'jsep'
import { type Fraction, toNumber } from '@/core/clock'
import type { Unit } from '@/core/layers'

/** Facts that a number field needs for units of time. */
export interface UnitContext {
  readonly rate: Fraction
  readonly length: number
  /** Frames of one cycle, where a field is about a part of it. */
  readonly cycleFrames?: number
}

/** Size of a unit, in the field's own unit. */
type Factor = (context: UnitContext) => number

/** Units that may follow a number, by the unit of the field. Values become the unit in which they are stored. */
const FACTORS: Record<string, Readonly<Record<string, Factor>>> = {
  px: { px: () => 1 },
  '°': { deg: () => 1, turn: () => 360, turns: () => 360 },
  share: { pct: () => 0.01 },
  '×': { x: () => 1 },
  frames: {
    f: () => 1,
    frames: () => 1,
    s: ({ rate }) => toNumber(rate),
    ms: ({ rate }) => toNumber(rate) / 1000,
  },
  phase: {
    pct: () => 0.01,
    f: ({ cycleFrames = 1 }) => 1 / cycleFrames,
    frames: ({ cycleFrames = 1 }) => 1 / cycleFrames,
    s: ({ rate, cycleFrames = 1 }) => toNumber(rate) / cycleFrames,
    deg: () => 1 / 360,
    cycle: () => 1,
    cycles: () => 1,
  },
  cycles: { cycle: () => 1, cycles: () => 1, x: () => 1 },
  links: { link: () => 1, links: () => 1 },
  tiles: { tile: () => 1, tiles: () => 1 },
  places: { place: () => 1, places: () => 1 },
  seconds: { s: () => 1, ms: () => 0.001, f: ({ rate }) => 1 / toNumber(rate) },
  '': {},
}

export type FieldUnit = Unit | 'frames' | 'seconds' | 'phase'

/**
 * The value that a text means in a field: a number, a sum such as `360/48`, or one with units such as `1.5s`, `12f`,
 * `0.5 turn`. Numbers without a unit are in the field's own unit; shares are typed as per cent, or as a part such as `1/8`.
 * @throws RangeError with words for the field when the text has no value.
 */
export function readNumber(text: string, unit: FieldUnit, context: UnitContext): number {
  const factors = FACTORS[unit] ?? {}
  const plain = text
    .replaceAll(',', '.')
    .replaceAll('−', '-')
    .replaceAll('°', 'deg')
    .replaceAll('%', 'pct')
    .replaceAll('×', unit === '×' ? '' : '*')
    .trim()
  if (plain === '') throw new RangeError('type a number')
  if (!/\d/.test(plain)) throw new RangeError(`“${text}” is not a number or a sum`)
  let usesUnit = false
  const withUnits = plain.replace(/(\d|\)|\.)\s*([a-z]+)/gi, (_, before: string, name: string) => {
    usesUnit = true
    return `${before}*${name.toLowerCase()}`
  })
  let tree: jsep.Expression
  try {
    tree = jsep(withUnits)
  } catch {
    throw new RangeError(`“${text}” is not a number or a sum`)
  }
  const value = valueOfTree(tree, (name) => {
    const factor = Object.hasOwn(factors, name) ? factors[name] : undefined
    if (!factor) throw new RangeError(`“${name}” is not a unit of this field`)
    return factor(context)
  })
  if (!Number.isFinite(value)) throw new RangeError(`“${text}” has no value`)
  // `1/8` of a cycle is an eighth of it; `100/3` is per cent.
  const isPart = FRACTION.test(plain) && Math.abs(value) <= 1
  return isShare(unit) && !usesUnit && !isPart ? value / 100 : value
}

const FRACTION = /^-?\d+\s*\/\s*\d+$/

/** Whether numbers are per cent in the field, and parts of a whole in the document. */
const isShare = (unit: FieldUnit): boolean => unit === 'share' || unit === 'phase'

function valueOfTree(node: jsep.Expression, unit: (name: string) => number): number {
  switch (node.type) {
    case 'Literal':
      if (typeof node.value === 'number') return node.value
      break
    case 'Identifier':
      return unit(String(node.name))
    case 'UnaryExpression': {
      const { operator, argument } = node as jsep.UnaryExpression
      const value = valueOfTree(argument, unit)
      if (operator === '-') return -value
      if (operator === '+') return value
      break
    }
    case 'BinaryExpression': {
      const { operator, left, right } = node as jsep.BinaryExpression
      const a = valueOfTree(left, unit)
      const b = valueOfTree(right, unit)
      if (operator === '+') return a + b
      if (operator === '-') return a - b
      if (operator === '*') return a * b
      if (operator === '/') return a / b
    }
  }
  throw new RangeError('only numbers, units and + − * / can be typed here')
}

/** A stored value as the field shows it, without its unit. */
export const showNumber = (value: number, unit: FieldUnit): string =>
  String(Number((isShare(unit) ? value * 100 : value).toFixed(3)) + 0)

/** The unit as it stands behind the number. */
export const fieldUnitText = (unit: FieldUnit): string =>
  (({ share: '%', phase: '%', seconds: 's', frames: 'f' }) as Partial<Record<FieldUnit, string>>)[unit] ?? unit
