import type { Loop } from '@/core/document'

/** Names of a loop's states, oldest first; the last one is the loop itself. No two states share a name. */
export type Chain = readonly string[]
export const chainOf = ({
  loop,
  history,
}: {
  readonly loop: Loop
  readonly history: { readonly past: readonly Loop[] }
}) => [...history.past, loop].map(({ name }) => name)

/** A loop as a page said that it is kept. */
export interface Told {
  readonly chain: Chain
  readonly place: 'library' | 'trash'
  /** Goes up each time a page says something new of the loop. */
  readonly version: number
}

/** Everything that any page has said is kept. */
export class Ledger {
  readonly loops = new Map<string, Told>()
  readonly deleted: { readonly page: number; readonly id: string; readonly told: Told }[] = []
  readonly queue = new Map<string, 'waiting' | 'done'>()
  readonly mends = new Map<string, number>()
  starts: readonly string[] = []
  /** Times that each act found something to do. */
  readonly acts = new Map<string, number>()
  steps = 0
  together = 0
  faults = 0
  tells(id: string, chain: Chain, place: Told['place']) {
    this.loops.set(id, { chain, place, version: (this.loops.get(id)?.version ?? 0) + 1 })
  }
}

let names = 0
export const freshName = (what: string): string => `${what}-${names++}`
export const newName = () => `state ${names++}`
