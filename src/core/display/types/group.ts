import type { GroupNode, NodeType } from '../node'

export const groupType: NodeType<GroupNode> = {
  type: 'group',
  held: ({ children }) => children,
  cut: ({ clip, mask, children }) => {
    const shape = mask === 'shape' || mask === 'brightness' ? children.at(-1) : undefined
    return { ...(clip && { box: clip }), ...(shape && { shape }) }
  },
  parts: ({ mask = 'none', children }) =>
    mask === 'none' && !children.some(({ changesBehind }) => changesBehind) ? 2 : ALWAYS_APART,
  look: ({ mask = 'none', feather, density, clip }, matrix) =>
    mask === 'none' && !clip ? null : [mask, feather, density, clip, matrix.slice(0, 4)],
  box: () => null,
  mark: () => null,
  leftOut: ({ mask, feather = 0, density = 1 }, file) => {
    // Players of Lottie do not agree on mattes of inverted luma.
    if (mask === 'darkness' && file === 'lottie') return 'its mask by darkness is left out'
    return feather > 0 || density < 1 ? 'the feather and the density of its mask are left out' : null
  },
  vectors: ['svg', 'lottie'],
}

/** A mask cuts everything that has been painted, and an effect changes it: that must be painted apart. */
const ALWAYS_APART = Number.POSITIVE_INFINITY
