import { fromBase64 } from '@/core/base64'
import { picturesIn } from '@/core/display'
import { type Clip, clipFrameOf, type Loop, type StillPicture } from '@/core/document'
import { evaluate, exposures, type Look } from '@/core/evaluate'
import type { Pictures } from './painters/painter'

/** Decoded pictures are kept under this, bytes; a few are kept however large they are. */
const CEILING = 96 * 1024 * 1024
const FEWEST = 8

interface Decoded {
  readonly bytes: number
  readonly bitmap: Promise<ImageBitmap | null>
  /** How many frames that are being drawn need it: it is not let go before they are. */
  pins: number
}

/** Media never change under their ids. */
const stills = new Map<string, StillPicture>()
const clips = new Map<string, Clip>()
/** What is decoded, the one that was used last at the end. */
const decoded = new Map<string, Decoded>()

/** A picture that cannot be decoded is left out of what is drawn, and named by whoever shows or writes the loop. */
const decode = (data: string, type: string): Promise<ImageBitmap | null> =>
  createImageBitmap(new Blob([fromBase64(data)], { type })).catch(() => null)

/** The file of a still, or of a frame of a clip, with the size that it takes when it is decoded. */
function fileOf(id: string): { readonly data: string; readonly type: string; readonly bytes: number } | null {
  const place = clipFrameOf(id)
  const medium = place ? clips.get(place.clip) : stills.get(id)
  const data = place ? clips.get(place.clip)?.frames[place.frame] : stills.get(id)?.data
  return medium && data ? { data, type: medium.type, bytes: medium.width * medium.height * 4 } : null
}

/** What is decoded under an id, pinned; null where there is no file. */
function pin(id: string): Decoded | null {
  const known = decoded.get(id)
  decoded.delete(id)
  const file = known ? null : fileOf(id)
  if (!known && !file) return null
  const own = known ?? { bytes: file?.bytes ?? 0, bitmap: decode(file?.data ?? '', file?.type ?? ''), pins: 0 }
  own.pins++
  decoded.set(id, own)
  return own
}

/** Closes what was not used for longest, until the rest stays under the ceiling; nothing that is still to be drawn. */
function makeRoom(): void {
  let bytes = [...decoded.values()].reduce((sum, each) => sum + each.bytes, 0)
  for (const [id, { pins, bytes: size, bitmap }] of decoded) {
    if (bytes <= CEILING || decoded.size <= FEWEST) return
    if (pins > 0) continue
    decoded.delete(id)
    bytes -= size
    void bitmap.then((picture) => picture?.close())
  }
}

/** What a frame needs to be painted; it stays as it is until it is released. */
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

/** What is missing, in words. */
function missingWords(loop: Loop, ids: readonly string[]): string {
  const names = ids.map((id) => [...loop.pictures, ...loop.clips].find((each) => each.id === id)?.name ?? id)
  return `${names.map((name) => `“${name}”`).join(' and ')} ${names.length > 1 ? 'are' : 'is'} missing or cannot be decoded`
}

/**
 * Gathers what a frame of a loop needs, as `look` shows it: on the ring, or unreduced. This is the only step that waits; painting
 * does not. Media that came before may come without their data.
 */
export async function prepare(loop: Loop, frame: number, look: Look = evaluate): Promise<Prepared> {
  if (loop.pictures.length === 0 && loop.clips.length === 0) return NOTHING
  for (const still of loop.pictures) if (still.data) stills.set(still.id, still)
  for (const clip of loop.clips) if (clip.frames[0]) clips.set(clip.id, clip)
  const ids = [...new Set(exposures(loop, frame).flatMap((n) => picturesIn(look(loop, n).nodes)))]
  const pinned = ids.map((id) => [id, pin(id)] as const)
  const pictures = new Map<string, ImageBitmap>()
  for (const [id, found] of pinned) {
    const bitmap = await found?.bitmap
    if (bitmap) pictures.set(id, bitmap)
  }
  let released = false
  return {
    pictures,
    missing: [...new Set(ids.filter((id) => !pictures.has(id)).map((id) => clipFrameOf(id)?.clip ?? id))],
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
export const paintedWhole = <T>(loop: Loop, frame: number, paint: (pictures: Pictures) => T): Promise<T> =>
  painted(loop, frame, (pictures, missing) => {
    if (missing.length > 0)
      throw new MissingPicture(
        `${missingWords(loop, missing)}, and frame ${frame} shows it. Bring it in again, or delete or hide its layer.`,
      )
    return paint(pictures)
  })
