import 'fake-indexeddb/auto'
import fc from 'fast-check'
import { expect, it, vi } from 'vitest'
import { Locks } from '@/core/testing/locks'
import { quay } from '@/core/testing/quay'
import { checkLedger, failing, freshPage } from './testing/check'
import { ACTS, type Act, DESK_STORES, Desk, openedPage, store } from './testing/desk'
import { freshName, Ledger, newName } from './testing/ledger'

/**
 * Several pages over one storage do in turn, and two at a time, what their users may do, while writes, reads and removals fail now and then. What any
 * of them was told is kept must be there afterwards, whatever the others did.
 */

vi.mock('@/workers/page/writing', () => ({
  writeTogether: (jobs: readonly unknown[]) => ({
    files: jobs.map(async () => ({
      bytes: new Uint8Array([1, 2, 3]),
      type: 'image/gif',
      width: 4,
      height: 3,
      frames: 2,
      note: null,
      proof: { holds: true, lines: [] },
    })),
    pause: () => {},
    resume: () => {},
    cancel: () => {},
  }),
}))
vi.stubGlobal('navigator', { userAgent: 'Node', locks: new Locks() })

const PAGES = 3

/** One act on a page, during which one storage operation may fail. */
class Step implements fc.AsyncCommand<Ledger, readonly Desk[]> {
  constructor(
    readonly desk: number,
    readonly act: Act,
    readonly pick: number,
    readonly fault: number,
  ) {}
  check = () => true
  toString = () => `page ${this.desk}: ${this.act} ${this.pick}${this.fault ? `, operation ${this.fault} fails` : ''}`

  async run(ledger: Ledger, desks: readonly Desk[]): Promise<void> {
    const failed = failing(this.fault)
    try {
      await done(this, ledger, desks)
    } catch (error) {
      mayFail(error as Error, failed())
    } finally {
      vi.restoreAllMocks()
    }
    ledger.steps++
    if (failed()) ledger.faults++
    await checkLedger(ledger)
  }
}

/** Two acts at once on two pages, in whatever order storage serves them. */
class Together implements fc.AsyncCommand<Ledger, readonly Desk[]> {
  constructor(readonly steps: readonly [Step, Step]) {}
  check = () => this.steps[0].desk !== this.steps[1].desk
  toString = () => `at once (${this.steps.join('; ')})`

  async run(ledger: Ledger, desks: readonly Desk[]): Promise<void> {
    const failed = failing(this.steps[0].fault)
    const outcomes = await Promise.allSettled(this.steps.map((each) => done(each, ledger, desks))).finally(() =>
      vi.restoreAllMocks(),
    )
    for (const each of outcomes) if (each.status === 'rejected') mayFail(each.reason, failed())
    ledger.steps += 2
    ledger.together++
    if (failed()) ledger.faults++
    await checkLedger(ledger, true)
  }
}

/** Does the act of a step, and counts it where there was something to do. */
async function done({ desk, act, pick }: Step, ledger: Ledger, desks: readonly Desk[]): Promise<void> {
  const found = await (desks[desk] as Desk)[act](pick)
  if (found) ledger.acts.set(act, (ledger.acts.get(act) ?? 0) + 1)
}

/** Passes over errors that a page shows its user; a failed expectation is thrown. */
function mayFail(error: Error, failed: boolean): void {
  const isTold = failed ? error.name !== 'AssertionError' : ['GoneError', 'ConflictError'].includes(error.name)
  if (!isTold) throw error
}

const weighted = Object.entries(ACTS).map(([act, weight]) => ({ weight, arbitrary: fc.constant(act as Act) }))
const step = fc
  .record({
    desk: fc.nat(PAGES - 1),
    act: fc.oneof(...weighted),
    pick: fc.nat(5),
    fault: fc.oneof(
      { weight: 2, arbitrary: fc.constant(0) },
      { weight: 1, arbitrary: fc.integer({ min: 1, max: 12 }) },
    ),
  })
  .map(({ desk, act, pick, fault }) => new Step(desk, act, pick, fault))
const together = fc.tuple(step, step).map((steps) => new Together(steps))

it('what a page was told is kept is there, whatever other pages do and whatever fails', async () => {
  const pages = [await openedPage(), await openedPage(), await openedPage()]
  await freshPage()
  const acts = new Map<string, number>()
  const totals = { runs: 0, steps: 0, together: 0, faults: 0 }
  await fc.assert(
    fc.asyncProperty(fc.commands([step, step, together], { maxCommands: 60, size: 'max' }), async (commands) => {
      for (const name of DESK_STORES) await store(name).clear()
      const ledger = new Ledger()
      const desks = pages.map((page, n) => new Desk(page, n, ledger))
      for (const page of pages) {
        page.useDeleted.setState({ loops: [] })
        page.useQueue.setState({ items: [], state: 'idle' })
        page.useSaveState.setState({ state: 'saved', problem: null })
        page.openLoop({ ...quay, id: freshName('elsewhere') })
        await page.openUnsaved({ ...quay, id: freshName('begun'), name: newName() })
      }
      await fc.asyncModelRun(() => ({ model: ledger, real: desks }), commands)
      for (const [act, count] of ledger.acts) acts.set(act, (acts.get(act) ?? 0) + count)
      totals.runs++
      totals.steps += ledger.steps
      totals.together += ledger.together
      totals.faults += ledger.faults
    }),
    { numRuns: Number(process.env.CYCLON_RUNS ?? 40), endOnFailure: true },
  )
  process.stdout.write(
    `${totals.runs} runs, ${totals.steps} steps (${2 * totals.together} of them two at a time), ${totals.faults} faults\n`,
  )
  const carriedOut = [...acts.values()].reduce((sum, count) => sum + count, 0)
  process.stdout.write(`carried out: ${carriedOut}, ${[...acts].map(([act, count]) => `${act} ${count}`).join(', ')}\n`)
  expect(totals.steps).toBeGreaterThan(500)
  expect(carriedOut).toBeGreaterThan(0.5 * totals.steps)
  for (const act of Object.keys(ACTS)) expect(acts.get(act) ?? 0, act).toBeGreaterThanOrEqual(3)
  expect(totals.faults).toBeGreaterThan(60)
})
