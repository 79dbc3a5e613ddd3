import { boundsOf, cross, dot, lengthOf, type Mesh, subtract, type Vector } from './mesh'
import { type Part, partsOf, wholeMesh } from './model'

export const FAULTS = ['unnamed', 'doubled', 'empty-group', 'flipped', 'no-area', 'out-of-scale'] as const

/** A fault of a model, in words. */
export interface ModelFault {
  readonly kind: (typeof FAULTS)[number]
  readonly part: string
  /** The nodes of its file that it is said of; none where it is said of the whole. */
  readonly nodes: readonly number[]
  readonly message: string
}

/** The volume that a closed surface encloses; negative where its faces look inwards. */
function signedVolume({ positions, indices }: Mesh, origin: Vector): number {
  let volume = 0
  const at = (i: number): Vector => subtract([positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]], origin)
  for (let t = 0; t < indices.length; t += 3)
    volume += dot(at(indices[t]), cross(at(indices[t + 1]), at(indices[t + 2]))) / 6
  return volume
}

/** A model is taken to be measured in metres between these sizes; others are likely in other units. */
const SIZES = { least: 0.005, most: 500 }

/** By how much a model of a size is made larger to be as large as things are: a power of ten, since units differ by these. */
export const toScale = (size: number): number =>
  10 ** -Math.round(Math.log10(size / Math.sqrt(SIZES.least * SIZES.most)))

/** Parts of a file with the node that each is, or is a piece of. */
function* withNodes(parts: readonly Part[], within: number | null): Generator<{ part: Part; node: number | null }> {
  for (const part of parts) {
    const node = part.node ?? within
    yield { part, node }
    yield* withNodes(part.parts, node)
  }
}

/** Names that several parts have, or none, with the nodes. Pieces of one part that are painted differently have its name. */
function faultsOfNames(parts: readonly Part[]): ModelFault[] {
  const names = new Map<string, number[]>()
  for (const { name, node } of partsOf(parts)) if (node !== null) names.set(name, [...(names.get(name) ?? []), node])
  return [...names].flatMap(([part, nodes]): ModelFault[] => {
    const { length } = nodes
    if (part === '')
      return [{ kind: 'unnamed', part, nodes, message: `${length > 1 ? `${length} parts` : 'A part'} without a name.` }]
    return length > 1 ? [{ kind: 'doubled', part, nodes, message: `${length} parts are called “${part}”.` }] : []
  })
}

/** Faults of a model that can be mended, or that will surprise. */
export function faultsOf(parts: readonly Part[]): ModelFault[] {
  const faults = faultsOfNames(parts)
  for (const { part, node } of withNodes(parts, null)) {
    const { name, mesh } = part
    const called = name === '' ? 'A part without a name' : `“${name}”`
    const nodes = node === null ? [] : [node]
    const say = (kind: ModelFault['kind'], what: string) =>
      faults.push({ kind, part: name, nodes, message: `${called} ${what}` })
    if (!mesh && part.parts.length === 0 && !part.carries) say('empty-group', 'is a group that holds nothing.')
    const bounds = mesh && boundsOf(mesh)
    if (!mesh || !bounds) continue
    const size = lengthOf(subtract(bounds.most, bounds.least))
    if (!(size > 0)) say('no-area', 'is a single point.')
    else if (signedVolume(mesh, bounds.least) < -1e-3 * size ** 3) say('flipped', 'has faces that look inwards.')
  }
  const bounds = boundsOf(wholeMesh(parts))
  const size = bounds ? lengthOf(subtract(bounds.most, bounds.least)) : 0
  if (bounds && size > 0 && (size < SIZES.least || size > SIZES.most))
    faults.push({
      kind: 'out-of-scale',
      part: '',
      nodes: [],
      message: `It is ${Number(size.toPrecision(3))} units large: it may be measured in something other than metres.`,
    })
  return faults
}

/** Faults of one kind in a model, gathered into one message. */
export interface GatheredFault extends Pick<ModelFault, 'kind' | 'nodes' | 'message'> {}

/** A message names at most this many parts. */
const NAMED = 3

const ofMany: Partial<Record<ModelFault['kind'], string>> = {
  doubled: 'names are had by several parts',
  'empty-group': 'groups hold nothing',
  flipped: 'parts have faces that look inwards',
  'no-area': 'parts are single points',
}

/** Faults of a model by their kinds, each with all parts that it is said of. */
export function gatheredFaults(faults: readonly ModelFault[]): GatheredFault[] {
  return FAULTS.flatMap((kind) => {
    const alike = faults.filter((fault) => fault.kind === kind)
    const [first] = alike
    if (!first) return []
    const nodes = [...new Set(alike.flatMap((fault) => fault.nodes))]
    if (alike.length === 1) return [{ kind, nodes, message: first.message.slice(0, 400) }]
    const named = alike
      .slice(0, NAMED)
      .map(({ part }) => (part === '' ? 'one without a name' : `“${part.slice(0, 80)}”`))
    const more = alike.length > NAMED ? ` and ${alike.length - NAMED} more` : ''
    return [{ kind, nodes, message: `${alike.length} ${ofMany[kind] ?? ''}: ${named.join(', ')}${more}.` }]
  })
}
