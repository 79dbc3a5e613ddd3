import { fromBase64 } from '../base64'
import { type Asset, MAX_PICTURE_BYTES, madeAsset, mediumKind } from '../media'
import type { Loop } from './document'
import { LoopFileError, parsedJson, readLoop } from './file'
import { migrated, type OldMedium, oldMedia } from './migrate'

/** Whether there are files beside a document. */
export const holdsMedia = ({ media }: Pick<Loop, 'media'>): boolean =>
  media.some((medium) => mediumKind(medium.kind).assets(medium).length > 0)

/** The files of a medium of an older version, taken to hand; null where they are not in it. @throws LoopFileError where they are none */
export async function assetOfOld({ name, type, data, single }: OldMedium): Promise<Asset | null> {
  if (data.length === 0 || data.some((each) => each === '')) return null
  try {
    const files = data.map(fromBase64)
    if (files.some(({ length }) => length > MAX_PICTURE_BYTES))
      throw new LoopFileError(
        `A file of “${name}” in it has more than ${MAX_PICTURE_BYTES / 1024 / 1024} MB.`,
        'Make the picture smaller, and bring it in again.',
      )
    return await madeAsset(type, single ? (files[0] as Uint8Array<ArrayBuffer>) : files)
  } catch (error) {
    if (error instanceof LoopFileError) throw error
    throw new LoopFileError(
      `The file of “${name}” in it is no file in base64.`,
      'Save the loop again where it is whole.',
    )
  }
}

/**
 * The loop in data that came from outside. What it holds of files, as older versions did, is taken to hand.
 * @throws LoopFileError as readLoop does
 */
export async function readProject(raw: unknown): Promise<Loop> {
  const assets = new Map<string, Asset>()
  for (const medium of oldMedia(raw)) {
    const asset = await assetOfOld(medium)
    if (asset) assets.set(medium.id, asset)
  }
  return readLoop(migrated(raw, assets))
}

/** The loop in the text of a `.cyclon.json` file of any version. @throws LoopFileError as parseLoop does */
export const parseProject = (text: string): Promise<Loop> => readProject(parsedJson(text))
