import { MEDIUM_KINDS } from './all'
import type { Asset } from './asset'
import { filesOf, partFile } from './files'
import type { Medium, MediumKind } from './medium'

const byName = new Map<string, MediumKind>(MEDIUM_KINDS.map((kind) => [kind.kind, kind]))

/** @throws RangeError for a name that is in no table; documents are checked when they are read */
export function mediumKind(name: string): MediumKind {
  const found = byName.get(name)
  if (!found) throw new RangeError(`There is no kind of medium called “${name}”.`)
  return found
}

/** All files that some media are drawn from, each once. */
export function assetsIn(media: readonly Medium[]): readonly Asset[] {
  const all = media.flatMap((medium) => mediumKind(medium.kind).assets(medium))
  return [...new Map(all.map((asset) => [asset.id, asset])).values()]
}

/** Name by which display lists refer to a picture of a medium. */
const pictureName = (medium: string, n: number): string => `${medium}/${n}`

/** The medium and the number of its picture, by what that is called. */
export function placeOfPicture(name: string): { readonly medium: string; readonly n: number } {
  const at = name.lastIndexOf('/')
  return { medium: name.slice(0, at), n: Number(name.slice(at + 1)) }
}

/** Name of the picture of a medium at a position in its cycles; null if the id is not among them, or has no picture. */
export function pictureAt(media: readonly Medium[], id: string, cycles: number): string | null {
  const medium = media.find((each) => each.id === id)
  const picture = medium && mediumKind(medium.kind).picture
  return medium && picture ? pictureName(id, picture.at(medium, cycles)) : null
}

/** A picture of a medium, by what it is called: the file that it is in, and its size in px. */
export interface PictureFile {
  readonly name: string
  readonly medium: Medium
  readonly asset: Asset
  readonly part: number
  readonly width: number
  readonly height: number
}

/** null where it is a picture of none of the media. */
export function pictureFile(media: readonly Medium[], name: string): PictureFile | null {
  const { medium: id, n } = placeOfPicture(name)
  const medium = media.find((each) => each.id === id)
  const picture = medium && mediumKind(medium.kind).picture
  return medium && picture ? { name, medium, asset: picture.of(medium), part: n, ...picture.size(medium) } : null
}

/** All pictures of some media. */
export const picturesOf = (media: readonly Medium[]): PictureFile[] =>
  media.flatMap((medium) => {
    const asset = mediumKind(medium.kind).picture?.of(medium)
    const count = asset ? (asset.parts?.length ?? 1) : 0
    return Array.from({ length: count }, (_, n) => pictureFile([medium], pictureName(medium.id, n)) as PictureFile)
  })

/** The bytes of a picture; null where they are missing. */
export const readPictureFile = ({ asset, part }: PictureFile): Promise<Blob | null> => partFile(asset, part)

/** Ids of those media whose pictures are not there. */
export async function mediaWithoutFiles(media: readonly Medium[]): Promise<string[]> {
  const missing: string[] = []
  for (const medium of media) {
    const needed = mediumKind(medium.kind).assets(medium).slice(0, 1)
    const found = await filesOf(needed)
    if (needed.some(({ id, bytes }) => found.get(id)?.size !== bytes || bytes === 0)) missing.push(medium.id)
  }
  return missing
}
