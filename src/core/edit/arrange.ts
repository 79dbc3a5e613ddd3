import { boundNumber } from '../bounds'
import type { Layer, Loop } from '../document'
import { findPlace, insertLayers, removeLayers, replaceLayer, withinLimits } from '../document'
import { valuesAt } from '../evaluate'
import { newId } from '../id'
import { layerKind, placementMatrix, type Values } from '../layers'
import { evenly } from '../motion'
import {
  type Box,
  beltPath,
  boxCentre,
  type Circle,
  compose,
  hullPath,
  MAX_PATH_DATA,
  type Matrix,
  type Path,
  type Point,
  parsePath,
  pathBox,
  svgPathData,
  transformPath,
} from '../path'
import { freeName, groupLayers, newLayer, parentMatrix, stageBounds } from './edit'
import { mapProperty } from './keys-many'

/** A layer moved to another place, with all its keys. */
const movedBy = (layer: Layer, dx: number, dy: number): Layer =>
  mapProperty(
    mapProperty(layer, 'x', (x) => x + dx),
    'y',
    (y) => y + dy,
  )

/**
 * The loop with sibling layers put into one that copies them, which stands where the frontmost of them stood, about
 * their middle. Returns the id of it too; null where nothing was done.
 */
export function makeCopies(
  loop: Loop,
  ids: readonly string[],
  frame: number,
  values: Values = {},
  id = newId(),
): { loop: Loop; id: string } | null {
  const [first] = ids
  const place = first === undefined ? undefined : findPlace(loop, first)
  if (!place) return null
  const siblings = place.parents.at(-1)?.layers ?? loop.layers
  const members = siblings.filter((layer) => ids.includes(layer.id))
  const front = members.at(-1)
  const box = stageBounds(
    { ...loop, layers: members },
    members.map((each) => each.id),
    frame,
  )
  if (!front || !box) return null
  const middle = boxCentre(box)
  const centre: Point = { x: boundNumber(middle.x), y: boundNumber(middle.y) }
  const copies: Layer = {
    ...newLayer('copies', freeName(loop, `Copies of ${front.name}`), { x: centre.x, y: centre.y, ...values }, id),
    layers: members.map((member) => movedBy(member, -centre.x, -centre.y)),
  }
  const without = removeLayers(
    loop,
    members.filter((each) => each !== front).map((each) => each.id),
  )
  const changed = { ...without, layers: replaceLayer(without.layers, front.id, () => copies) }
  return withinLimits(changed, loop) === changed ? { loop: changed, id } : null
}

/** The loop with layers as what a layer over the whole frame holds; null where they cannot be. */
function heldOverFrame(
  loop: Loop,
  ids: readonly string[],
  frame: number,
  kind: string,
  word: string,
  values: (box: Box) => Values,
): { loop: Loop; id: string } | null {
  const made = makeCopies(loop, ids, frame)
  const place = made && findPlace(made.loop, made.id)
  const box = made && stageBounds(loop, ids, frame)
  if (!made || !place || !box) return null
  const { layer } = place
  const holder: Layer = {
    ...newLayer(kind, freeName(loop, layer.name.replace(/^Copies/, word)), {
      x: loop.width / 2,
      y: loop.height / 2,
      width: loop.width,
      height: loop.height,
      ...values(box),
    }),
    id: made.id,
    layers: layer.layers ?? [],
  }
  return { loop: { ...made.loop, layers: replaceLayer(made.loop.layers, made.id, () => holder) }, id: made.id }
}

/** The loop with layers as the tile of a pattern that fills the frame; its pitch is their box. Null where they cannot be. */
export const makePattern = (loop: Loop, ids: readonly string[], frame: number) =>
  heldOverFrame(loop, ids, frame, 'pattern', 'Pattern', (box) => ({
    tileWidth: Math.max(1, box.width),
    tileHeight: Math.max(1, box.height),
  }))

/**
 * The loop with layers as the tile of a pattern that fills a figure, the last of them: it cuts the pattern, in a group with it. Null where they
 * cannot be.
 */
export function patternInFigure(loop: Loop, ids: readonly string[], frame: number): { loop: Loop; id: string } | null {
  const figure = ids.at(-1)
  if (ids.length < 2 || figure === undefined) return null
  const made = makePattern(loop, ids.slice(0, -1), frame)
  const place = made && findPlace(made.loop, figure)
  if (!made || !place) return null
  const id = newId()
  const front = insertLayers(removeLayers(made.loop, [figure]), [place.layer], { id: made.id, side: 'front' })
  const grouped = groupLayers(front, [made.id, figure], frame, id)
  if (!findPlace(grouped, id)) return null
  const masked = replaceLayer(grouped.layers, id, (layer) => ({
    ...layer,
    name: freeName(loop, `Pattern in ${place.layer.name}`),
    values: { ...layer.values, mask: 'shape' },
  }))
  return { loop: { ...grouped, layers: masked }, id: made.id }
}

/** Number of particles that are layers to begin with: each is drawn with all its layers. */
const FEW_PARTICLES = 60

/** The loop with layers as what each of many particles over the frame is, rising by a tile a loop. Null where they cannot be. */
export const makeParticles = (loop: Loop, ids: readonly string[], frame: number) =>
  heldOverFrame(loop, ids, frame, 'particles', 'Particles', () => ({
    shape: 'layers',
    count: FEW_PARTICLES,
    // A hundred px of what is held are the size of a particle: half as large as it was, to begin with.
    size: 50,
    driftY: -1,
  }))

/** The outline of a layer on the stage at a frame; null where it has none. */
function stageOutline(loop: Loop, id: string, frame: number): Path | null {
  const place = findPlace(loop, id)
  const outline = place && layerKind(place.layer.kind).outline
  if (!outline) return null
  const values = valuesAt(place.layer, frame, loop.length)
  const matrix = compose(parentMatrix(place.parents, frame, loop.length), placementMatrix(values))
  return transformPath(outline(values), matrix)
}

/** A round layer as a circle on the stage; null for any other. */
function stageCircle(loop: Loop, id: string, frame: number): Circle | null {
  const place = findPlace(loop, id)
  const round = place && layerKind(place.layer.kind).radius
  if (!round) return null
  const values = valuesAt(place.layer, frame, loop.length)
  const [a, b, c, d, x, y]: Matrix = compose(parentMatrix(place.parents, frame, loop.length), placementMatrix(values))
  const even = Math.abs(a * a + b * b - c * c - d * d) < 1e-6 * (a * a + b * b) && Math.abs(a * c + b * d) < 1e-6
  const radius = round(values)
  return !even || radius === null ? null : { x, y, radius: radius * Math.hypot(a, b) }
}

/** A tight path round layers on the stage; exact round circles, through points of the outlines otherwise. */
function pathAround(loop: Loop, ids: readonly string[], frame: number, away: number): Path {
  const circles = ids.map((id) => stageCircle(loop, id, frame))
  if (circles.every((circle) => circle !== null) && circles.length > 0)
    return beltPath(circles.map((circle) => ({ ...circle, radius: circle.radius + away })))
  return hullPath(ids.map((id) => stageOutline(loop, id, frame)).filter((outline) => outline !== null))
}

/** Whether path data could be read again: what lies immeasurably far away cannot. */
const isReadable = (data: string): boolean => data.length <= MAX_PATH_DATA && parsePath(data) !== null

/** A path about its own middle, and where that is. */
function centred(path: Path) {
  const middle: Point = boxCentre(pathBox(path) ?? { x: 0, y: 0, width: 0, height: 0 })
  const centre: Point = { x: boundNumber(middle.x), y: boundNumber(middle.y) }
  return { centre, data: svgPathData(transformPath(path, [1, 0, 0, 1, -centre.x, -centre.y])) }
}

/** The loop with a belt round layers that runs on by one mark per loop. Null where there is nothing to run round. */
export function beltAround(loop: Loop, ids: readonly string[], frame: number): { loop: Loop; id: string } | null {
  const thickness = 16
  const path = pathAround(loop, ids, frame, thickness / 2)
  if (path.length === 0) return null
  const { centre, data } = centred(path)
  if (!isReadable(data)) return null
  const belt: Layer = {
    ...newLayer('belt', freeName(loop, 'Belt'), { ...centre, path: data, thickness }),
    motions: { travel: evenly(1) },
  }
  return { loop: insertLayers(loop, [belt]), id: belt.id }
}

/** The shape of one link of a chain, along the x axis. */
const LINK = { width: 26, height: 16, radius: 8, strokeWidth: 5 }

/** The loop with a chain round layers that runs on by one link per loop. Null where there is nothing to run round. */
export function chainAround(loop: Loop, ids: readonly string[], frame: number): { loop: Loop; id: string } | null {
  const path = pathAround(loop, ids, frame, LINK.height / 2 - LINK.strokeWidth / 2)
  if (path.length === 0) return null
  const { centre, data } = centred(path)
  if (!isReadable(data)) return null
  const link = newLayer('rectangle', 'Link', { ...LINK, fill: null, stroke: '#f2b54a' })
  const chain: Layer = {
    ...newLayer('copies', freeName(loop, 'Chain'), {
      ...centre,
      arrangement: 'path',
      spacing: 'pitch',
      pitch: LINK.width - LINK.strokeWidth,
      path: data,
    }),
    motions: { shift: evenly(1) },
    layers: [link],
  }
  return { loop: insertLayers(loop, [chain]), id: chain.id }
}

/** The loop with layers copied along the outline of the last of them, which stays. Null where it has no outline. */
export function copiesAlong(loop: Loop, ids: readonly string[], frame: number): { loop: Loop; id: string } | null {
  const figure = ids.at(-1)
  const path = figure === undefined ? null : stageOutline(loop, figure, frame)
  const things = ids.slice(0, -1)
  if (!path || path.length === 0 || things.length === 0) return null
  const { centre, data } = centred(path)
  if (!isReadable(data)) return null
  const made = makeCopies(loop, things, frame, { arrangement: 'path', spacing: 'count', count: 12, path: data })
  if (!made) return null
  const layers = replaceLayer(made.loop.layers, made.id, (layer) => ({
    ...layer,
    values: { ...layer.values, x: centre.x, y: centre.y },
  }))
  return { loop: { ...made.loop, layers }, id: made.id }
}
