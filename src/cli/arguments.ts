import { InvalidArgumentError } from 'commander'
import { type Fraction, parseRate } from '@/core/clock'
import { SCALES } from '@/core/output/bounds'
import { GROUND_NAMES, GROUNDS, type Ground, groundOfHex } from '@/core/seam/grounds'

export const say = (text: string): void => void process.stdout.write(`${text}\n`)
export const asJson = (value: unknown) => JSON.stringify(value, null, 2)

/** Reads an argument; what is wrong with it is said as such. */
export const reading =
  <T>(read: (text: string) => T) =>
  (text: string): T => {
    try {
      return read(text)
    } catch (error) {
      throw new InvalidArgumentError((error as Error).message)
    }
  }
export const rateArgument = reading((text): Fraction => {
  try {
    return parseRate(text)
  } catch {
    throw new RangeError('It is not a rate such as 25 or 30000/1001.')
  }
})
export const within = (least: number, most: number, whole = true) =>
  reading((text) => {
    const value = Number(text)
    if (!(value >= least && value <= most) || (whole && !Number.isInteger(value)))
      throw new RangeError(`It is a ${whole ? 'whole ' : ''}number from ${least} to ${most}.`)
    return value
  })
/** @throws RangeError for what is no ground */
export function groundOf(text: string): Ground {
  const named = GROUND_NAMES.find((name) => name === text)
  if (named) return GROUNDS[named]
  const ground = groundOfHex(text)
  if (!ground) throw new RangeError('Say white, black, grey, or a colour such as #f7e9d0.')
  return ground
}
export const framesOf = reading((text): [number, number] => {
  const match = /^(\d+)-(\d+)$/.exec(text)
  if (!match) throw new RangeError('Say the first and the last frame, such as 0-29.')
  return [Number(match[1]), Number(match[2])]
})

export const listOf = reading((text): string[] => text.split(',').map((each) => each.trim().toLowerCase()))
export const scalesOf = reading((text): number[] =>
  text.split(',').map((each) => {
    const scale = Number(each)
    if (!(scale >= SCALES.least && scale <= SCALES.most))
      throw new RangeError(`Say sizes from ${SCALES.least} to ${SCALES.most}, such as 0.5,1,2.`)
    return scale
  }),
)

/** Runs a command; what cannot be done is said in one line, and the exit code is 2. With `CYCLON_DEBUG` an error is thrown, with where it comes from. */
export const attempt =
  <A extends unknown[]>(work: (...args: A) => Promise<void>) =>
  async (...args: A): Promise<void> => {
    try {
      await work(...args)
    } catch (error) {
      // Where a fault lies in the program itself is of use to whoever mends it.
      if (process.env.CYCLON_DEBUG) throw error
      process.stderr.write(`${(error as Error).message.split('\n')[0]}\n`)
      process.exitCode = 2
    }
  }
