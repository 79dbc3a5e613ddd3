import { toBase64 } from '@/core/base64'
import { nodeType } from '@/core/display'
import type { Loop } from '@/core/document'
import { pictureFile, readPictureFile } from '@/core/media'
import { type VectorNode, vectorNodes } from '@/core/output'

/** A picture as it is written into a vector file. */
interface Embedded {
  readonly url: string
  /** px */
  readonly width: number
  readonly height: number
}

/** Pictures by the names that display lists have for them. */
export type EmbeddedPictures = ReadonlyMap<string, Embedded>

const namesIn = (nodes: readonly VectorNode[]): string[] =>
  nodes.flatMap(({ at: [first], children }) => [
    ...((first && nodeType(first).pictures?.(first)) ?? []),
    ...namesIn(children),
  ])

/** The pictures that vector files of a loop hold, as data: URLs (RFC 2397). @throws Error where one is missing */
export async function embeddedPictures(loop: Loop): Promise<EmbeddedPictures> {
  const found = new Map<string, Embedded>()
  if (loop.media.length === 0) return found
  for (const name of new Set(namesIn(vectorNodes(loop)))) {
    const file = pictureFile(loop.media, name)
    const blob = file && (await readPictureFile(file))
    if (!file || !blob)
      throw new Error(
        `The file of “${file?.medium.name ?? name}” is missing, so that the vectors would have a hole. Bring it in again, or delete or hide its layer.`,
      )
    const data = toBase64(new Uint8Array(await blob.arrayBuffer()))
    found.set(name, { url: `data:${file.asset.type};base64,${data}`, width: file.width, height: file.height })
  }
  return found
}
