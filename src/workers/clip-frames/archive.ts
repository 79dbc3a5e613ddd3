import { unzipSync } from 'fflate'
import { ClipError } from '@/codecs/claims'
import { picturesAmong } from '@/core/footage/numbering'

/** The most that an archive may unpack to, bytes. */
const LARGEST = 512 * 1024 * 1024

/** The pictures in a ZIP, in their order. @throws ClipError where it is damaged, too large, or holds none. */
export async function unzipped(file: File): Promise<File[]> {
  const names: string[] = []
  let total = 0
  let files: Record<string, Uint8Array>
  const bytes = new Uint8Array(await file.arrayBuffer())
  try {
    // First what there is, then no more of it than is read.
    unzipSync(bytes, {
      filter: ({ name }) => {
        names.push(name)
        return false
      },
    })
    if (names.includes('loop.cyclon.json'))
      throw new ClipError(`${file.name} is a Cyclon loop. Open it in the library instead.`)
    const wanted = new Set(picturesAmong(names))
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!wanted.has(name)) return false
        total += originalSize
        if (total > LARGEST)
          throw new ClipError(
            `${file.name} unpacks to more than ${Math.round(LARGEST / 1e6)} MB. Unpack it, and give fewer pictures.`,
          )
        return true
      },
    })
  } catch (error) {
    if (error instanceof ClipError) throw error
    throw new ClipError(`${file.name} is damaged or breaks off. Fetch or pack it again.`)
  }
  const found = picturesAmong(Object.keys(files))
  if (found.length === 0)
    throw new ClipError(`${file.name} holds no pictures that can be read: GIF, PNG, JPEG, WebP and AVIF can.`)
  return found.map((name) => new File([files[name] as Uint8Array<ArrayBuffer>], name.slice(name.lastIndexOf('/') + 1)))
}
