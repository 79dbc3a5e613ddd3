import type { DisplayNode, NeededModel, NodeType } from '../node'
import { NODE_TYPES } from './all'

const byName = new Map(NODE_TYPES.map((each) => [each.type, each as unknown as NodeType]))

/** The type of a node. @throws RangeError for one that is not in the table */
export function nodeType({ type }: Pick<DisplayNode, 'type'>): NodeType {
  const found = byName.get(type)
  if (!found) throw new RangeError(`there is no type of display node called “${type}”`)
  return found
}

/** The drawings that a node holds, from back to front. */
export const heldIn = (node: DisplayNode): readonly DisplayNode[] => nodeType(node).held?.(node) ?? []

/** Ids of all pictures, stills and frames of clips, in what is drawn. */
export const picturesIn = (nodes: readonly DisplayNode[]): string[] =>
  nodes.flatMap((node) => [...(nodeType(node).pictures?.(node) ?? []), ...picturesIn(heldIn(node))])

/** All models in what is drawn. */
export const modelsIn = (nodes: readonly DisplayNode[]): NeededModel[] =>
  nodes.flatMap((node) => [...(nodeType(node).models?.(node) ?? []), ...modelsIn(heldIn(node))])
