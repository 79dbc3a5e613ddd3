import type { Clip, Loop } from './document'

/** A media file that a document holds: a still picture, or a frame of a clip. */
export interface MediaFile {
  readonly type: Clip['type']
  /** In base64. */
  readonly data: string
}

/** Ids of the pictures and clips of a document. */
export const mediaIds = ({ pictures, clips }: Loop): string[] => [...pictures, ...clips].map(({ id }) => id)

/** Whether there are files in a document beside its own words and numbers. */
export const holdsMedia = ({ pictures, clips }: Pick<Loop, 'pictures' | 'clips'>): boolean =>
  pictures.length > 0 || clips.length > 0

/** The files of each picture and clip, by its id. A picture has one, a clip one for each frame. */
export const mediaOf = ({ pictures, clips }: Loop): ReadonlyMap<string, readonly MediaFile[]> =>
  new Map<string, readonly MediaFile[]>([
    ...pictures.map(({ id, type, data }) => [id, [{ type, data }]] as const),
    ...clips.map(({ id, type, frames }) => [id, frames.map((data) => ({ type, data }))] as const),
  ])

const light = new WeakMap<readonly Clip[], readonly Clip[]>()
/** States of one document share their clips, and so they do without the files. */
function lightClips(clips: readonly Clip[]): readonly Clip[] {
  const known = light.get(clips) ?? clips.map((each) => ({ ...each, frames: each.frames.map(() => '') }))
  light.set(clips, known)
  return known
}

/** The document with its files left out; withMedia puts them back. */
export function withoutMedia<T extends Pick<Loop, 'pictures' | 'clips'>>(loop: T): T {
  if (!holdsMedia(loop)) return loop
  const pictures = loop.pictures.map((each) => ({ ...each, data: '' }))
  return { ...loop, pictures, clips: lightClips(loop.clips) }
}

/** The document with the files that `find` gives for an id, frames in their order; media for which it gives none stay without. */
export function withMedia(loop: Loop, find: (id: string) => readonly string[] | undefined): Loop {
  if (!holdsMedia(loop)) return loop
  return {
    ...loop,
    pictures: loop.pictures.map((each) => ({ ...each, data: each.data || (find(each.id)?.[0] ?? '') })),
    clips: loop.clips.map((each) => {
      const found = find(each.id)
      return { ...each, frames: each.frames.map((data, n) => data || (found?.[n] ?? '')) }
    }),
  }
}

/** Ids of the pictures and clips of a document whose files are not there. */
export const withoutFiles = ({ pictures, clips }: Pick<Loop, 'pictures' | 'clips'>): string[] => [
  ...pictures.filter(({ data }) => !data).map(({ id }) => id),
  ...clips.filter(({ frames }) => frames.length === 0 || frames.some((frame) => !frame)).map(({ id }) => id),
]
