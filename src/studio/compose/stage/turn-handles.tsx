'use client'

import { useState } from 'react'
import { type DisplayNode, heldIn } from '@/core/display'
import { changeLayer, findPlace, type Layer, type Loop } from '@/core/document'
import { modelOf, parentMatrix, withAxis, withPivot } from '@/core/edit'
import { evaluate, valuesAt } from '@/core/evaluate'
import { cameraOf, placementMatrix, sizeOfModel, turnOf } from '@/core/layers'
import type { Model } from '@/core/media'
import { compose, invert, type Point, transformPoint } from '@/core/path'
import {
  add,
  axesOf,
  type Camera,
  inverseOf,
  leaningAxis,
  type Moved,
  onPlane,
  placed,
  projected,
  type Ray,
  rayThrough,
  rotation,
  scaled,
  type Turn,
  turnedBy,
  unit,
  type Vector,
} from '@/core/solid'
import { changeLoop } from '@/store/document'
import { touchModel } from '../../model-files'
import { startDrag } from '../../parts/start-drag'
import type { OverFrame } from './stage-view'

const ORIGIN: Vector = [0, 0, 0]
/** How far the axis is drawn, in sizes of the model, and by how much less while its end lies so near to the edge of the layer that its handles are there. */
const REACH = { most: 0.44, least: 0.08, less: 0.85, edge: 0.1 }
/** A pivot that is let go so near to a point of the model that has a name is put there, px of the screen. */
const SNAP_PX = 9

/** How the turn of a model is seen on the stage. */
export function turnOnStage(loop: Loop, layer: Layer, parents: readonly Layer[], frame: number) {
  const model = modelOf(loop, layer)
  if (!model) return null
  const values = valuesAt(layer, frame, loop.length)
  const width = Number(values.width)
  const height = Number(values.height)
  const turn = turnOf(model, values)
  const camera = cameraOf(model, values)
  const matrix = compose(parentMatrix(parents, frame, loop.length), placementMatrix(values))
  const back = invert(matrix)
  const onStage = ({ x, y }: Point) => transformPoint(matrix, { x: x - width / 2, y: y - height / 2 })
  const seen = (at: Vector): Point | null => {
    const place = projected(at, camera, width, height)
    return place && onStage(place)
  }
  const ray = (at: Point): Ray | null => {
    const own = back && transformPoint(back, at)
    return own && rayThrough(camera, { x: own.x + width / 2, y: own.y + height / 2 }, width, height)
  }
  return { model, values, turn, camera, width, height, onStage, seen, ray, at: turnedBy(turn, Number(values.turn)) }
}

/** How long the axis is drawn to either side, so that its end is clear of the handles of the layer. */
function axisReach(
  { turn, camera, width, height }: { turn: Turn; camera: Camera; width: number; height: number },
  size: number,
): number {
  const margin = REACH.edge * Math.min(width, height)
  let reach = REACH.most
  for (; reach > REACH.least; reach *= REACH.less) {
    const end = projected(scaled(leaningAxis(turn), reach * size), camera, width, height)
    if (end && end.x > margin && end.x < width - margin && end.y > margin && end.y < height - margin) break
  }
  return reach * size
}

const change = (id: string, next: (layer: Layer) => Layer) => changeLoop((loop) => changeLayer(loop, id, next))

/** The parts of a model that have moved, as they are drawn. */
function movedParts(nodes: readonly DisplayNode[], id: string): readonly Moved[] {
  for (const node of nodes) {
    if (node.type === 'model' && node.layerId === id) return node.parts
    const inside = movedParts(heldIn(node), id)
    if (inside.length > 0) return inside
  }
  return []
}

/** Places the pivot of a model where its surface is pressed. Returns whether there is any surface. */
export async function pivotOnSurface(loop: Loop, id: string, frame: number, at: Point): Promise<boolean> {
  const place = findPlace(loop, id)
  const shown = place && turnOnStage(loop, place.layer, place.parents, frame)
  const ray = shown?.ray(at)
  if (!shown || !ray) return false
  const back = inverseOf(shown.at)
  const from = placed(back, ray.from)
  const end = placed(back, add(ray.from, ray.way))
  const way = unit([end[0] - from[0], end[1] - from[1], end[2] - from[2]])
  const point = await touchModel(shown.model, movedParts(evaluate(loop, frame).nodes, id), { from, way })
  if (point) change(id, (layer) => withPivot(layer, shown.model, point))
  return point !== null
}

/** Points of a model by which its pivot may stand. */
const namedPoints = (model: Model): Vector[] => [model.centre, ORIGIN, ...model.parts.map(({ centre }) => centre)]

/** The pivot and the axis of the selected model, to be dragged. The camera follows them when they are let go. */
export function TurnHandles({ loop, frame, scale, pointOf, id }: OverFrame & { readonly id: string }) {
  const [dragged, setDragged] = useState<{ readonly pivot: Vector; readonly end: Vector } | null>(null)
  const place = findPlace(loop, id)
  const shown = place && turnOnStage(loop, place.layer, place.parents, frame)
  if (!place || !shown || place.layer.locked) return null
  const { model, turn, camera, seen, ray, at, values } = shown
  const size = sizeOfModel(model)
  const reach = axisReach(shown, size)
  const along = scaled(leaningAxis(turn), reach)
  const { forward } = axesOf(camera)
  const px = 1 / scale
  const now = dragged ?? { pivot: ORIGIN, end: along }
  const centre = seen(now.pivot)
  const high = seen(now.end)
  const low = seen(scaled(now.end, -1))
  if (!centre || !high || !low) return null
  const away = (a: Point | null, b: Point) => (a ? Math.hypot(a.x - b.x, a.y - b.y) : Number.POSITIVE_INFINITY)

  const dragPivot = (event: React.PointerEvent) => {
    let pivot: Vector | null = null
    startDrag(event, {
      onMove: (pointer) => {
        const to = pointOf(pointer)
        const named = namedPoints(model)
          .map((point) => placed(at, point))
          .find((point) => away(seen(point), to) < SNAP_PX * px)
        const through = ray(to)
        pivot = named ?? (through && onPlane(through, ORIGIN, forward))
        if (pivot) setDragged({ pivot, end: along })
      },
      onEnd: (cancelled) => {
        setDragged(null)
        const point = pivot && placed(inverseOf(at), pivot)
        if (point && !cancelled) change(id, (layer) => withPivot(layer, model, point))
      },
    })
  }
  const dragAxis = (event: React.PointerEvent) => {
    let end: Vector | null = null
    startDrag(event, {
      onMove: (pointer) => {
        const through = ray(pointOf(pointer))
        const on = through && onPlane(through, along, forward)
        if (!on || Math.hypot(...on) < 1e-6 * size) return
        end = scaled(unit(on), reach)
        setDragged({ pivot: ORIGIN, end })
      },
      onEnd: (cancelled) => {
        setDragged(null)
        if (!end || cancelled) return
        // As it is before it leans.
        const way = unit(placed(rotation([0, 0, 1], (Number(values.lean) * Math.PI) / 180), end))
        change(id, (layer) => withAxis(layer, way))
      },
    })
  }
  return (
    <g>
      <line
        {...{ x1: low.x, y1: low.y, x2: high.x, y2: high.y }}
        className="pointer-events-none stroke-accent/70"
        strokeWidth={px}
        strokeDasharray={`${8 * px} ${3 * px} ${px} ${3 * px}`}
      />
      <rect
        data-testid="turn-axis"
        {...{ x: high.x - 4 * px, y: high.y - 4 * px, width: 8 * px, height: 8 * px }}
        transform={`rotate(45 ${high.x} ${high.y})`}
        className="cursor-move fill-base-100 stroke-accent"
        strokeWidth={1.5 * px}
        onPointerDown={dragAxis}
      >
        <title>The axis: drag it to where the model is to turn about</title>
      </rect>
      <g data-testid="turn-pivot" className="cursor-move" onPointerDown={dragPivot}>
        <title>The pivot: drag it, or take the pivot tool and press on the model</title>
        <circle
          cx={centre.x}
          cy={centre.y}
          r={6 * px}
          className="fill-base-100/70 stroke-accent"
          strokeWidth={1.5 * px}
        />
        <circle cx={centre.x} cy={centre.y} r={1.5 * px} className="fill-accent" />
      </g>
    </g>
  )
}
