import { create } from 'zustand'
import { WorkerStopped } from '@/workers/shared/client'

/** Something that went wrong in the background, which nobody was waiting for at that moment. */
export interface Trouble {
  readonly what: string
  readonly why: string
  /** Counts up, so that the same trouble can be said again. */
  readonly at: number
}

export const useTrouble = create<{ readonly last: Trouble | null }>()(() => ({ last: null }))

/** The same trouble is said again only after this long, ms. */
const QUIET_MS = 10_000
const said = new Map<string, number>()

/** Says that something went wrong, once; work goes on. `what` is a sentence. What was ended on purpose is no trouble. */
export function tellTrouble(what: string, error: unknown): void {
  if (error instanceof WorkerStopped) return
  const now = performance.now()
  if (now - (said.get(what) ?? -QUIET_MS) < QUIET_MS) return
  said.set(what, now)
  const at = (useTrouble.getState().last?.at ?? 0) + 1
  useTrouble.setState({ last: { what, why: error instanceof Error ? error.message : String(error), at } })
}
