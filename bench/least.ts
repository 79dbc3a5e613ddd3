/** The least of several runs, ms: what else a machine does only ever adds to it. */
export function least(runs: number, work: (run: number) => void): number {
  let best = Infinity
  for (let run = 0; run < runs; run++) {
    const from = performance.now()
    work(run)
    best = Math.min(best, performance.now() - from)
  }
  return best
}
