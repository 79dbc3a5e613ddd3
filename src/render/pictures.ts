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
}

/** Media never change under their ids. */
const stills = new Map<string, StillPicture>()
const clips = new Map<string, Clip>()
/** What is decoded, the one that was used last at the end. */
const decoded = new Map<string, Decoded>()
/** What has had to make room; closed when nothing that was asked for is still to be drawn. */
let leaving: Decoded[] = []
/** Gatherings whose pictures are not all there yet. */
let gathering = 0

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

function bitmapOf(id: string): Promise<ImageBitmap | null> {
  const known = decoded.get(id)
  decoded.delete(id)
  const file = known ? null : fileOf(id)
  if (!known && !file) return Promise.resolve(null)
  const own = known ?? { bytes: file?.bytes ?? 0, bitmap: decode(file?.data ?? '', file?.type ?? '') }
  decoded.set(id, own)
  let bytes = [...decoded.values()].reduce((sum, each) => sum + each.bytes, 0)
  for (const [oldest, each] of decoded) {
    if (bytes <= CEILING || decoded.size <= FEWEST) break
    decoded.delete(oldest)
    bytes -= each.bytes
    leaving.push(each)
  }
  return own.bitmap
}

/**
 * Closes what had to make room. What was gathered is drawn as soon as it is there, before any timer; so nothing is closed that is still
 * to be drawn.
 */
function closeLater(): void {
  setTimeout(() => {
    if (gathering > 0) return
    const closing = leaving
    leaving = []
    for (const { bitmap } of closing) void bitmap.then((picture) => picture?.close())
  })
}

const NONE: Pictures = new Map()

/** A picture that a frame shows is not there, or cannot be decoded: what is drawn would have a hole. */
export class MissingPicture extends Error {
  override readonly name = 'MissingPicture'
}

/** Ids of the stills and clips that a frame shows and of which no picture was gathered. */
export function missingAt(loop: Loop, frame: number, pictures: Pictures, look: Look = evaluate): string[] {
  if (loop.pictures.length === 0 && loop.clips.length === 0) return []
  const shown = exposures(loop, frame).flatMap((n) => picturesIn(look(loop, n).nodes))
  const missing = shown.filter((id) => !pictures.has(id)).map((id) => clipFrameOf(id)?.clip ?? id)
  return [...new Set(missing)]
}

/** What is missing, in words. */
export function missingWords(loop: Loop, ids: readonly string[]): string {
  const names = ids.map((id) => [...loop.pictures, ...loop.clips].find((each) => each.id === id)?.name ?? id)
  return `${names.map((name) => `“${name}”`).join(' and ')} ${names.length > 1 ? 'are' : 'is'} missing or cannot be decoded`
}

/** The pictures that a frame shows, every one of them: for what is written or judged. @throws MissingPicture */
export async function allPicturesAt(loop: Loop, frame: number, look: Look = evaluate): Promise<Pictures> {
  const pictures = await picturesAt(loop, frame, look)
  const missing = missingAt(loop, frame, pictures, look)
  if (missing.length > 0)
    throw new MissingPicture(
      `${missingWords(loop, missing)}, and frame ${frame} shows it. Bring it in again, or delete or hide its layer.`,
    )
  return pictures
}

/**
 * The pictures that a frame of a loop shows, as `look` shows it: on the ring, or unreduced. Media that came before may come
 * without their data. They are to be drawn at once, without waiting for anything else: they may be let go afterwards.
 */
export async function picturesAt(loop: Loop, frame: number, look: Look = evaluate): Promise<Pictures> {
  if (loop.pictures.length === 0 && loop.clips.length === 0) return NONE
  for (const still of loop.pictures) if (still.data) stills.set(still.id, still)
  for (const clip of loop.clips) if (clip.frames[0]) clips.set(clip.id, clip)
  const shown = loop.clips.length > 0 ? exposures(loop, frame).flatMap((n) => picturesIn(look(loop, n).nodes)) : []
  const ids = new Set([...loop.pictures.map(({ id }) => id), ...shown])
  gathering++
  try {
    const bitmaps = await Promise.all([...ids].map(async (id) => [id, await bitmapOf(id)] as const))
    return new Map(bitmaps.filter((each): each is [string, ImageBitmap] => each[1] !== null))
  } finally {
    gathering--
    if (leaving.length > 0) closeLater()
  }
}
