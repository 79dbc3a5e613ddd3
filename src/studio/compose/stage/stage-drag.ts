import { changeLayer, findPlace, insertLayers, type Layer, type Loop, places } from '@/core/document'
import { movePivot, newLayer, parentMatrix, type SnapGuide, setValue, snapBox, stageBounds } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { layerKind, type Placement, placementMatrix } from '@/core/layers'
import { type Box, compose, invert, type Matrix, type Point, transformPoint } from '@/core/path'

/** A handle of the selected layer: where on its box, −1, 0 or 1 each way. */
export type ScaleHandle = readonly [x: -1 | 0 | 1, y: -1 | 0 | 1]

/** A drag on the stage in progress, with its starting values. */
export type StageDrag =
  | { readonly type: 'draw'; readonly kind: string; readonly from: Point; readonly id: string; readonly name: string }
  | { readonly type: 'move'; readonly from: Point; readonly ids: readonly string[]; readonly box: Box | null }
  | { readonly type: 'turn'; readonly id: string; readonly from: Point }
  | { readonly type: 'scale'; readonly id: string; readonly handle: ScaleHandle; readonly box: Box }
  | { readonly type: 'pivot'; readonly id: string }

export interface DragResult {
  readonly loop: Loop
  readonly guides: readonly SnapGuide[]
  /** Distances from the moved box to the frame, where they are worth showing. */
  readonly box: Box | null
}

interface DragInput {
  /** The loop as it was when the drag began. */
  readonly start: Loop
  readonly frame: number
  readonly to: Point
  /** Shift: straight, in steps, or in proportion. */
  readonly even: boolean
  /** Snapping distance in px of the frame; 0 for none. */
  readonly tolerance: number
}

/** The loop that a drag leads to, at any point of it. */
export function dragStage(drag: StageDrag, input: DragInput): DragResult {
  switch (drag.type) {
    case 'draw':
      return drawLayer(drag, input)
    case 'move':
      return moveLayers(drag, input)
    case 'turn':
      return { loop: turnLayer(drag, input), guides: [], box: null }
    case 'scale':
      return scaleLayer(drag, input)
    case 'pivot':
      return { loop: dragPivot(drag, input), guides: [], box: null }
  }
}

/** The boxes that others snap to: the frame, and every layer but those that move and what they hold. */
function snapTargets(loop: Loop, moving: readonly string[], frame: number): Box[] {
  const targets: Box[] = [{ x: 0, y: 0, width: loop.width, height: loop.height }]
  for (const { layer, parents } of places(loop.layers)) {
    if (layer.hidden || [layer, ...parents].some(({ id }) => moving.includes(id))) continue
    const box = stageBounds(loop, [layer.id], frame)
    if (box) targets.push(box)
  }
  return targets
}

function drawLayer({ kind, from, id, name }: Extract<StageDrag, { type: 'draw' }>, input: DragInput): DragResult {
  const { start, frame, even } = input
  const { at, guides } = snapPoint(input, [])
  let to = at
  if (even) {
    const side = Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y))
    to = { x: from.x + Math.sign(to.x - from.x) * side, y: from.y + Math.sign(to.y - from.y) * side }
  }
  const loop = insertLayers(start, [newLayer(kind, name, layerKind(kind).fromDrag(from, to), id)])
  return { loop, guides, box: stageBounds(loop, [id], frame) }
}

function moveLayers({ from, ids, box }: Extract<StageDrag, { type: 'move' }>, input: DragInput): DragResult {
  const { start, frame, tolerance, even } = input
  let dx = input.to.x - from.x
  let dy = input.to.y - from.y
  if (even) {
    if (Math.abs(dx) > Math.abs(dy)) dy = 0
    else dx = 0
  }
  const moved = box && { ...box, x: box.x + dx, y: box.y + dy }
  const snap =
    moved && tolerance > 0 ? snapBox(moved, snapTargets(start, ids, frame), tolerance) : { dx: 0, dy: 0, guides: [] }
  dx += snap.dx
  dy += snap.dy
  const loop = ids.reduce((current, id) => {
    const place = findPlace(start, id)
    if (!place) return current
    const outer = parentMatrix(place.parents, frame, start.length)
    const back = invert(outer)
    if (!back) return current
    const [a, b, c, d] = back
    const values = valuesAt(place.layer, frame, start.length)
    const put = (layer: Layer, name: 'x' | 'y', by: number) =>
      setValue(layer, name, round(Number(values[name]) + by), frame, start.length)
    return changeLayer(current, id, (layer) => put(put(layer, 'x', a * dx + c * dy), 'y', b * dx + d * dy))
  }, start)
  return { loop, guides: snap.guides, box: moved && { ...moved, x: moved.x + snap.dx, y: moved.y + snap.dy } }
}

const round = (x: number) => Number(x.toFixed(2))

/** The layers that a box on the stage touches, groups as wholes; none that are hidden or locked. */
export const layersInBox = (loop: Loop, box: Box, frame: number): string[] =>
  loop.layers
    .filter(({ id, hidden, locked }) => {
      const around = hidden || locked ? null : stageBounds(loop, [id], frame)
      return (
        around !== null &&
        around.x < box.x + box.width &&
        box.x < around.x + around.width &&
        around.y < box.y + box.height &&
        box.y < around.y + around.height
      )
    })
    .map(({ id }) => id)

/** The layer, its values, and the transform to the stage, at a frame. */
export function layerOnStage(loop: Loop, id: string, frame: number) {
  const place = findPlace(loop, id)
  if (!place) return null
  const values = valuesAt(place.layer, frame, loop.length)
  const outer = parentMatrix(place.parents, frame, loop.length)
  return { ...place, values: values as unknown as Placement, outer, matrix: compose(outer, placementMatrix(values)) }
}

const angleOf = (from: Point, to: Point) => (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI

function turnLayer({ id, from }: Extract<StageDrag, { type: 'turn' }>, { start, frame, to, even }: DragInput): Loop {
  const on = layerOnStage(start, id, frame)
  if (!on) return start
  const { x, y, pivotX, pivotY, rotation } = on.values
  const pivot = transformPoint(on.outer, { x: x + pivotX, y: y + pivotY })
  const mirrored = on.outer[0] * on.outer[3] - on.outer[1] * on.outer[2] < 0 ? -1 : 1
  const by = (((angleOf(pivot, to) - angleOf(pivot, from) + 540) % 360) - 180) * mirrored
  const turned = even ? Math.round((rotation + by) / 15) * 15 : round(rotation + by)
  return changeLayer(start, id, (layer) => setValue(layer, 'rotation', turned, frame, start.length))
}

/** The pointer, put on an edge or middle of something else where one is near. */
function snapPoint({ start, frame, to, tolerance }: DragInput, moving: readonly string[]) {
  if (tolerance <= 0) return { at: to, guides: [] }
  const { dx, dy, guides } = snapBox({ ...to, width: 0, height: 0 }, snapTargets(start, moving, frame), tolerance)
  return { at: { x: to.x + dx, y: to.y + dy }, guides }
}

function scaleLayer({ id, handle, box }: Extract<StageDrag, { type: 'scale' }>, input: DragInput): DragResult {
  const { start, frame, even } = input
  const unchanged = { loop: start, guides: [], box: null }
  const on = layerOnStage(start, id, frame)
  if (!on) return unchanged
  // A handle of a layer that lies askew moves on neither axis of the stage: there is nothing to snap to.
  const upright = Math.abs(on.matrix[1]) < 1e-9 && Math.abs(on.matrix[2]) < 1e-9
  const { at: to, guides } = upright ? snapPoint(input, [id]) : { at: input.to, guides: [] }
  const { x, y, pivotX, pivotY, rotation, scaleX, scaleY } = on.values
  const unscaled: Matrix = compose(on.outer, placementMatrix({ ...on.values, scaleX: 1, scaleY: 1, x, y, rotation }))
  const back = invert(unscaled)
  if (!back) return unchanged
  const local = transformPoint(back, to)
  const reach = (side: number, low: number, size: number) => low + ((side + 1) / 2) * size
  const share = (at: number, pivot: number, corner: number, now: number) =>
    Math.abs(corner - pivot) < 1e-6 ? now : (at - pivot) / (corner - pivot)
  let sx = handle[0] === 0 ? scaleX : share(local.x, pivotX, reach(handle[0], box.x, box.width), scaleX)
  let sy = handle[1] === 0 ? scaleY : share(local.y, pivotY, reach(handle[1], box.y, box.height), scaleY)
  if (even) {
    const factor = handle[0] === 0 ? sy / scaleY : sx / scaleX
    sx = scaleX * factor
    sy = scaleY * factor
  }
  const kept = (s: number) => Number((Math.abs(s) < 0.01 ? 0.01 : s).toFixed(4))
  const loop = changeLayer(start, id, (layer) =>
    setValue(setValue(layer, 'scaleX', kept(sx), frame, start.length), 'scaleY', kept(sy), frame, start.length),
  )
  const along = guides.filter(({ axis }) => handle[axis === 'x' ? 0 : 1] !== 0)
  return { loop, guides: along, box: upright ? stageBounds(loop, [id], frame) : null }
}

function dragPivot({ id }: Extract<StageDrag, { type: 'pivot' }>, { start, frame, to, even }: DragInput): Loop {
  const on = layerOnStage(start, id, frame)
  const back = on && invert(on.matrix)
  if (!on || !back) return start
  const local = transformPoint(back, to)
  const grid = (v: number) => (even ? Math.round(v / 10) * 10 : round(v))
  const pivot = { x: grid(local.x), y: grid(local.y) }
  return changeLayer(start, id, (layer) => movePivot(layer, pivot, frame, start.length))
}
