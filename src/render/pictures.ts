import type { Loop, StillPicture } from '@/core/loop'
import type { Pictures } from './draw'

const decoded = new WeakMap<StillPicture, Promise<ImageBitmap | null>>()

/** A picture that cannot be decoded is left out of what is drawn; it was looked at when it came in. */
function decode(picture: StillPicture): Promise<ImageBitmap | null> {
  const known = decoded.get(picture)
  if (known) return known
  const bytes = Uint8Array.from(atob(picture.data), (char) => char.charCodeAt(0))
  const bitmap = createImageBitmap(new Blob([bytes], { type: picture.type })).catch(() => null)
  decoded.set(picture, bitmap)
  return bitmap
}

const NONE: Pictures = new Map()
let latest: { readonly ids: string; readonly pictures: Pictures } | null = null

/**
 * The still pictures of a loop, decoded once. A loop that comes by message has fresh objects every time; pictures never
 * change under their ids, so those of the last loop serve again.
 */
export async function picturesOf({ pictures }: Pick<Loop, 'pictures'>): Promise<Pictures> {
  if (pictures.length === 0) return NONE
  const ids = pictures.map(({ id }) => id).join(' ')
  if (latest?.ids === ids) return latest.pictures
  const bitmaps = await Promise.all(pictures.map(async (each) => [each.id, await decode(each)] as const))
  latest = { ids, pictures: new Map(bitmaps.filter((each): each is [string, ImageBitmap] => each[1] !== null)) }
  return latest.pictures
}
