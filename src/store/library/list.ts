import type { LoopRead } from '@/core/edit'
import { alone } from '../alone'
import { keepOnly, upToDate } from '../assets'
import { queuedAssets } from '../queue-storage'
import { keepFollowers, variantSource } from './followers'
import { historyKeys } from './history'
import { histories, type LoopRecord, loops, notes, stored } from './records'
import { savedTime, TRASH_MS } from './trash'

/** A loop in the library; one whose record is damaged has no loop, but is kept and can be deleted. */
export type LibraryEntry = { readonly id: string; readonly savedAt: number; readonly deletedAt?: number } & LoopRead

/** A stored record, not yet parsed. */
interface Raw {
  readonly id: string
  readonly raw: unknown
}

/** Reads what was stored under some ids, in their order. */
export type ReadAll = (stored: readonly Raw[]) => Promise<readonly LoopRead[]>

/**
 * All loops of the library, the last saved first, or those in its trash, the last deleted first; variants as their sources are now. What has been in the
 * trash for too long is taken out.
 * @param read reads them, off the page's thread
 * @throws StorageError
 */
export async function listLoops(read: ReadAll, from: 'library' | 'trash' = 'library'): Promise<LibraryEntry[]> {
  const found: { readonly id: string; readonly savedAt: number; readonly deletedAt?: number; readonly raw: unknown }[] =
    []
  const old = await expired()
  if (old.size > 0) await keepFollowers(old)
  /** Records on the other side, trash or library, which variants here may follow. */
  const beside = new Map<string, unknown>()
  await alone(async () => {
    const gone: string[] = []
    const used = new Set<string>()
    const media = new Set<string>()
    await stored(() =>
      loops.iterate<Partial<LoopRecord> | null, void>((record, id) => {
        const { deletedAt } = record ?? {}
        if (isExpired(record) && old.has(id)) return void gone.push(id)
        const savedAt = savedTime(record)
        if ((deletedAt !== undefined) === (from === 'trash'))
          found.push({ id, savedAt, raw: record?.loop, ...(deletedAt !== undefined && { deletedAt }) })
        else beside.set(id, record?.loop)
        for (const key of historyKeys(id, record)) used.add(key)
        for (const shown of record?.media ?? []) media.add(shown)
      }),
    )
    for (const id of gone) await stored(() => loops.removeItem(id))
    for (const id of await stored(queuedAssets)) media.add(id)
    await stored(() => keepOnly(media))
    // A page that was closed while it saved may have left a history that no loop owns.
    for (const key of await stored(() => histories.keys()))
      if (!used.has(key)) await stored(() => histories.removeItem(key))
  })
  // Nobody waits for this who wants to write.
  const upToNow: Raw[] = []
  for (const { id, raw } of [...found, ...sourcesAmong(beside, found)])
    upToNow.push({ id, raw: await stored(() => upToDate(raw)) })
  const loopsRead = await read(upToNow)
  return found
    .map(({ raw: _raw, ...entry }, i) => ({ ...entry, ...(loopsRead[i] as LoopRead) }))
    .sort((a, b) => (b.deletedAt ?? b.savedAt) - (a.deletedAt ?? a.savedAt))
}

/** Whether a loop has been in the trash for too long. */
const isExpired = (record: Partial<LoopRecord> | null): boolean =>
  record?.deletedAt !== undefined && record.deletedAt < Date.now() - TRASH_MS

/** Ids of loops that have been in the trash for too long. */
async function expired(): Promise<ReadonlySet<string>> {
  const ids = new Set<string>()
  await stored(() =>
    loops.iterate<Partial<LoopRecord> | null, void>((record, id) => {
      if (isExpired(record)) ids.add(id)
    }),
  )
  return ids
}

/** Those of some loops that others follow, directly or through each other. */
function sourcesAmong(among: ReadonlyMap<string, unknown>, followers: readonly Raw[]): Raw[] {
  const sources = new Map<string, Raw>()
  for (const { raw } of followers)
    for (
      let id = variantSource(raw);
      id !== undefined && among.has(id) && !sources.has(id);
      id = variantSource(among.get(id))
    )
      sources.set(id, { id, raw: among.get(id) })
  return [...sources.values()]
}

/** The loops of the library by their names, unread otherwise. @throws StorageError */
export async function loopNames(): Promise<{ readonly id: string; readonly name: string }[]> {
  const found: { readonly id: string; readonly name: string }[] = []
  await stored(() =>
    loops.iterate<Partial<LoopRecord> | null, void>((record, id) => {
      const name = (record?.loop as { readonly name?: unknown } | null | undefined)?.name
      if (typeof name === 'string' && record?.deletedAt === undefined) found.push({ id, name })
    }),
  )
  return found
}

/** Runs something once in the life of this browser's library, such as putting the demo loops into it; in one tab alone. */
export const onceInLibrary = (what: string, work: () => Promise<void>): Promise<void> =>
  alone(async () => {
    if (await stored(() => notes.getItem(what))) return
    await work()
    await stored(() => notes.setItem(what, true))
  }, 'cyclon first time')
