import { fromBase64 } from '@/core/base64'
import type { Loop, StillPicture } from '@/core/loop'
import type { Pictures } from './draw'

/** Pictures never change under their ids. */
const decoded = new Map<string, Promise<ImageBitmap | null>>()

/** A picture that cannot be decoded is left out of what is drawn; it was looked at when it came in. */
function decode(picture: StillPicture): Promise<ImageBitmap | null> {
  const known = decoded.get(picture.id)
  if (known) return known
  const bytes = fromBase64(picture.data)
  const bitmap = createImageBitmap(new Blob([bytes], { type: picture.type })).catch(() => null)
  decoded.set(picture.id, bitmap)
  return bitmap
}

const NONE: Pictures = new Map()

/** The still pictures of a loop, decoded once. One that has been decoded before may come without its data. */
export async function picturesOf({ pictures }: Pick<Loop, 'pictures'>): Promise<Pictures> {
  if (pictures.length === 0) return NONE
  const bitmaps = await Promise.all(pictures.map(async (each) => [each.id, await decode(each)] as const))
  return new Map(bitmaps.filter((each): each is [string, ImageBitmap] => each[1] !== null))
}
