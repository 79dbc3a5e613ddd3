import { strFromU8, strToU8, zipSync } from 'fflate'
import {
  formatLoop,
  type Loop,
  LoopFileError,
  MAX_FILE,
  migrated,
  oldMedia,
  parsedJson,
  readLoop,
  unopenable,
} from '@/core/document'
import {
  type Asset,
  assetsIn,
  fileOf,
  MAX_CLIP_FRAMES,
  MAX_SOURCE_BYTES,
  type Medium,
  madeAsset,
  mediumKind,
} from '@/core/media'
import { UnzipError, unzipped } from './unzip'

/** The names of what a project archive holds. */
const DOCUMENT = 'loop.cyclon.json'
const MEDIA = 'media/'
/** Limits of an unpacked archive: bytes, and number of files. */
const MAX_UNPACKED_BYTES = 512 * 1024 * 1024
const MAX_FILES = 4 * MAX_CLIP_FRAMES

const ENDINGS: Readonly<Record<string, string>> = {
  'image/png': '.png',
  'image/jpeg': '.jpg',
  'image/webp': '.webp',
  'image/gif': '.gif',
  'image/avif': '.avif',
  'video/mp4': '.mp4',
  'video/quicktime': '.mov',
  'video/webm': '.webm',
  'video/x-matroska': '.mkv',
  'application/zip': '.zip',
}

/** Path of file n of `count` in the archive, from the name of its owner. */
const pathOf = (of: string, type: string, n: number, count: number | null): string =>
  `${MEDIA}${of}${count === null ? '' : `/${String(n).padStart(4, '0')}`}${ENDINGS[type] ?? ''}`

/** Paths of the files of an asset in the archive. */
const pathsOf = ({ id, type, parts }: Asset): string[] =>
  parts ? parts.map((_, n) => pathOf(id, type, n, parts.length)) : [pathOf(id, type, 0, null)]

const nameOf = (media: readonly Medium[], asset: Asset): string =>
  media.find((medium) => assetsIn([medium]).some(({ id }) => id === asset.id))?.name ?? asset.id

/** The bytes of an asset. @throws LoopFileError where they are missing */
async function bytesOf(asset: Asset, media: readonly Medium[]): Promise<Uint8Array<ArrayBuffer>> {
  const file = await fileOf(asset.id)
  if (!file || file.size !== asset.bytes || asset.bytes === 0)
    throw new LoopFileError(
      `The file of “${nameOf(media, asset)}” in the loop is missing, so that the archive would have a hole.`,
      'Bring the picture or clip in again, or delete the layers that show it.',
    )
  return new Uint8Array(await file.arrayBuffer())
}

/**
 * A document that holds media, as a `.cyclon.zip`: its JSON, and the pictures and the frames of clips as files.
 * @throws LoopFileError where the archive would be one that is not opened again
 */
export async function zipProject(loop: Loop): Promise<Uint8Array<ArrayBuffer>> {
  const problem = unopenable(loop)
  if (problem)
    throw new LoopFileError(`${problem}, so that the archive could not be opened again.`, 'Undo what made it so.')
  const document = strToU8(formatLoop(loop))
  const assets = assetsIn(loop.media)
  const count = assets.reduce((sum, { parts }) => sum + (parts?.length ?? 1), 1)
  const total = assets.reduce((sum, { bytes }) => sum + bytes, document.length)
  if (total > MAX_UNPACKED_BYTES || count > MAX_FILES)
    throw new LoopFileError(
      `The loop holds ${Math.round(total / 1e6)} MB in ${count} files; an archive of up to ${Math.round(MAX_UNPACKED_BYTES / 1e6)} MB in ${MAX_FILES} files can be opened again.`,
      'Take a clip or picture out of it, or bring it in smaller or shorter.',
    )
  const files: Parameters<typeof zipSync>[0] = { [DOCUMENT]: document }
  for (const asset of assets) {
    const bytes = await bytesOf(asset, loop.media)
    let from = 0
    for (const [n, path] of pathsOf(asset).entries()) {
      const size = asset.parts?.[n] ?? asset.bytes
      files[path] = [bytes.subarray(from, from + size), { level: 0 }]
      from += size
    }
  }
  return zipSync(files) as Uint8Array<ArrayBuffer>
}

/** Whether bytes begin as a ZIP archive does. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/** The files of an archive that belong to a project. @throws LoopFileError where it is broken or too large */
function unpacked(bytes: Uint8Array): Record<string, Uint8Array<ArrayBuffer>> {
  const bounds = {
    mostBytes: MAX_UNPACKED_BYTES,
    mostBytesOf: (name: string) => (name === DOCUMENT ? 4 * MAX_FILE : MAX_SOURCE_BYTES),
    mostFiles: MAX_FILES,
  }
  try {
    return unzipped(bytes, bounds, (name) => name === DOCUMENT || name.startsWith(MEDIA))
  } catch (error) {
    if (error instanceof UnzipError && error.why !== 'damaged')
      throw new LoopFileError(
        'The archive unpacks to more than any loop needs.',
        'It was not opened. Check where it came from.',
      )
    throw new LoopFileError(
      'The archive is damaged or breaks off.',
      'It may not have been copied completely; try another copy.',
    )
  }
}

/**
 * The document in a `.cyclon.zip`; its files are taken to hand.
 * @throws LoopFileError when the archive is broken or too large, or lacks the document or one of its media.
 */
export async function unzipProject(bytes: Uint8Array): Promise<Loop> {
  const files = unpacked(bytes)
  const text = files[DOCUMENT]
  if (!text)
    throw new LoopFileError(
      'This archive holds no Cyclon loop.',
      `A project archive has a file “${DOCUMENT}” at its top.`,
    )
  const raw = parsedJson(strFromU8(text))
  const taken = (path: string, words: string): Uint8Array<ArrayBuffer> => {
    const file = files[path]
    if (!file)
      throw new LoopFileError(`${words} is missing from the archive.`, 'Save the project again where it is whole.')
    return file
  }
  // Files of version 2 are named by the ids of their media.
  const old = new Map<string, Asset>()
  for (const { id, name, type, data, single } of oldMedia(raw)) {
    const found = data.map((_, n) =>
      taken(
        pathOf(id, type, n, data.length > 1 ? data.length : null),
        data.length > 1 ? `Frame ${n} of the clip “${name}”` : `The picture “${name}”`,
      ),
    )
    if (found.length > 0) old.set(id, await madeAsset(type, single ? (found[0] as Uint8Array<ArrayBuffer>) : found))
  }
  const loop = readLoop(migrated(raw, old))
  if (old.size > 0) return loop
  for (const medium of loop.media)
    for (const asset of mediumKind(medium.kind).assets(medium)) {
      const { id, type, parts } = asset
      const what = (n: number) => (parts ? `Frame ${n} of “${medium.name}”` : `The file of “${medium.name}”`)
      const found = pathsOf(asset).map((path, n) => taken(path, what(n)))
      const made = await madeAsset(type, parts ? found : (found[0] as Uint8Array<ArrayBuffer>))
      if (made.id !== id || made.bytes !== asset.bytes)
        throw new LoopFileError(
          `The files of “${medium.name}” in the archive are not the ones that were saved: they were changed, or are damaged.`,
          'Put the first ones back, or open another copy of the archive.',
        )
    }
  return loop
}
