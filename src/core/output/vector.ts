import { type DisplayNode, heldIn, nodeType, type VectorFile } from '../display'
import type { Layer, Loop } from '../document'
import { evaluateUnreduced } from '../evaluate'
import { pictureFile } from '../media'
import type { Matrix } from '../path'

/** A drawing at every frame of a loop, its closing frame included, with what it holds. */
export interface VectorNode {
  readonly layerId: string
  readonly type: DisplayNode['type']
  /** The node at each of N + 1 moments; where it is absent, its nearest state with no opacity. */
  readonly at: readonly DisplayNode[]
  readonly children: readonly VectorNode[]
}

/** All that a loop draws, followed through its frames. */
export const vectorNodes = (loop: Loop): VectorNode[] =>
  merge(Array.from({ length: loop.length + 1 }, (_, n) => evaluateUnreduced(loop, n).nodes))

function merge(lists: readonly (readonly DisplayNode[])[]): VectorNode[] {
  const most = Math.max(0, ...lists.map(({ length }) => length))
  return Array.from({ length: most }, (_, i) => {
    const own = lists.map((list) => list[i])
    const type = (own.find((node) => node !== undefined) as DisplayNode).type
    const there = own.map((node) => (node?.type === type ? node : undefined))
    const first = there.find((node) => node !== undefined) as DisplayNode
    let last = first
    const at = there.map((node) => {
      if (node) last = node
      return node ?? { ...last, opacity: 0 }
    })
    const inside = there.map((node) => (node ? heldIn(node) : []))
    return { layerId: first.layerId, type, at, children: nodeType(first).held ? merge(inside) : [] }
  })
}

/** A transform in parts: moved, turned (degrees), sheared along x (degrees), scaled; T · R · K · S. */
export interface Parts {
  readonly x: number
  readonly y: number
  readonly turn: number
  readonly shear: number
  readonly scaleX: number
  readonly scaleY: number
}

const degrees = (angle: number) => (angle * 180) / Math.PI

/** The parts of a transform (QR decomposition: M = R · K · S). */
function transformParts([a, b, c, d, x, y]: Matrix): Parts {
  const scaleX = Math.hypot(a, b)
  if (scaleX < 1e-9) return { x, y, turn: 0, shear: 0, scaleX: 0, scaleY: Math.hypot(c, d) }
  const scaleY = (a * d - b * c) / scaleX
  const along = (a * c + b * d) / scaleX
  return {
    x,
    y,
    turn: degrees(Math.atan2(b, a)),
    scaleX,
    scaleY,
    shear: Math.abs(scaleY) < 1e-9 ? 0 : degrees(Math.atan(along / scaleY)),
  }
}

/** Parts of a series of transforms, turning on without a leap from each to the next. */
export function partsAlong(transforms: readonly Matrix[]): Parts[] {
  let before: Parts | null = null
  return transforms.map((transform) => {
    const parts = transformParts(transform)
    const turn = before ? parts.turn + 360 * Math.round((before.turn - parts.turn) / 360) : parts.turn
    before = { ...parts, turn }
    return before
  })
}

/** A moment of a series, in frames, and its values there. */
export interface SeriesKey {
  readonly at: number
  readonly values: readonly number[]
}

/** A step over this multiple of its neighbours is a leap. */
const LEAP = 4

/**
 * The keys between which straight lines come within a tolerance of all samples of a series: its ends, and what lies farthest
 * off, again and again (Ramer 1972; Douglas & Peucker 1973); one alone where nothing changes. Where it leaps, as what comes in
 * again on the other side does, it goes on as before up to the next sample, and is there at once: two keys at one moment.
 */
export function keysOf(series: readonly (readonly number[])[], tolerance: number): SeriesKey[] {
  const first = series[0] as readonly number[]
  const near = (a: readonly number[], b: readonly number[]) =>
    a.every((value, i) => Math.abs(value - (b[i] as number)) <= tolerance)
  if (series.every((each) => near(each, first))) return [{ at: 0, values: first }]
  const keys: SeriesKey[] = []
  let start = 0
  for (let n = 1; n < series.length; n++)
    if (leaps(series, n - 1, tolerance)) {
      const own = series[n - 1] as readonly number[]
      const before = n - 1 > start ? series[n - 2] : undefined
      const goesOn = own.map((value, i) => (before ? 2 * value - (before[i] as number) : value))
      keys.push(...lines([...series.slice(start, n), goesOn], start, tolerance))
      start = n
    }
  // After a leap at the very end comes the first sample again.
  if (start < series.length - 1) keys.push(...lines(series.slice(start), start, tolerance))
  return keys
}

const stepAt = (series: readonly (readonly number[])[], n: number, i: number) =>
  Math.abs((series[n + 1]?.[i] as number) - (series[n]?.[i] as number))

/** Whether a series leaps from a sample to the next; the one after the last is like the second. */
function leaps(series: readonly (readonly number[])[], n: number, tolerance: number): boolean {
  const last = series.length - 2
  if (last < 2) return false
  return (series[n] as readonly number[]).some((_, i) => {
    const beside = Math.max(stepAt(series, n > 0 ? n - 1 : last, i), stepAt(series, n < last ? n + 1 : 0, i))
    return stepAt(series, n, i) > LEAP * beside + 20 * tolerance
  })
}

/** Keys of samples without a leap, of which the first lies at a moment. */
function lines(samples: readonly (readonly number[])[], from: number, tolerance: number): SeriesKey[] {
  const keys = new Set([0, samples.length - 1])
  const open: [number, number][] = [[0, samples.length - 1]]
  for (let span = open.pop(); span; span = open.pop()) {
    const [start, end] = span
    const a = samples[start] as readonly number[]
    const b = samples[end] as readonly number[]
    let worst = tolerance
    let at = -1
    for (let n = start + 1; n < end; n++) {
      const share = (n - start) / (end - start)
      for (const [i, value] of (samples[n] as readonly number[]).entries()) {
        const off = Math.abs(value - ((a[i] as number) * (1 - share) + (b[i] as number) * share))
        if (off > worst) {
          worst = off
          at = n
        }
      }
    }
    if (at < 0) continue
    keys.add(at)
    open.push([start, at], [at, end])
  }
  return [...keys].sort((x, y) => x - y).map((n) => ({ at: from + n, values: samples[n] as readonly number[] }))
}

/** Paint that is there in some of the frames only, made clear in the others; null where there is none at all. */
export function filledIn<T extends { readonly colour: string; readonly gradient?: unknown }>(
  series: readonly (T | null)[],
): readonly T[] | null {
  const first = series.find((each) => each !== null)
  if (!first) return null
  let last = first
  return series.map((each) => {
    if (each) last = each
    return each ?? { ...last, colour: 'transparent', gradient: undefined }
  })
}

export type VectorFormat = VectorFile
export const isVector = (format: string): format is VectorFormat => format === 'svg' || format === 'lottie'

/** A layer that a vector file cannot show as it is, and what becomes of it there. */
export interface Inexpressible {
  readonly layer: string
  readonly what: string
}

/** Blend modes that Lottie has, by their numbers there. */
export const LOTTIE_BLENDS: readonly string[] = [
  ...['normal', 'multiply', 'screen', 'overlay', 'darken', 'lighten', 'color-dodge', 'color-burn', 'hard-light'],
  ...['soft-light', 'difference', 'exclusion', 'hue', 'saturation', 'color', 'luminosity'],
]

/**
 * The parts of a loop that a vector format cannot express, layer by layer; nothing is left out without being named
 * here.
 */
export function inexpressible(loop: Loop, format: VectorFormat, nodes = vectorNodes(loop)): Inexpressible[] {
  const found: Inexpressible[] = []
  const names = new Map(namesOf(loop))
  const say = (node: VectorNode, what: string) => {
    const layer = names.get(node.layerId) ?? node.layerId
    if (!found.some((each) => each.layer === layer && each.what === what)) found.push({ layer, what })
  }
  const visit = (node: VectorNode) => {
    const [first] = node.at as [DisplayNode]
    const type = nodeType(first)
    const shown = new Set(node.at.flatMap((at) => type.pictures?.(at) ?? []))
    const moves = [...shown].some((id) => (pictureFile(loop.media, id)?.asset.parts?.length ?? 1) > 1)
    if (moves || shown.size > (type.pictures?.(first).length ?? 0))
      say(node, 'a clip: it stands still at its first picture')
    for (const at of node.at) {
      const left = type.leftOut?.(at, format)
      if (left) say(node, left)
    }
    if (!type.vectors.includes(format)) say(node, 'it cannot be drawn as vectors: it is left out')
    if (format === 'lottie') {
      if (node.at.some(({ filters }) => filters)) say(node, 'its effects are left out')
      if (!LOTTIE_BLENDS.includes(first.blend)) say(node, `blend mode ${first.blend}: it is laid over as normal`)
    }
    for (const child of node.children) visit(child)
  }
  for (const node of nodes) visit(node)
  if (loop.blur.shutter > 0) found.push({ layer: loop.name, what: 'blur of frames: they are drawn sharp' })
  return found
}

function* namesOf(loop: Loop): Generator<[string, string]> {
  const all = function* (layers: readonly Layer[]): Generator<[string, string]> {
    for (const layer of layers) {
      yield [layer.id, layer.name]
      yield* all(layer.layers ?? [])
    }
  }
  yield* all(loop.layers)
  for (const inner of loop.loops) yield* all(inner.layers)
}
