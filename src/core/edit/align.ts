import { changeLayer, findLayer, findPlace, type Loop } from '../document'
import { layerKind } from '../layers'
import { type Box, invert, transformPoint } from '../path'
import { parentMatrix, stageBounds } from './edit'
import { mapProperty } from './keys-many'
import { movePath } from './motion-path'

export const ALIGNED_EDGES = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const
export type Edge = (typeof ALIGNED_EDGES)[number]

interface Placed {
  readonly id: string
  readonly box: Box
}

const placed = (loop: Loop, ids: readonly string[], frame: number): Placed[] =>
  ids.flatMap((id) => {
    const box = stageBounds(loop, [id], frame)
    return box ? [{ id, box }] : []
  })

/** Where an edge of a box lies. */
const edgeOf = (edge: Edge, { x, y, width, height }: Box): number =>
  ({ left: x, centre: x + width / 2, right: x + width, top: y, middle: y + height / 2, bottom: y + height })[edge]
const isAcross = (edge: Edge): boolean => edge === 'left' || edge === 'centre' || edge === 'right'

/** The loop with a layer moved on the stage, with the whole of its motion. */
function movedOnStage(loop: Loop, id: string, dx: number, dy: number, frame: number): Loop {
  const place = findPlace(loop, id)
  const back = place && invert(parentMatrix(place.parents, frame, loop.length))
  if (!back || (dx === 0 && dy === 0)) return loop
  const from = transformPoint(back, { x: 0, y: 0 })
  const to = transformPoint(back, { x: dx, y: dy })
  const round = (by: number) => Number(by.toFixed(6))
  return changeLayer(loop, id, (layer) => movePath(layer, round(to.x - from.x), round(to.y - from.y)))
}

/** The loop with layers moved so that an edge of each lies where that of all of them lies, as they are at a frame; one alone against the frame. */
export function alignLayers(loop: Loop, ids: readonly string[], edge: Edge, frame: number): Loop {
  const layers = placed(loop, ids, frame)
  const whole =
    layers.length === 1 ? { x: 0, y: 0, width: loop.width, height: loop.height } : stageBounds(loop, ids, frame)
  if (!whole) return loop
  const to = edgeOf(edge, whole)
  return layers.reduce((made, { id, box }) => {
    const by = to - edgeOf(edge, box)
    return movedOnStage(made, id, isAcross(edge) ? by : 0, isAcross(edge) ? 0 : by, frame)
  }, loop)
}

/** The loop with layers moved so that the gaps between them are alike, the outermost where they are; fewer than three stay. */
export function distributeLayers(loop: Loop, ids: readonly string[], along: 'x' | 'y', frame: number): Loop {
  const side = along === 'x' ? 'width' : 'height'
  const layers = placed(loop, ids, frame).sort((a, b) => a.box[along] - b.box[along])
  const first = layers[0]
  const last = layers.at(-1)
  if (!first || !last || layers.length < 3) return loop
  const span = last.box[along] + last.box[side] - first.box[along]
  const gap = (span - layers.reduce((sum, { box }) => sum + box[side], 0)) / (layers.length - 1)
  let at = first.box[along]
  let made = loop
  for (const { id, box } of layers) {
    const by = at - box[along]
    made = movedOnStage(made, id, along === 'x' ? by : 0, along === 'y' ? by : 0, frame)
    at += box[side] + gap
  }
  return made
}

/** The loop with layers as large as the last of them, where they have a width and a height of their own. */
export function sameSize(loop: Loop, ids: readonly string[]): Loop {
  const model = findLayer(loop, ids.at(-1) ?? '')
  if (!model) return loop
  return ids.reduce((made, id) => {
    const layer = findLayer(made, id)
    if (!layer || id === model.id) return made
    const { properties } = layerKind(layer.kind)
    const shared = ['width', 'height', 'length'].filter(
      (name) => name in properties && typeof model.values[name] === 'number',
    )
    return changeLayer(made, id, (each) =>
      shared.reduce((changed, name) => {
        const factor = Number(model.values[name]) / Number(each.values[name] || 1)
        return mapProperty(changed, name, (value) => Number(value) * factor)
      }, each),
    )
  }, loop)
}
