import { type Asset, idOfBytes, partOf } from './asset'

/** The files of assets, by their ids. */
export type Files = ReadonlyMap<string, Blob>

/** The files that are at hand in this page, worker or thread. They never change, and a blob is not read before it is needed. */
const atHand = new Map<string, Blob>()
let elsewhere: (id: string) => Promise<Blob | null> = async () => null

/** From now on files that are not at hand are looked for there, too. */
export function lookElsewhere(look: (id: string) => Promise<Blob | null>): void {
  elsewhere = look
}

/** Takes files to hand. */
export function keepAtHand(files: Files): void {
  for (const [id, file] of files) atHand.set(id, file)
}

/** The file of an asset; null where it is missing. */
export async function fileOf(id: string): Promise<Blob | null> {
  const known = atHand.get(id)
  if (known) return known
  const found = await elsewhere(id)
  if (found) atHand.set(id, found)
  return found
}

/** One of the files that an asset holds, not yet read; null where it is missing. */
export async function partFile(asset: Asset, n: number): Promise<Blob | null> {
  const place = partOf(asset, n)
  const file = place && (await fileOf(asset.id))
  // A file that is there, and is not what it should be, is as good as missing.
  return place && file && file.size === asset.bytes && place.to > place.from
    ? file.slice(place.from, place.to, asset.type)
    : null
}

/** Those files of some assets that are there. */
export async function filesOf(assets: readonly Asset[]): Promise<Files> {
  const found = new Map<string, Blob>()
  for (const { id } of assets) {
    const file = found.has(id) ? null : await fileOf(id)
    if (file) found.set(id, file)
  }
  return found
}

/** Makes an asset of a file, or of several that belong together, and takes it to hand. */
export async function madeAsset(
  type: string,
  file: Uint8Array<ArrayBuffer> | readonly Uint8Array<ArrayBuffer>[],
): Promise<Asset> {
  const blob = new Blob(file instanceof Uint8Array ? [file] : [...file], { type })
  const id = await idOfBytes(file instanceof Uint8Array ? file : new Uint8Array(await blob.arrayBuffer()))
  atHand.set(id, blob)
  const parts = file instanceof Uint8Array ? {} : { parts: file.map(({ length }) => length) }
  return { id, type, bytes: blob.size, ...parts }
}
