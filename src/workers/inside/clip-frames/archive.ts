import { ClipError, MAX_CLAIMED_FRAMES } from '@/codecs/claims'
import { namesInZip, UnzipError, unzipped } from '@/codecs/unzip'
import { picturesAmong } from '@/core/media/numbering'

/** The most that an archive may unpack to, bytes. */
const MAX_UNPACKED_BYTES = 512 * 1024 * 1024

/** The pictures in a ZIP, in their order. @throws ClipError where it is damaged, too large, or holds none. */
export async function picturesInZip(file: File): Promise<File[]> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  let files: Record<string, Uint8Array>
  try {
    // First what there is, then no more of it than is read.
    const names = namesInZip(bytes)
    if (names.includes('loop.cyclon.json'))
      throw new ClipError(`${file.name} is a Cyclon loop. Open it in the library instead.`)
    const wanted = new Set(picturesAmong(names))
    files = unzipped(bytes, { mostBytes: MAX_UNPACKED_BYTES, mostFiles: MAX_CLAIMED_FRAMES }, (name) =>
      wanted.has(name),
    )
  } catch (error) {
    if (error instanceof ClipError) throw error
    if (error instanceof UnzipError && error.why !== 'damaged')
      throw new ClipError(
        `${file.name} unpacks to more than ${Math.round(MAX_UNPACKED_BYTES / 1e6)} MB or ${MAX_CLAIMED_FRAMES} pictures. Unpack it, and give fewer of them.`,
      )
    throw new ClipError(`${file.name} is damaged or breaks off. Fetch or pack it again.`)
  }
  const found = picturesAmong(Object.keys(files))
  if (found.length === 0)
    throw new ClipError(`${file.name} holds no pictures that can be read: GIF, PNG, JPEG, WebP and AVIF can.`)
  return found.map((name) => new File([files[name] as Uint8Array<ArrayBuffer>], name.slice(name.lastIndexOf('/') + 1)))
}
