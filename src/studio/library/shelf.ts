import type { LibraryEntry } from '@/store/library/list'

/** Orders of the library. */
export const ORDERS = ['last changed', 'name', 'length', 'size', 'kind'] as const
export type Order = (typeof ORDERS)[number]

const compared: Readonly<Record<Order, (a: LibraryEntry, b: LibraryEntry) => number>> = {
  'last changed': (a, b) => b.savedAt - a.savedAt,
  name: (a, b) => (a.loop?.name ?? '').localeCompare(b.loop?.name ?? '', undefined, { numeric: true }),
  length: (a, b) => secondsOf(a) - secondsOf(b),
  size: (a, b) => pixelsOf(b) - pixelsOf(a),
  kind: (a, b) => (a.loop?.kind ?? '').localeCompare(b.loop?.kind ?? ''),
}
const secondsOf = ({ loop }: LibraryEntry): number => (loop ? (loop.length * loop.rate.den) / loop.rate.num : 0)
const pixelsOf = ({ loop }: LibraryEntry): number => (loop ? loop.width * loop.height : 0)

/** Text in which a loop is searched. */
const wordsOf = ({ loop }: LibraryEntry): string =>
  loop
    ? [loop.name, loop.note ?? '', loop.kind, `${loop.width}×${loop.height}`, ...loop.layers.map(({ name }) => name)]
        .join(' ')
        .toLowerCase()
    : 'damaged'

/** Entries that hold every word that is typed, in an order; what is equal in that by when it was changed. */
export function onShelf(entries: readonly LibraryEntry[], typed: string, order: Order): LibraryEntry[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  return entries
    .filter((entry) => {
      const all = wordsOf(entry)
      return words.every((word) => all.includes(word))
    })
    .sort((a, b) => compared[order](a, b) || b.savedAt - a.savedAt)
}

/** By the ids of loops, the names of the others that place or follow them. */
export function usesIn(entries: readonly LibraryEntry[]): ReadonlyMap<string, readonly string[]> {
  const uses = new Map<string, string[]>()
  for (const { loop } of entries) {
    if (!loop) continue
    const used = new Set([...loop.loops.map(({ id }) => id), ...(loop.variantOf ? [loop.variantOf.id] : [])])
    for (const id of used) uses.set(id, [...(uses.get(id) ?? []), loop.name])
  }
  return uses
}
