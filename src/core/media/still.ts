import { whole } from '../schemas'
import { type Asset, assetOf, LARGEST_PICTURE } from './asset'
import type { Medium, MediumKind } from './medium'
import { LARGEST_SIDE } from './picture-file'

/** A still picture, as it came. */
export interface StillPicture extends Medium {
  readonly kind: 'picture'
  readonly width: number
  readonly height: number
  readonly file: Asset
}

export const MOST_PICTURES = 200

export const still: MediumKind<StillPicture> = {
  kind: 'picture',
  label: 'picture',
  fields: { width: whole(1, LARGEST_SIDE), height: whole(1, LARGEST_SIDE), file: assetOf(LARGEST_PICTURE) },
  most: MOST_PICTURES,
  endings: ['.png', '.jpg', '.jpeg', '.webp'],
  assets: ({ file }) => [file],
  // One file, whatever it came as.
  withPictures: (picture, size, { parts: _one, ...file }) => ({ ...picture, ...size, file }),
  picture: { size: ({ width, height }) => ({ width, height }), of: ({ file }) => file, at: () => 0 },
}
