import { fromBase64 } from '@/core/base64'
import {
  type Clip,
  clipFrameOf,
  type DisplayNode,
  evaluate,
  exposures,
  type Look,
  type Loop,
  type StillPicture,
} from '@/core/loop'
import type { Pictures } from './draw'

/** Frames of clips are decoded when they are drawn, and kept under this, bytes; a few are kept however large they are. */
const CEILING = 96 * 1024 * 1024
const FEWEST = 8

/** Media never change under their ids. */
const stills = new Map<string, Promise<ImageBitmap | null>>()
const clips = new Map<string, Clip>()
/** The frames of clips that are decoded, the one that was used last at the end. */
const decoded = new Map<string, { readonly bytes: number; readonly bitmap: Promise<ImageBitmap | null> }>()

/** A picture that cannot be decoded is left out of what is drawn; it was looked at when it came in. */
const decode = (data: string, type: string): Promise<ImageBitmap | null> =>
  createImageBitmap(new Blob([fromBase64(data)], { type })).catch(() => null)

function stillOf({ id, data, type }: StillPicture): Promise<ImageBitmap | null> {
  const known = stills.get(id)
  if (known) return known
  const bitmap = decode(data, type)
  stills.set(id, bitmap)
  return bitmap
}

function frameOf(id: string): Promise<ImageBitmap | null> {
  const known = decoded.get(id)
  decoded.delete(id)
  const place = clipFrameOf(id)
  const clip = place && clips.get(place.clip)
  const data = clip?.frames[place?.frame ?? 0]
  if (!known && !(clip && data)) return Promise.resolve(null)
  const own = known ?? {
    bytes: (clip?.width ?? 0) * (clip?.height ?? 0) * 4,
    bitmap: decode(data ?? '', clip?.type ?? ''),
  }
  decoded.set(id, own)
  let bytes = [...decoded.values()].reduce((sum, each) => sum + each.bytes, 0)
  for (const [oldest, each] of decoded) {
    if (bytes <= CEILING || decoded.size <= FEWEST) break
    decoded.delete(oldest)
    bytes -= each.bytes
    void each.bitmap.then((bitmap) => bitmap?.close())
  }
  return own.bitmap
}

/** Ids of the frames of clips in what is drawn. */
const clipFramesIn = (nodes: readonly DisplayNode[]): string[] =>
  nodes.flatMap((node) =>
    node.type === 'group'
      ? clipFramesIn(node.children)
      : node.type === 'picture' && clipFrameOf(node.id)
        ? node.id
        : [],
  )

const NONE: Pictures = new Map()

/**
 * The pictures that a frame of a loop shows, as `look` shows it: on the ring, or unreduced. Media that came before may come
 * without their data. They are to be drawn at once: frames of clips are let go when others are asked for.
 */
export async function picturesAt(loop: Loop, frame: number, look: Look = evaluate): Promise<Pictures> {
  if (loop.pictures.length === 0 && loop.clips.length === 0) return NONE
  for (const clip of loop.clips) if (clip.frames[0]) clips.set(clip.id, clip)
  const shown = loop.clips.length > 0 ? exposures(loop, frame).flatMap((n) => clipFramesIn(look(loop, n).nodes)) : []
  const bitmaps = await Promise.all([
    ...loop.pictures.map(async (each) => [each.id, await stillOf(each)] as const),
    ...[...new Set(shown)].map(async (id) => [id, await frameOf(id)] as const),
  ])
  return new Map(bitmaps.filter((each): each is [string, ImageBitmap] => each[1] !== null))
}
