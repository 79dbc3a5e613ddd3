import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { fromBase64, toBase64 } from '@/core/base64'
import {
  formatLoop,
  LARGEST_PICTURE,
  type Loop,
  LoopFileError,
  MOST_CLIP_FRAMES,
  mediaOf,
  parseLoop,
  unopenable,
  withMedia,
  withoutMedia,
} from '@/core/document'

/** The names of what a project archive holds. */
const DOCUMENT = 'loop.cyclon.json'
const MEDIA = 'media/'
/** So much may an archive hold when it is unpacked, bytes, and so many files. */
const LARGEST = 512 * 1024 * 1024
const MOST_FILES = 4 * MOST_CLIP_FRAMES

const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const

/** What the file of a picture, or of frame n of a clip, is called in the archive. */
const pathOf = (id: string, type: keyof typeof ENDINGS, n: number, count: number): string =>
  `${MEDIA}${id}${count > 1 ? `/${String(n).padStart(4, '0')}` : ''}.${ENDINGS[type]}`

/**
 * A document that holds media, as a `.cyclon.zip`: its JSON, and the pictures and the frames of clips as files.
 * @throws LoopFileError where the archive would be one that is not opened again
 */
export function zipProject(loop: Loop): Uint8Array<ArrayBuffer> {
  const problem = unopenable(loop)
  if (problem)
    throw new LoopFileError(`${problem}, so that the archive could not be opened again.`, 'Undo what made it so.')
  const media = [...mediaOf(loop)].flatMap(([id, files]) =>
    files.map(
      ({ type, data }, n) => [pathOf(id, type, n, files.length), [fromBase64(data), { level: 0 as const }]] as const,
    ),
  )
  const document = strToU8(formatLoop(withoutMedia(loop)))
  const total = media.reduce((sum, [, [bytes]]) => sum + bytes.length, document.length)
  const largest = media.find(([, [bytes]]) => bytes.length > LARGEST_PICTURE)
  if (total > LARGEST || media.length + 1 > MOST_FILES || largest)
    throw new LoopFileError(
      largest
        ? `The file ${largest[0]} of the loop has more than ${LARGEST_PICTURE / 1024 / 1024} MB.`
        : `The loop holds ${Math.round(total / 1e6)} MB in ${media.length} files; an archive of up to ${Math.round(LARGEST / 1e6)} MB in ${MOST_FILES} files can be opened again.`,
      'Take a clip or picture out of it, or bring it in smaller or shorter.',
    )
  const missing = media.find(([, [bytes]]) => bytes.length === 0)
  if (missing)
    throw new LoopFileError(
      `The file ${missing[0]} of the loop is missing, so that the archive would have a hole.`,
      'Bring the picture or clip in again, or delete the layers that show it.',
    )
  const files = { [DOCUMENT]: document, ...Object.fromEntries(media) }
  return zipSync(files as Parameters<typeof zipSync>[0]) as Uint8Array<ArrayBuffer>
}

/** Whether bytes begin as a ZIP archive does. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/**
 * The document in a `.cyclon.zip`.
 * @throws LoopFileError when the archive is broken or too large, or lacks the document or one of its media.
 */
export function unzipProject(bytes: Uint8Array): Loop {
  let files: Record<string, Uint8Array>
  let [total, count] = [0, 0]
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name !== DOCUMENT && !name.startsWith(MEDIA)) return false
        total += originalSize
        count++
        if (total > LARGEST || count > MOST_FILES || (name !== DOCUMENT && originalSize > LARGEST_PICTURE))
          throw new LoopFileError(
            'The archive unpacks to more than any loop needs.',
            'It was not opened. Check where it came from.',
          )
        return true
      },
    })
  } catch (error) {
    if (error instanceof LoopFileError) throw error
    throw new LoopFileError(
      'The archive is damaged or breaks off.',
      'It may not have been copied completely; try another copy.',
    )
  }
  const text = files[DOCUMENT]
  if (!text)
    throw new LoopFileError(
      'This archive holds no Cyclon loop.',
      `A project archive has a file “${DOCUMENT}” at its top.`,
    )
  const loop = parseLoop(strFromU8(text))
  const names = new Map([...loop.pictures, ...loop.clips].map(({ id, name }) => [id, name]))
  const found = new Map(
    [...mediaOf(loop)].map(([id, media]) => [
      id,
      media.map(({ type }, n) => {
        const file = files[pathOf(id, type, n, media.length)]
        if (!file)
          throw new LoopFileError(
            media.length > 1
              ? `Frame ${n} of the clip “${names.get(id)}” is missing from the archive.`
              : `The picture “${names.get(id)}” is missing from the archive.`,
            'Save the project again where it is whole.',
          )
        return toBase64(file)
      }),
    ]),
  )
  return withMedia(loop, (id) => found.get(id))
}
