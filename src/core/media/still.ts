import { whole } from '../schemas'
import { type Asset, assetOf, MAX_PICTURE_BYTES } from './asset'
import type { Medium, MediumKind } from './medium'
import { MAX_SIDE_PX } from './picture-file'

/** A still picture, as it came. */
export interface StillPicture extends Medium {
  readonly kind: 'picture'
  readonly width: number
  readonly height: number
  readonly file: Asset
}

export const MAX_PICTURES = 200

export const stillMedium: MediumKind<StillPicture> = {
  kind: 'picture',
  label: 'picture',
  fields: { width: whole(1, MAX_SIDE_PX), height: whole(1, MAX_SIDE_PX), file: assetOf(MAX_PICTURE_BYTES) },
  most: MAX_PICTURES,
  endings: ['.png', '.jpg', '.jpeg', '.webp'],
  assets: ({ file }) => [file],
  // One file, whatever it came as.
  withPictures: (picture, size, { parts: _one, ...file }) => ({ ...picture, ...size, file }),
  picture: { size: ({ width, height }) => ({ width, height }), of: ({ file }) => file, at: () => 0 },
}
