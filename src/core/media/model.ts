import * as z from 'zod/mini'
import { list, number, text, whole } from '../schemas'
import { FAULTS, MAX_HULL_POINTS, MAX_LISTED_PARTS, MAX_PARTS, type Measures } from '../solid'
import { type Asset, assetOf, MAX_CLIP_BYTES } from './asset'
import type { Medium, MediumKind } from './medium'

/** A solid model, with what has to be known of it to place and turn it without its file. */
export interface Model extends Medium, Measures {
  readonly kind: 'model'
  /** A GLB, whatever it came as. */
  readonly file: Asset
}

const MAX_MODELS = 20

const length = number(-1e9, 1e9)
const vector = z.tuple([length, length, length])
const folds = z.tuple([whole(0, 1000), whole(0, 1000), whole(0, 1000)])

export const modelMedium: MediumKind<Model> = {
  kind: 'model',
  label: 'model',
  fields: {
    file: assetOf(MAX_CLIP_BYTES),
    triangles: whole(0, 1e9),
    parts: list(
      z.strictObject({
        name: text(200, 1),
        node: whole(0, 1e6),
        within: whole(-1, MAX_LISTED_PARTS),
        triangles: whole(0, 1e9),
        centre: vector,
        folds,
      }),
      MAX_LISTED_PARTS,
    ),
    hull: list(length, 3 * (MAX_HULL_POINTS + 1)),
    bounds: z.tuple([length, length, length, length, length, length]),
    centre: vector,
    folds,
    faults: z.optional(
      list(
        z.strictObject({ kind: z.enum(FAULTS), nodes: list(whole(0, 1e6), MAX_PARTS), message: text(700, 1) }),
        FAULTS.length,
      ),
    ),
  } as unknown as MediumKind<Model>['fields'],
  fault: ({ hull, parts }) => {
    if (hull.length === 0 || hull.length % 3 !== 0) return { field: 'hull', message: 'holds no points' }
    const wrong = parts.findIndex(({ within }, i) => within >= i)
    return wrong < 0 ? null : { field: 'parts', message: `has part ${wrong + 1} in one that comes after it` }
  },
  most: MAX_MODELS,
  endings: ['.glb', '.gltf', '.obj', '.stl', '.ply', '.zip'],
  assets: ({ file }) => [file],
}
