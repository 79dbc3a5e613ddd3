import type { Loop } from '../document'
import { LoopFileError, readLoop } from '../document'
import { followSource } from './vary'

/** A loop as it was stored; one that is damaged is none, and it is said why. */
export type LoopRead = { readonly loop: Loop } | { readonly loop: null; readonly problem: string }

/** Reads a loop that may be damaged. */
export function readStored(raw: unknown): LoopRead {
  try {
    return { loop: readLoop(raw) }
  } catch (error) {
    if (!(error instanceof LoopFileError)) throw error
    return { loop: null, problem: error.message }
  }
}

/** A variant as its source is now; one whose source is gone or damaged stays as it was. */
export function following(loop: Loop, byId: ReadonlyMap<string, Loop | null>, seen: readonly string[] = []): Loop {
  const source = loop.variantOf && byId.get(loop.variantOf.id)
  return source && !seen.includes(source.id) ? followSource(loop, following(source, byId, [...seen, loop.id])) : loop
}

/** Reads all that is stored, in its order; variants as their sources are now. */
export function readAllStored(stored: readonly { readonly id: string; readonly raw: unknown }[]): LoopRead[] {
  const read = stored.map(({ raw }) => readStored(raw))
  const byId = new Map(stored.map(({ id }, i) => [id, read[i]?.loop ?? null]))
  return read.map((each) => (each.loop ? { loop: following(each.loop, byId) } : each))
}
