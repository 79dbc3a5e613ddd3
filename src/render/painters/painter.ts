import type { DisplayNode, Placing } from '@/core/display'
import type { Matrix, Point } from '@/core/path'

/** The part of a 2D canvas context that drawing needs; browsers, workers and Node canvases all have it. */
export type Context = OffscreenCanvasRenderingContext2D

/** Makes an empty surface of the given size in px. */
export type MakeSurface = (width: number, height: number) => Context

/** Still pictures by their ids, ready to be drawn. */
export type Pictures = ReadonlyMap<string, CanvasImageSource>
export const NO_PICTURES: Pictures = new Map()

/** Context for painting a node. */
export interface Brush {
  /** Pictures that were gathered for the frame. */
  readonly pictures: Pictures
  /** Paints another node, within a transform. */
  readonly draw: (context: Context, node: DisplayNode, outer: Matrix) => void
  readonly makeSurface: MakeSurface
  /** An empty surface as large as another one, and giving it back. */
  readonly takeSurface: (like: Context) => Context
  readonly giveBack: (surface: Context) => void
}

/** How a type of display node is painted, and where it is hit. */
export interface NodePainter<N extends Placing = DisplayNode> {
  readonly type: string
  /** @param transform from the node's own px to the canvas */
  readonly paint: (brush: Brush, context: Context, node: N, transform: Matrix) => void
  /** Whether a point, in px of the node, lies on it; undefined where what it holds has to be asked. */
  readonly hits: (node: N, point: Point, context: Context) => boolean | undefined
}
