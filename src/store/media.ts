import localforage from 'localforage'
import { holdsMedia, type Loop, mediaIds, mediaOf, withMedia } from '@/core/document'
import type { History } from './document'

/** Media are kept once, under their ids, apart from the loops that show them: these change often, media never do. */
const media = localforage.createInstance({ name: 'cyclon', storeName: 'media' })

/** The files of media, in base64, by the ids of what they belong to. */
export type Files = ReadonlyMap<string, readonly string[]>

/** Writes files that are not there yet. */
export async function keepFiles(files: Files): Promise<void> {
  if (files.size === 0) return
  const there = new Set(await media.keys())
  for (const [id, data] of files) if (!there.has(id) && !data.includes('')) await media.setItem(id, data)
}

/** The files of the media that some states of a loop show. */
export function filesIn(loops: readonly Loop[]): Files {
  const found = new Map<string, readonly string[]>()
  const holding = loops.filter(
    (loop, i) => holdsMedia(loop) && (loop.pictures !== loops[i - 1]?.pictures || loop.clips !== loops[i - 1]?.clips),
  )
  for (const loop of holding)
    for (const [id, files] of mediaOf(loop))
      if (!found.has(id))
        found.set(
          id,
          files.map(({ data }) => data),
        )
  return found
}

/** The files that are kept under some ids. */
export async function filesOf(ids: Iterable<string>): Promise<Files> {
  const found = new Map<string, readonly string[]>()
  for (const id of new Set(ids)) {
    const files = await media.getItem<readonly string[]>(id)
    if (files) found.set(id, files)
  }
  return found
}

/** A loop of the library with its media. One that was saved before media were kept apart has them still. */
export async function filled(loop: Loop): Promise<Loop> {
  const files = await filesOf(mediaIds(loop))
  return withMedia(loop, (id) => files.get(id))
}

/** The states of a history with their media, each read once. */
export async function filledHistory({ past, future }: History): Promise<History> {
  const files = await filesOf([...past, ...future].flatMap(mediaIds))
  const fill = (loop: Loop) => withMedia(loop, (id) => files.get(id))
  return { past: past.map(fill), future: future.map(fill) }
}

/** Lets go of the media that none of these ids name. */
export async function keepOnly(used: ReadonlySet<string>): Promise<void> {
  for (const id of await media.keys()) if (!used.has(id)) await media.removeItem(id)
}
