import { appendFileSync } from 'node:fs'
import fc, { type RunDetails } from 'fast-check'
import { expect } from 'vitest'

/**
 * The cases of property tests: the same ones each time `npm test` runs, so that a change is judged and not the luck of a draw. `CYCLON_SEED=new` draws
 * others (`npm run test:search`), `CYCLON_SEED=N` those of a seed that failed.
 */
const seed = process.env.CYCLON_SEED ?? '18'
if (seed !== 'new') {
  if (!/^-?\d+$/.test(seed)) throw new Error(`CYCLON_SEED is “${seed}”: give a whole number, or “new”.`)
  fc.configureGlobal({ seed: Number(seed) })
}

/** A law fails where more cases than this are left out by a precondition for each that is tried: where fewer than one in twenty-one fits. */
const MOST_LEFT_OUT = 20
fc.configureGlobal({ ...fc.readConfigureGlobal(), maxSkipsPerRun: MOST_LEFT_OUT })

// `CYCLON_COUNTS=path` writes there, line by line, on how many cases each law was tried and how many were left out.
const counts = process.env.CYCLON_COUNTS
if (counts) {
  const told = (details: RunDetails<unknown>): void => {
    const { currentTestName: law, testPath } = expect.getState()
    const { numRuns: tried, numSkips: leftOut } = details
    appendFileSync(counts, `${JSON.stringify({ law, of: testPath?.replace(process.cwd(), ''), tried, leftOut })}\n`)
    if (details.failed) throw new Error(fc.defaultReportMessage(details))
  }
  fc.configureGlobal({ ...fc.readConfigureGlobal(), reporter: told })
}
