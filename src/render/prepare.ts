import { modelsIn, picturesIn } from '@/core/display'
import type { Loop } from '@/core/document'
import { evaluate, exposures, type Look } from '@/core/evaluate'
import { type PictureFile, pictureFile, placeOfPicture, readPictureFile } from '@/core/media'
import { bringModels } from './models/at-hand'
import type { Pictures } from './painters/painter'

/** Decoded pictures are kept under this, bytes; a few are kept however large they are. */
const CEILING = 96 * 1024 * 1024
const MIN_KEPT = 8

interface Decoded {
  readonly bytes: number
  readonly bitmap: Promise<ImageBitmap | null>
  /** How many frames that are being drawn need it: it is not let go before they are. */
  pins: number
}

/** Decoded files, by asset and part; the most recently used one is last. */
const decoded = new Map<string, Decoded>()

const keyOf = ({ asset, part }: PictureFile): string => `${asset.id} ${part}`

/** A picture that is missing or cannot be decoded is left out of what is drawn, and named by whoever shows or writes the loop. */
async function decode(file: PictureFile): Promise<ImageBitmap | null> {
  const blob = await readPictureFile(file)
  // A missing file may be there the next time.
  if (!blob) decoded.delete(keyOf(file))
  return blob && createImageBitmap(blob).catch(() => null)
}

/** The decoded form of a picture, pinned. */
function pin(file: PictureFile): Decoded {
  const key = keyOf(file)
  const own = decoded.get(key) ?? { bytes: file.width * file.height * 4, bitmap: decode(file), pins: 0 }
  decoded.delete(key)
  decoded.set(key, own)
  own.pins++
  return own
}

/** Closes what was not used for longest, until the rest stays under the ceiling; nothing that is still to be drawn. */
function makeRoom(): void {
  let bytes = [...decoded.values()].reduce((sum, each) => sum + each.bytes, 0)
  for (const [id, { pins, bytes: size, bitmap }] of decoded) {
    if (bytes <= CEILING || decoded.size <= MIN_KEPT) return
    if (pins > 0) continue
    decoded.delete(id)
    bytes -= size
    void bitmap.then((picture) => picture?.close())
  }
}

/** Resources for painting a frame; they stay until they are released. */
export interface Prepared {
  readonly pictures: Pictures
  /** Ids of the stills and clips that the frame shows and that are not there, or cannot be decoded. */
  readonly missing: readonly string[]
  readonly release: () => void
}

const NOTHING: Prepared = { pictures: new Map(), missing: [], release: () => {} }

/** A picture that a frame shows is not there, or cannot be decoded: what is drawn would have a hole. */
export class MissingPicture extends Error {
  override readonly name = 'MissingPicture'
}

/** Words for missing files. */
function missingWords(loop: Loop, ids: readonly string[]): string {
  const names = ids.map((id) => loop.media.find((each) => each.id === id)?.name ?? id)
  return `${names.map((name) => `“${name}”`).join(' and ')} ${names.length > 1 ? 'are' : 'is'} missing or cannot be decoded`
}

/**
 * Gathers what a frame of a loop needs, as `look` shows it: on the ring, or unreduced. This is the only step that waits; painting
 * does not.
 */
export async function prepare(loop: Loop, frame: number, look: Look = evaluate): Promise<Prepared> {
  if (loop.media.length === 0) return NOTHING
  const shown = exposures(loop, frame).map((n) => look(loop, n).nodes)
  const names = [...new Set(shown.flatMap(picturesIn))]
  const models = shown.flatMap(modelsIn)
  const lost = models.length > 0 ? await bringModels(models) : []
  const holes = models.filter(({ file }) => lost.includes(file)).map(({ model }) => model)
  const pinned = names.map((name) => {
    const file = pictureFile(loop.media, name)
    return [name, file && pin(file)] as const
  })
  const pictures = new Map<string, ImageBitmap>()
  for (const [name, found] of pinned) {
    const bitmap = await found?.bitmap
    if (bitmap) pictures.set(name, bitmap)
  }
  let released = false
  return {
    pictures,
    missing: [
      ...new Set([...names.filter((name) => !pictures.has(name)).map((name) => placeOfPicture(name).medium), ...holes]),
    ],
    release: () => {
      if (released) return
      released = true
      for (const [, found] of pinned) if (found) found.pins--
      makeRoom()
    },
  }
}

/** Prepares a frame, paints it, and lets go of what it needed. What is missing is left out. */
export async function painted<T>(
  loop: Loop,
  frame: number,
  paint: (pictures: Pictures, missing: readonly string[]) => T,
  look?: Look,
): Promise<T> {
  const { pictures, missing, release } = await prepare(loop, frame, look)
  try {
    return paint(pictures, missing)
  } finally {
    release()
  }
}

/** painted, for what is written or judged: without a hole, or not at all. @throws MissingPicture */
export const paintedWhole = <T>(loop: Loop, frame: number, paint: (pictures: Pictures) => T, look?: Look): Promise<T> =>
  painted(
    loop,
    frame,
    (pictures, missing) => {
      if (missing.length > 0)
        throw new MissingPicture(
          `${missingWords(loop, missing)}, and frame ${frame} shows it. Bring it in again, or delete or hide its layer.`,
        )
      return paint(pictures)
    },
    look,
  )
