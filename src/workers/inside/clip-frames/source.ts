import { zipSync } from 'fflate'
import { type Clip, MAX_SOURCE_BYTES, madeAsset } from '@/core/media'

/** Source of a clip as one file: as imported, or as an archive of several; null if it is too large to keep. */
export async function sourceOf(files: readonly File[]): Promise<Clip['source'] | null> {
  const [file] = files
  if (!file || files.reduce((sum, { size }) => sum + size, 0) > MAX_SOURCE_BYTES - 1024 * files.length) return null
  const bytes = async (of: File) => new Uint8Array(await of.arrayBuffer())
  if (files.length === 1)
    return {
      name: file.name.slice(-255),
      file: await madeAsset(file.type || 'application/octet-stream', await bytes(file)),
    }
  const parts: Record<string, Uint8Array> = {}
  for (const [n, each] of files.entries()) parts[`${String(n).padStart(5, '0')}-${each.name}`] = await bytes(each)
  const archive = zipSync(parts, { level: 0 }) as Uint8Array<ArrayBuffer>
  return { name: `${file.name}.zip`.slice(-255), file: await madeAsset('application/zip', archive) }
}
