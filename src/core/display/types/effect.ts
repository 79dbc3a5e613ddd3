import type { EffectNode, NodeType } from '../node'

export const effectType: NodeType<EffectNode> = {
  type: 'effect',
  held: ({ children }) => children,
  parts: () => 1,
  pictures: ({ table }) => (table ? [table] : []),
  look: ({ effect, values, strength, inverse, table }, matrix) => [effect, values, strength, inverse, table, matrix],
  box: () => null,
  mark: ({ effect, values, strength, inverse }, matrix) =>
    `${JSON.stringify([effect, values, strength, inverse])} ${matrix.map((x) => x.toFixed(2))}`,
  vectors: [],
}
