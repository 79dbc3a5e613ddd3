import { toNumber } from '../clock'
import type { ModelNode } from '../display'
import { findLayer, type Loop } from '../document'
import { evaluateUnreduced, valuesAt } from '../evaluate'
import { foldOfTurn } from '../layers'
import type { SpacePlacement, Turn } from '../solid'

/** How a model of a loop moves, for programs that move it themselves. */
export interface ModelMotion {
  readonly name: string
  /** When each moment is, s; the last is the closing frame. */
  readonly times: readonly number[]
  readonly turn: Turn
  /** Rotation of the whole about its pivot at each moment: the three columns of a matrix. */
  readonly rotations: readonly (readonly number[])[]
  /** Parts that move by themselves: the node of the file, and the placement before its own at each moment. */
  readonly parts: readonly {
    readonly node: number
    readonly placements: readonly SpacePlacement[]
    readonly fold: number
  }[]
  /** Equal parts of a turn after which it looks the same. */
  readonly fold: number
}

/** Between two moments nothing turns further than this, degrees: half a turn would have two ways. */
const MAX_KEY_TURN = 90
/** A loop is sampled at no more than this many moments. */
const MAX_MOMENTS = 20_000

/** How the model of a layer moves within one loop; null where the layer shows none. */
export function modelMotion(loop: Loop, id: string): ModelMotion | null {
  const layer = findLayer(loop, id)
  const { length, rate } = loop
  const nodeAt = (frame: number): ModelNode | null => {
    const found = evaluateUnreduced({ ...loop, layers: layer ? [{ ...layer, hidden: false }] : [] }, frame).nodes[0]
    return found?.type === 'model' ? found : null
  }
  const first = nodeAt(0)
  if (!layer || !first) return null
  let step = 0
  for (const each of [layer, ...(layer.layers ?? [])])
    for (let n = 0; n < length; n++)
      for (const name of ['turn', 'rotation', 'lean']) {
        const [from, to] = [n, n + 1].map((at) => Number(valuesAt(each, at, length)[name] ?? 0)) as [number, number]
        step = Math.max(step, Math.abs(to - from))
      }
  const finer = Math.min(Math.ceil(Math.max(1, step / MAX_KEY_TURN)), Math.max(1, Math.floor(MAX_MOMENTS / length)))
  const moments = Array.from({ length: length * finer + 1 }, (_, i) => i / finer)
  const nodes = moments.map((frame) => nodeAt(frame) ?? first)
  return {
    name: layer.name,
    times: moments.map((frame) => frame / toNumber(rate)),
    turn: first.turn,
    rotations: nodes.map(({ placement }) => [
      ...placement.slice(0, 3),
      ...placement.slice(4, 7),
      ...placement.slice(8, 11),
    ]),
    parts: first.parts.map(({ node, fold }) => ({
      node,
      fold,
      placements: nodes.map(({ parts }) => parts.find((part) => part.node === node)?.placement ?? []),
    })),
    fold: foldOfTurn(layer.values),
  }
}
