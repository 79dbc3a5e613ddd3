import { transfer } from 'comlink'
import { refuseHuge } from '@/codecs/claims/size'
import type { Picture } from '@/core/image'
import { reader } from './clip-frames/reader'

/** A picture as a bitmap that is handed over with the answer that it is in. */
export async function bitmapOf({ data, width, height }: Picture): Promise<ImageBitmap> {
  const bitmap = await createImageBitmap(new ImageData(new Uint8ClampedArray(data), width, height))
  return transfer(bitmap, [bitmap])
}

/**
 * Picture of a file; null if it cannot be read as one.
 * @throws ClipError where it is too large, or the browser gives no canvas
 */
export async function pictureOf(file: Blob): Promise<Picture | null> {
  refuseHuge(new Uint8Array(await file.arrayBuffer()), 'picture')
  const bitmap = await createImageBitmap(file).catch(() => null)
  if (!bitmap) return null
  const { width, height } = bitmap
  const picture = reader(width, height)((context) => context.drawImage(bitmap, 0, 0))
  bitmap.close()
  return picture
}
