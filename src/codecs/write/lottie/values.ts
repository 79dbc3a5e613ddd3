import { toHex } from '@/core/colour'
import { keysOf, type SeriesKey } from '@/core/output'

/** Largest error of values between keys: px, degrees, per cent. */
export const LOTTIE_TOLERANCE = 0.02

export type LottieJson = Record<string, unknown>

/** Red, green, blue and opacity, 0 … 1. */
export const colourOf = (colour: string): [number, number, number, number] => {
  const hex = toHex(colour)
  const part = (at: number) => Number.parseInt(hex.slice(at, at + 2), 16) / 255
  return [part(1), part(3), part(5), hex.length > 7 ? part(7) : 1]
}

/** A value that changes along straight lines between keys, or stays. */
export function animated(series: readonly (readonly number[])[], tolerance = LOTTIE_TOLERANCE): LottieJson {
  const keys = keysOf(series, tolerance)
  const value = (values: readonly number[]) => values.map((x) => Number(x.toFixed(4)))
  if (keys.length < 2) {
    const only = value(series[0] as readonly number[])
    return { a: 0, k: only.length === 1 ? only[0] : only }
  }
  const linear = { i: { x: [1], y: [1] }, o: { x: [0], y: [0] } }
  return { a: 1, k: keys.map((key, i) => ({ t: momentOf(keys, i), s: value(key.values), ...linear })) }
}
/** Distance of two keys for one moment, in frames: the format allows only one at a time. */
const APART = 0.001
export const momentOf = (keys: readonly SeriesKey[], i: number) => {
  const at = keys[i]?.at as number
  return keys[i + 1]?.at === at ? at - APART : at
}
export const plain = (k: unknown): LottieJson => ({ a: 0, k })
