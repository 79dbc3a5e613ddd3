import type { Loop } from '@/core/document'
import type { Verdict } from '@/core/seam'
import { lastingService, seamClient } from '@/workers/page/clients'
import { type LibraryEntry, listLoops, type ReadAll } from './library/list'
import { keepVerdict, keptVerdict } from './library/verdicts'

/** The loops of the library are read and looked at by one worker for all of them, one after the other. */
const cards = lastingService(seamClient)
let turn: Promise<unknown> = Promise.resolve()
let known = new WeakMap<Loop, Promise<CardVerdict>>()

/** The verdict on a loop as Compose gives it, or why it cannot be judged, in words. */
export type CardVerdict = { readonly verdict: Verdict } | { readonly problem: string }

/** The verdict on a loop that nobody has looked at yet, after those that were asked for before. */
function judgedInTurn(loop: Loop): Promise<CardVerdict> {
  const judged = turn.then(async (): Promise<CardVerdict> => {
    const found = await cards.ask(async ({ service }) => service.verdict(loop))
    if ('verdict' in found) await keepVerdict(loop, found.verdict)
    return found
  })
  turn = judged.catch(() => {})
  return judged
}

/** The verdict on a loop with its media. Rejects where its pictures cannot be looked at. */
export function cardVerdict(loop: Loop): Promise<CardVerdict> {
  const asked = known.get(loop)
  if (asked) return asked
  const judged = keptVerdict(loop).then((kept) => (kept ? { verdict: kept } : judgedInTurn(loop)))
  known.set(loop, judged)
  // A failed judgement is asked for anew the next time.
  judged.catch(() => known.delete(loop))
  return judged
}

/** Reads what was stored, off the page's thread. */
export const readInWorker: ReadAll = (all) => cards.ask(async ({ service }) => service.read(all))

/** All loops of the library, as `listLoops` of it gives them. */
export const listCards = (from: 'library' | 'trash' = 'library'): Promise<LibraryEntry[]> =>
  listLoops(readInWorker, from)

/** Ends the worker of the cards, when they are no longer shown; what was being looked at is asked for anew. */
export function endCards(): void {
  cards.end()
  turn = Promise.resolve()
  known = new WeakMap()
}
