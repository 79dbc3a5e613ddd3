import { readFile } from 'node:fs/promises'
import { ModelError, readModel } from '@/codecs/model'
import {
  type Bounds,
  boundsOf,
  faultsOf,
  type ModelFault,
  massCentre,
  meshFold,
  middleOf,
  offCentre,
  partsOf,
  trianglesIn,
  type Vector,
  wholeMesh,
} from '@/core/solid'
import { pictureInNode } from './decode'

/** Entry for a model that is to turn. */
export type ModelEntry =
  | {
      readonly file: string
      readonly model: {
        readonly parts: number
        readonly triangles: number
        readonly bounds: Bounds
        readonly centre: Vector
        readonly massCentre: Vector | null
        /** How far its middle lies from the axis through its origin, as a share of its size. */
        readonly offCentre: Readonly<Record<Axis, number>>
        /** After which part of a turn about the axis through its middle it looks the same: `round` after any. */
        readonly fold: Readonly<Record<Axis, number | 'round'>>
        readonly faults: readonly ModelFault[]
      }
    }
  | { readonly file: string; readonly error: string }

type Axis = 'x' | 'y' | 'z'
const AXES: Readonly<Record<Axis, Vector>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] }
const ORIGIN: Vector = [0, 0, 0]

const forAxes = <T>(of: (axis: Vector) => T): Record<Axis, T> => ({ x: of(AXES.x), y: of(AXES.y), z: of(AXES.z) })

/** Contents of a model, its placement and its possible turns. An unreadable file gives an entry, too. */
export async function checkModel(path: string): Promise<ModelEntry> {
  const bytes = await readFile(path).catch(() => null)
  if (!bytes) return { file: path, error: 'There is no such file, or it may not be read.' }
  try {
    const { parts } = await readModel(path, bytes, undefined, pictureInNode)
    const mesh = wholeMesh(parts)
    const bounds = boundsOf(mesh) as Bounds
    const centre = middleOf(bounds)
    const fold = (axis: Vector) => {
      const found = meshFold(mesh, centre, axis)
      return Number.isFinite(found) ? found : ('round' as const)
    }
    return {
      file: path,
      model: {
        parts: [...partsOf(parts)].filter(({ node }) => node !== null).length,
        triangles: trianglesIn(parts),
        bounds,
        centre,
        massCentre: massCentre(mesh),
        offCentre: forAxes((axis) => offCentre(mesh, ORIGIN, axis)),
        fold: forAxes(fold),
        faults: faultsOf(parts),
      },
    }
  } catch (error) {
    if (!(error instanceof ModelError)) throw error
    return { file: path, error: error.message.replace(`${path} `, 'It ') }
  }
}

/** 0 where all can turn as they are, 1 where something is to be mended, 2 where one cannot be read. */
export const modelsExitCode = (entries: readonly ModelEntry[]): 0 | 1 | 2 => {
  if (entries.some((entry) => 'error' in entry)) return 2
  return entries.some((entry) => 'model' in entry && entry.model.faults.length > 0) ? 1 : 0
}

export const modelTable = (entries: readonly ModelEntry[]): string =>
  entries
    .flatMap((entry) => {
      if ('error' in entry) return [`${entry.file}  cannot be read: ${entry.error}`]
      const { parts, triangles, fold, offCentre: off, faults } = entry.model
      const turns = (['x', 'y', 'z'] as const).map(
        (axis) =>
          `${axis}: ${fold[axis] === 'round' ? 'round' : `fold ${fold[axis]}`}, ${(100 * off[axis]).toFixed(1)} % off`,
      )
      return [
        `${entry.file}  ${parts} parts, ${triangles} triangles  ${turns.join('  ')}`,
        ...faults.map(({ message }) => `  ${message}`),
      ]
    })
    .join('\n')
