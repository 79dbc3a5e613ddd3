import type { GLTF, mat4, vec3, vec4 } from '@gltf-transform/core'
import { PLACED_AS_IT_IS, placedParts, type SpacePlacement } from '@/core/solid'

/** Where a node stands: in what it stands in, and where that stands. */
export interface Standing {
  readonly own: SpacePlacement
  readonly parent: SpacePlacement
  /** The node that it stands in; −1 for none. */
  readonly within: number
}

/** Where each node of the scene that is shown stands at rest, and the nodes that stand in no other. */
export async function standing(
  json: GLTF.IGLTF,
): Promise<{ readonly rest: ReadonlyMap<number, Standing>; readonly roots: readonly number[] }> {
  const { MathUtils } = await import('@gltf-transform/core')
  const nodes = json.nodes ?? []
  const rest = new Map<number, Standing>()
  const walk = (index: number, parent: SpacePlacement, within: number) => {
    const node = nodes[index]
    if (!node || rest.has(index)) return
    const composed = [...PLACED_AS_IT_IS] as unknown as mat4
    MathUtils.compose(
      (node.translation ?? [0, 0, 0]) as vec3,
      (node.rotation ?? [0, 0, 0, 1]) as vec4,
      (node.scale ?? [1, 1, 1]) as vec3,
      composed,
    )
    const own: SpacePlacement = node.matrix ?? composed
    rest.set(index, { own, parent, within })
    for (const child of node.children ?? []) walk(child, placedParts(parent, own), index)
  }
  const held = new Set(nodes.flatMap(({ children = [] }) => children))
  const roots = json.scenes?.[json.scene ?? 0]?.nodes ?? [...nodes.keys()].filter((n) => !held.has(n))
  for (const root of roots) walk(root, PLACED_AS_IT_IS, -1)
  return { rest, roots }
}
