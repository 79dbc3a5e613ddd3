import { divide, type Fraction, parseFraction, toNumber } from '@/core/clock'
import { exactLength, fitFront } from '@/core/fit'

/** A period as it is written on the command line: `1.5s`, `20f`, `3/2s`. @throws RangeError in words */
export function periodArgument(text: string, rate: Fraction): Fraction {
  const match = /^(.+?)\s*(s|f)$/i.exec(text.trim())
  if (!match?.[1]) throw new RangeError(`“${text}” is no period: write seconds such as 1.5s, or frames such as 20f`)
  const value = parseFraction(match[1])
  if (value.num <= 0) throw new RangeError(`“${text}”: a period lies above 0`)
  return match[2]?.toLowerCase() === 'f' ? divide(value, rate) : value
}

export interface FitAnswer {
  /** The shortest length at which all periods come home exactly; null where there is none up to the most. */
  readonly exact: number | null
  /** Lengths that no shorter one betters, with how far the worst speed is off. */
  readonly front: readonly {
    readonly length: number
    readonly cycles: readonly number[]
    readonly worstError: number
  }[]
}

/** @param folds one for each period, 1 where they are left out */
export function fitPeriods(
  periods: readonly Fraction[],
  folds: readonly number[],
  rate: Fraction,
  most: number,
): FitAnswer {
  const wanted = periods.map((seconds, i) => ({ seconds, fold: folds[i] ?? 1 }))
  const motions = wanted.map(({ seconds, fold }) => ({ frames: toNumber(seconds) * toNumber(rate), fold }))
  return {
    exact: exactLength(wanted, rate, most),
    front: fitFront(motions, most).map(({ length, cycles, worstError }) => ({ length, cycles, worstError })),
  }
}

/** The answer as lines for people. */
export function fitTable({ exact, front }: FitAnswer, rate: Fraction): string {
  const seconds = (length: number) => `${((length * rate.den) / rate.num).toFixed(3)} s`
  const rows = front.map(({ length, cycles, worstError }) => [
    `${length} f`,
    seconds(length),
    worstError === 0 ? 'exact' : `${(100 * worstError).toFixed(3)} % off`,
    cycles.map((count) => Number(count.toFixed(4))).join(', '),
  ])
  const widths = [0, 1, 2].map((column) => Math.max(...rows.map((row) => (row[column] as string).length)))
  const lines = rows.map((row) =>
    row
      .map((cell, i) => cell.padEnd(widths[i] ?? 0))
      .join('  ')
      .trimEnd(),
  )
  return [exact === null ? 'no length in reach is exact' : `exact at ${exact} f, ${seconds(exact)}`, ...lines].join(
    '\n',
  )
}

/** Whole numbers with commas between. @throws RangeError in words */
export const foldsArgument = (text: string): number[] =>
  text.split(',').map((each) => {
    const fold = Number(each)
    if (!Number.isInteger(fold) || fold < 1 || fold > 1000)
      throw new RangeError(`“${each}” is no fold: a whole number from 1 on`)
    return fold
  })
