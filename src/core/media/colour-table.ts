import { MAX_TABLE_SIZE } from '../effects'
import { whole } from '../schemas'
import { type Asset, assetOf, MAX_PICTURE_BYTES } from './asset'
import type { Medium, MediumKind } from './medium'

/** A table of colours, kept as a picture of its slices, one below the other. */
export interface TableOfColours extends Medium {
  readonly kind: 'table'
  /** Steps of red, of green and of blue. */
  readonly size: number
  readonly file: Asset
}

const MAX_TABLES = 50

export const tableOfColours: MediumKind<TableOfColours> = {
  kind: 'table',
  label: 'table of colours',
  fields: { size: whole(2, MAX_TABLE_SIZE), file: assetOf(MAX_PICTURE_BYTES) },
  most: MAX_TABLES,
  endings: ['.cube'],
  assets: ({ file }) => [file],
  picture: { size: ({ size }) => ({ width: size, height: size * size }), of: ({ file }) => file, at: () => 0 },
}
