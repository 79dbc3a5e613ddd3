import { type DisplayNode, heldIn, nodeType } from '../display'
import type { Layer, Loop } from '../document'
import { evaluateUnreduced, propertyAt, valuesAt } from '../evaluate'
import { layerKind, type Repeating, type Values } from '../layers'
import { type Box, boxAround, boxCorners, compose, IDENTITY, invert, type Matrix, transformPoint } from '../path'
import { drawnBox } from './likeness'

/** Where copies that move on leave and come in, and whether that is in sight. */
export interface SeenEnds {
  /** Names of the ends that are seen, by where they lie on the frame. */
  readonly sides: readonly string[]
  /** Frame at whose beginning a copy leaves one end and comes in at the other. */
  readonly frame: number
}

/** Crossings of a whole place that are looked at, at the most: the frame may move while the copies do. */
const MAX_CROSSINGS = 12
/** An outline that reaches into the frame by less than this, px, is not seen. */
const REACH = 0.05

/** An end as it is drawn: what stands there, and the box outside which nothing of it is seen. */
interface DrawnEnd {
  readonly box: Box
  readonly window: Box
}

/**
 * The ends at which copies of a layer are seen to leave or come in, while they move on: null where they do not pass a whole place, are a
 * ring, or where both ends lie outside the frame, outside what masks them, or outside what cuts them.
 * @param loop in which the layer stands, with its colours
 */
export function seenEnds(loop: Loop, layer: Layer): SeenEnds | null {
  const { repeats } = layerKind(layer.kind)
  if (!repeats || !layer.motions[repeats.along] || !repeats.ends(layer.values)) return null
  for (const frame of crossings(layer, repeats.along, loop.length)) {
    const ends = drawnEnds(loop, layer, repeats, frame)
    const seen = ends.filter(({ box, window }) => meets(box, window))
    if (seen.length > 0) return { frame, sides: [...new Set(seen.map(({ box }) => sideOf(box, loop)))] }
  }
  return null
}

/** Frames at which the copies have passed a whole place since the one before. */
function crossings(layer: Layer, along: string, length: number): number[] {
  const places = Array.from({ length: length + 1 }, (_, n) =>
    Math.floor(Number(propertyAt(layer, along, n, length)) + 1e-9),
  )
  return places.flatMap((place, n) => (n > 0 && place !== places[n - 1] ? [n] : [])).slice(0, MAX_CROSSINGS)
}

/** The copies of all instances of the layer that stand at an end just before or after one leaves it. */
function drawnEnds(loop: Loop, layer: Layer, repeats: Repeating, frame: number): DrawnEnd[] {
  const ends = repeats.ends(valuesAt(layer, frame, loop.length))
  if (!ends) return []
  const found: DrawnEnd[] = []
  const visit = (node: DisplayNode, outer: Matrix, window: Box) => {
    const matrix = compose(outer, node.transform)
    const { box: clip, shape } = nodeType(node).cut?.(node) ?? {}
    const inner = [clip && placed(clip, matrix), shape && drawnBox([shape], matrix)]
      .filter((box) => box !== undefined)
      .reduce<Box>((within, box) => (box ? common(within, box) : EMPTY), window)
    if (node.layerId === layer.id) {
      const [copy] = heldIn(node)
      const held = copy ? heldIn(copy) : []
      for (const place of ends) {
        const box = drawnBox(held, compose(matrix, place))
        if (box) found.push({ box, window: inner })
      }
      return
    }
    for (const child of heldIn(node)) visit(child, matrix, inner)
  }
  const { width, height, nodes } = evaluateUnreduced(loop, frame)
  for (const node of nodes) visit(node, IDENTITY, { x: 0, y: 0, width, height })
  return found
}

const EMPTY: Box = { x: 0, y: 0, width: -1, height: -1 }
const placed = (box: Box, matrix: Matrix): Box | null =>
  boxAround(boxCorners(box).map((corner) => transformPoint(matrix, corner)))

function common(a: Box, b: Box): Box {
  const x = Math.max(a.x, b.x)
  const y = Math.max(a.y, b.y)
  return {
    x,
    y,
    width: Math.min(a.x + a.width, b.x + b.width) - x,
    height: Math.min(a.y + a.height, b.y + b.height) - y,
  }
}

function meets(a: Box, b: Box): boolean {
  const { width, height } = common(a, b)
  return width > REACH && height > REACH
}

/** Where on the frame a box lies, in a word. */
function sideOf({ x, y, width, height }: Box, loop: Pick<Loop, 'width' | 'height'>): string {
  const dx = (x + width / 2) / loop.width - 0.5
  const dy = (y + height / 2) / loop.height - 0.5
  return Math.abs(dx) > Math.abs(dy) ? (dx < 0 ? 'left' : 'right') : dy < 0 ? 'top' : 'bottom'
}

/** Moments of the loop at which it is seen how far a row must reach. */
const MOMENTS = 12

/**
 * Values by which the copies of a row or grid reach over the frame at both ends, all through the loop, with the pitch that
 * they have: those that are there stay where they are. Null where they need not, or would be too many.
 */
export function copiesToFill(loop: Loop, layer: Layer): Values | null {
  const { repeats } = layerKind(layer.kind)
  let reach = 0
  let known: ReturnType<Repeating['row']> = null
  for (let moment = 0; moment < MOMENTS; moment++) {
    const frame = (moment * loop.length) / MOMENTS
    const row = repeats?.row(valuesAt(layer, frame, loop.length)) ?? null
    if (!row || !(row.pitch > 0)) return null
    const { pitch } = row
    if (known && Math.abs(known.pitch - pitch) > 1e-6) return null
    known = row
    const angle = (row.degrees * Math.PI) / 180
    const along: Matrix = [Math.cos(angle), -Math.sin(angle), Math.sin(angle), Math.cos(angle), 0, 0]
    for (const { matrix, extent } of instances(loop, layer, frame, along)) {
      const back = invert(matrix)
      if (!back) return null
      const frameBox = placed({ x: 0, y: 0, width: loop.width, height: loop.height }, compose(along, back))
      if (!frameBox || !extent) return null
      // The first copy stands at −(count − 1)/2 pitches, the last comes as far as (count + 1)/2.
      reach = Math.max(reach, extent.x + extent.width - frameBox.x, frameBox.x + frameBox.width - extent.x - pitch)
    }
  }
  if (!known || !repeats) return null
  const wanted = 1 + 2 * Math.ceil(reach / known.pitch + 0.5)
  // As many more as keep those that are there in their places.
  const count = wanted + ((wanted - known.count) % 2 === 0 ? 0 : 1)
  return count <= known.count || count > repeats.most ? null : known.of(count)
}

/** Each place at which the layer is drawn, and the box of what it copies, turned into the direction of the row. */
function instances(loop: Loop, layer: Layer, frame: number, along: Matrix) {
  const found: { matrix: Matrix; extent: Box | null }[] = []
  const visit = (node: DisplayNode, outer: Matrix) => {
    const matrix = compose(outer, node.transform)
    if (node.layerId === layer.id) {
      const [copy] = heldIn(node)
      found.push({ matrix, extent: copy ? drawnBox(heldIn(copy), along) : null })
    } else for (const child of heldIn(node)) visit(child, matrix)
  }
  for (const node of evaluateUnreduced(loop, frame).nodes) visit(node, IDENTITY)
  return found
}
