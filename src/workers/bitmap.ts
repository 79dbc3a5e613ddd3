import { transfer } from 'comlink'
import type { Picture } from '@/core/image'

/** A picture as a bitmap that is handed over with the answer that it is in. */
export async function bitmapOf({ data, width, height }: Picture): Promise<ImageBitmap> {
  const bitmap = await createImageBitmap(new ImageData(new Uint8ClampedArray(data), width, height))
  return transfer(bitmap, [bitmap])
}
