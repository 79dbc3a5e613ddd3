import { type Loop, LoopFileError, readStates } from '@/core/document'
import { newId } from '@/core/id'
import { upToDate } from '../assets'
import type { History } from '../document'
import { type HistoryPlace, histories, historyKey, type LoopRecord, stored } from './records'

/** States of a loop that are written together, at most. */
const MAX_BLOCK_STEPS = 16

interface Block {
  readonly key: string
  readonly states: readonly Loop[]
}

/** The last record this tab wrote: its blocks need not be written again. */
let written: { readonly revision: string; readonly blocks: readonly Block[] } | null = null

const startsWith = (row: readonly Loop[], from: number, states: readonly Loop[]) =>
  states.every((state, i) => row[from + i] === state)

/** Parts a row of states into blocks: those that are there already as far as they are still whole, and new ones. */
function partIntoBlocks(row: readonly Loop[], known: readonly Block[], id: string) {
  const kept: Block[] = []
  const oldest = known.findIndex(({ states }) => states.includes(row[0] as Loop))
  const skip = oldest < 0 ? 0 : (known[oldest] as Block).states.indexOf(row[0] as Loop)
  let at = 0
  for (const block of oldest < 0 ? [] : known.slice(oldest)) {
    const rest = kept.length === 0 ? block.states.slice(skip) : block.states
    if (!startsWith(row, at, rest)) break
    kept.push(block)
    at += rest.length
  }
  // A block with room in it is written anew together with what follows.
  const last = kept.at(-1)
  if (last && at < row.length && last.states.length < MAX_BLOCK_STEPS) {
    kept.pop()
    at -= kept.length === 0 ? last.states.length - skip : last.states.length
  }
  const added: Block[] = []
  for (; at < row.length; at += MAX_BLOCK_STEPS)
    added.push({ key: historyKey(id, newId()), states: row.slice(at, at + MAX_BLOCK_STEPS) })
  return { kept, added, skip: kept.length > 0 ? skip : 0 }
}

/** A history that is being saved. */
export interface HistoryWritten {
  readonly place: HistoryPlace
  /** To be called when the record of the loop names it. */
  readonly done: (revision: string) => void
  /** Takes away what was written, when the record could not be. */
  readonly undo: () => Promise<void>
}

/**
 * Writes what is not there yet of the history of a loop.
 * @param before revision of the loop in the library, which tells what is there
 * @throws StorageError; then nothing of it is left
 */
export async function writeHistory(loop: Loop, history: History, before?: string): Promise<HistoryWritten> {
  const known = written && written.revision === before ? written.blocks : []
  const { kept, added, skip } = partIntoBlocks([...history.past, loop, ...history.future], known, loop.id)
  const undo = async () => {
    for (const { key } of added) await histories.removeItem(key).catch(() => {})
  }
  try {
    for (const { key, states } of added) await stored(() => histories.setItem(key, states))
  } catch (error) {
    await undo()
    throw error
  }
  const blocks = [...kept, ...added]
  return {
    place: {
      blocks: blocks.map(({ key }) => key),
      skip,
      past: history.past.length,
      future: history.future.length,
    },
    done: (revision) => {
      written = { revision, blocks }
    },
    undo,
  }
}

/** Keys of all that a record keeps of its history; records of older versions have it in one piece, under their revision. */
export function historyKeys(id: string, record: Partial<LoopRecord> | null): readonly string[] {
  const blocks = record?.history?.blocks
  return Array.isArray(blocks) ? blocks : [historyKey(id, record?.revision ?? '')]
}

/** Takes away what a loop that has been saved anew no longer needs of its history before. @throws StorageError */
export async function pruneHistory(id: string, before: LoopRecord, now: LoopRecord): Promise<void> {
  const needed = new Set(historyKeys(id, now))
  for (const key of historyKeys(id, before)) if (!needed.has(key)) await stored(() => histories.removeItem(key))
}

/** The stored history of a loop, not yet parsed. */
async function keptOf(id: string, { history, revision }: LoopRecord): Promise<History> {
  if (!history) return (await stored(() => histories.getItem<History>(historyKey(id, revision)))) ?? NONE
  const row: Loop[] = []
  for (const key of historyKeys(id, { history, revision })) {
    const states = await stored(() => histories.getItem<readonly Loop[]>(key))
    if (!Array.isArray(states)) return NONE
    row.push(...states)
  }
  const { skip, past, future } = history
  if (row.length < skip + past + 1 + future) return NONE
  return { past: row.slice(skip, skip + past), future: row.slice(skip + past + 1, skip + past + 1 + future) }
}

const NONE: History = { past: [], future: [] }

/** The history that is stored with a loop; none where any step of it cannot be read. @throws StorageError */
export async function readHistory(id: string, record: LoopRecord): Promise<History> {
  const { past, future } = await keptOf(id, record)
  try {
    const states = readStates(await stored(() => Promise.all([...past, ...future].map(upToDate))))
    return { past: states.slice(0, past.length), future: states.slice(past.length) }
  } catch (error) {
    if (error instanceof LoopFileError) return NONE
    throw error
  }
}
