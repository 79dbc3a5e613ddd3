import { appendFileSync } from 'node:fs'
import fc, { type RunDetails } from 'fast-check'
import { expect } from 'vitest'

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
