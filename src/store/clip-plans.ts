import type { KeptMends } from '@/core/footage/mends/kept'
import { storeOf } from './storage'

const plans = storeOf('plans')

/** Plans are kept for at most this many files; the least recently changed go first. */
const MAX_KEPT_PLANS = 100
/** Bytes at the start and at the end of a file that identify it, besides its size. */
const TOLD_BY = 64 * 1024

interface Kept extends KeptMends {
  readonly at: number
}

/** Key of one or several files: their sizes, the start of the first and the end of the last. */
export async function keyOfFiles(files: readonly File[]): Promise<string> {
  const ends = [files[0], files.at(-1)].flatMap((file) =>
    file ? [file.slice(0, TOLD_BY), file.slice(Math.max(0, file.size - TOLD_BY))] : [],
  )
  const told = new Blob([files.map(({ size }) => size).join(' '), ...ends])
  const digest = await crypto.subtle.digest('SHA-256', await told.arrayBuffer())
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** Keeps what was done to a file; nothing where nothing was. */
export async function keepMends(key: string, { mends, undone }: KeptMends): Promise<void> {
  if (mends.length + undone.length === 0) return plans.removeItem(key)
  await plans.setItem(key, { mends, undone, at: Date.now() } satisfies Kept)
  const keys = await plans.keys()
  if (keys.length <= MAX_KEPT_PLANS) return
  const ages: { readonly key: string; readonly at: number }[] = []
  await plans.iterate<Partial<Kept>, void>((kept, of) => void ages.push({ key: of, at: kept.at ?? 0 }))
  ages.sort((a, b) => a.at - b.at)
  for (const { key: old } of ages.slice(0, keys.length - MAX_KEPT_PLANS)) await plans.removeItem(old)
}

/** Mends of a file from the last time; null if there were none, or they cannot be read. */
export async function keptMends(key: string): Promise<KeptMends | null> {
  const kept = await plans.getItem<unknown>(key)
  if (kept === null) return null
  const { readMends } = await import('@/core/footage/mends/kept')
  return readMends(kept)
}
