import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { fromBase64, toBase64 } from '@/core/base64'
import { formatLoop, LARGEST_PICTURE, type Loop, LoopFileError, parseLoop } from '@/core/loop'

/** The names of what a project archive holds. */
const DOCUMENT = 'loop.cyclon.json'
const MEDIA = 'media/'
/** So much may an archive hold when it is unpacked, bytes, and so many files. */
const LARGEST = 512 * 1024 * 1024
const MOST_FILES = 500

const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const

/** A document that holds pictures, as a `.cyclon.zip`: its JSON, and the pictures as they came. */
export function zipProject(loop: Loop): Uint8Array<ArrayBuffer> {
  const media = loop.pictures.map((picture) => {
    const bytes = fromBase64(picture.data)
    return [`${MEDIA}${picture.id}.${ENDINGS[picture.type]}`, [bytes, { level: 0 }]] as const
  })
  const light = { ...loop, pictures: loop.pictures.map((picture) => ({ ...picture, data: '' })) }
  const files = { [DOCUMENT]: strToU8(formatLoop(light)), ...Object.fromEntries(media) }
  return zipSync(files as Parameters<typeof zipSync>[0]) as Uint8Array<ArrayBuffer>
}

/** Whether bytes begin as a ZIP archive does. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/**
 * The document in a `.cyclon.zip`.
 * @throws LoopFileError when the archive is broken or too large, or lacks the document or one of its pictures.
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
  const pictures = loop.pictures.map((picture) => {
    const found = files[`${MEDIA}${picture.id}.${ENDINGS[picture.type]}`]
    if (!found)
      throw new LoopFileError(
        `The picture “${picture.name}” is missing from the archive.`,
        'Save the project again where it is whole.',
      )
    return { ...picture, data: toBase64(found) }
  })
  return { ...loop, pictures }
}
