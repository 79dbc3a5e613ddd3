import type { DisplayNode } from '@/core/display'
import { PAINTERS } from './all'
import type { NodePainter } from './painter'

const byName = new Map(PAINTERS.map((each) => [each.type, each as unknown as NodePainter]))

/** The painter of a node. @throws RangeError for a type that has none */
export function painterOf({ type }: Pick<DisplayNode, 'type'>): NodePainter {
  const found = byName.get(type)
  if (!found) throw new RangeError(`nothing paints a display node of the type “${type}”`)
  return found
}
