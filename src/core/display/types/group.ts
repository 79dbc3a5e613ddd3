import type { GroupNode, NodeType } from '../node'

export const groupType: NodeType<GroupNode> = {
  type: 'group',
  held: ({ children }) => children,
  cut: ({ clip, mask, children }) => {
    const shape = mask === 'shape' ? children.at(-1) : undefined
    return { ...(clip && { box: clip }), ...(shape && { shape }) }
  },
  parts: ({ mask = 'none', children }) =>
    mask === 'none' && !children.some(({ changesBehind }) => changesBehind) ? 2 : ALWAYS_APART,
  look: ({ mask = 'none', clip }, matrix) => (mask === 'none' && !clip ? null : [mask, clip, matrix.slice(0, 4)]),
  box: () => null,
  mark: () => null,
  vectors: ['svg', 'lottie'],
}

/** A mask cuts everything that has been painted, and an effect changes it: that must be painted apart. */
const ALWAYS_APART = Number.POSITIVE_INFINITY
