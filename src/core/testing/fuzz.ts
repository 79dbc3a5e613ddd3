import fc from 'fast-check'
import { expect } from 'vitest'
import { parseLoop } from '../document'

/**
 * Damaged and hostile input of every kind that can be read in Node: whatever comes, it is read, or refused in words. Seeded, so that a run
 * can be had again; the longest single case is printed.
 */
export const SEED = 20_261_128
/** A case that takes this long hangs: it is thousands of times the usual duration. */
export const HANG_MS = 10_000

/** The cases that were run, and the longest of them. */
export const fuzzed = { cases: 0, longest: { what: '', ms: 0 } }
export function timed<T>(what: string, work: () => T): T {
  const start = performance.now()
  try {
    return work()
  } finally {
    const ms = performance.now() - start
    fuzzed.cases++
    if (ms > fuzzed.longest.ms) fuzzed.longest = { what, ms }
    expect(ms, `${what} hangs`).toBeLessThan(HANG_MS)
  }
}

/** Damage to bytes: cut, set, repeated, left out. */
export const damage = fc.array(
  fc.record({
    how: fc.constantFrom('cut', 'set', 'flip', 'repeat', 'drop'),
    at: fc.nat(),
    by: fc.nat(255),
    length: fc.nat(40),
  }),
  { minLength: 1, maxLength: 6 },
)
type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never

export function damaged(bytes: Uint8Array, steps: Damage): Uint8Array {
  return steps.reduce((from: Uint8Array, { how, at, by, length }) => {
    if (from.length === 0) return from
    const place = at % from.length
    const copy = Uint8Array.from(from)
    switch (how) {
      case 'cut':
        return copy.subarray(0, place)
      case 'set':
        copy[place] = by
        return copy
      case 'flip':
        copy[place] = (copy[place] as number) ^ (1 << (by % 8))
        return copy
      case 'repeat':
        return Uint8Array.from([
          ...copy.subarray(0, place),
          ...copy.subarray(place, place + length),
          ...copy.subarray(place),
        ])
      case 'drop':
        return Uint8Array.from([...copy.subarray(0, place), ...copy.subarray(place + length)])
      default:
        return how satisfies never
    }
  }, bytes)
}

/** Runs what may refuse, but only in words of its own. */
export function orRefuses(what: string, kinds: readonly (new (...of: never[]) => Error)[], work: () => unknown): void {
  timed(what, () => {
    try {
      work()
    } catch (error) {
      expect(
        kinds.some((kind) => error instanceof kind),
        `${what}: ${(error as Error).stack}`,
      ).toBe(true)
      expect((error as Error).message).toMatch(/^[A-Z“<].{8,}/s)
    }
  })
}

/** Prints how many cases were run, and the longest. */
export const sayFuzzed = (): void =>
  void process.stdout.write(
    `\nfuzzing: ${fuzzed.cases} cases; the longest, ${fuzzed.longest.what}, took ${fuzzed.longest.ms.toFixed(0)} ms\n`,
  )

/** A loop without layers. */
export const EMPTY = parseLoop(
  JSON.stringify({
    format: 'cyclon-loop',
    version: 2,
    id: 'quay',
    name: 'Quay',
    kind: 'loader',
    width: 40,
    height: 40,
    background: null,
    rate: { num: 25, den: 1 },
    length: 12,
    layers: [],
  }),
)
