import { assetOfOld, migrated, oldMedia } from '@/core/document'
import { type Asset, assetsIn, type Files, filesOf, keepAtHand, lookElsewhere, type Medium } from '@/core/media'
import { alone } from './alone'
import { storeOf } from './storage'

/** The files of loops, as blobs under the ids of their assets: loops change often, these never do. */
const assets = storeOf('assets')
/** Files of media as version 2 kept them, in base64 under the ids of the media; or the asset that was made of them. */
const old = storeOf('media')

/** The file of an asset as it is stored; null where it is not there, or storage cannot be used. */
const storedFile = async (id: string): Promise<Blob | null> => assets.getItem<Blob>(id).catch(() => null)
lookElsewhere(storedFile)

/** Stores files that are not stored yet. */
export async function keepFiles(files: Files): Promise<void> {
  if (files.size === 0) return
  const there = new Set(await assets.keys())
  for (const [id, file] of files) if (!there.has(id)) await assets.setItem(id, file)
}

/** Stores the files that some media are drawn from. @returns the ids of their assets */
export async function keepAssets(media: readonly Medium[]): Promise<string[]> {
  const needed = assetsIn(media)
  const there = new Set(needed.length > 0 ? await assets.keys() : [])
  const files = await filesOf(needed.filter(({ id }) => !there.has(id)))
  await keepFiles(files)
  // From now on they are read from where they are stored, and take no memory here.
  for (const id of files.keys()) {
    const stored = await storedFile(id)
    if (stored) keepAtHand(new Map([[id, stored]]))
  }
  return needed.map(({ id }) => id)
}

/** The media of some states of a loop, each of them once. */
export function mediaOf(states: readonly { readonly media: readonly Medium[] }[]): readonly Medium[] {
  const lists = new Set(states.map(({ media }) => media))
  return [...new Set([...lists].flat())]
}

/** The files that are stored under some ids. */
export async function storedFiles(ids: Iterable<string>): Promise<Files> {
  const found = new Map<string, Blob>()
  for (const id of ids) {
    const file = await assets.getItem<Blob>(id)
    if (file) found.set(id, file)
  }
  return found
}

/** The asset that a medium of version 2 has become; it is made of what is stored when it is first asked for, the file before the note of it. */
async function assetOf(medium: ReturnType<typeof oldMedia>[number]): Promise<Asset | null> {
  // A file that cannot be restored counts as missing, and is reported where it is used.
  const made = (data: readonly string[]) => assetOfOld({ ...medium, data }).catch(() => null)
  const inside = await made(medium.data)
  if (inside) return inside
  const kept = await old.getItem<readonly string[] | Asset>(medium.id)
  if (!kept || 'bytes' in kept) return kept
  // No tab may let go of the file before it is noted what it is of.
  return alone(async () => {
    const asset = await made(kept)
    if (!asset) return null
    await keepFiles(await filesOf([asset]))
    await old.setItem(medium.id, asset)
    return asset
  })
}

/** A stored document in today's version; one of an unknown version is returned as it is. */
export async function upToDate(raw: unknown): Promise<unknown> {
  const found = new Map<string, Asset>()
  for (const medium of oldMedia(raw)) {
    const asset = await assetOf(medium)
    if (asset) found.set(medium.id, asset)
  }
  return migrated(raw, found)
}

/** Lets go of the files that none of these ids name: ids of assets, or, in records of version 2, of media. */
export async function keepOnly(used: ReadonlySet<string>): Promise<void> {
  const named = new Set(used)
  for (const id of await old.keys()) {
    if (!used.has(id)) await old.removeItem(id)
    else {
      const kept = await old.getItem<readonly string[] | Asset>(id)
      if (kept && 'bytes' in kept) named.add(kept.id)
    }
  }
  for (const id of await assets.keys()) if (!named.has(id)) await assets.removeItem(id)
}
