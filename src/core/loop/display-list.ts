import type { Matrix, Path } from '../path'

/** Blend modes of CSS Compositing and Blending 1; the canvas calls `normal` `source-over`. */
export const BLEND_MODES = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'hue',
  'saturation',
  'color',
  'luminosity',
  'plus-lighter',
] as const
export type BlendMode = (typeof BLEND_MODES)[number]

export const LINE_CAPS = ['butt', 'round', 'square'] as const
export const LINE_JOINS = ['miter', 'round', 'bevel'] as const

export interface Fill {
  readonly path: Path
  readonly colour: string
}
export interface Stroke {
  readonly path: Path
  readonly colour: string
  /** px, before the node's transform. */
  readonly width: number
  readonly cap: (typeof LINE_CAPS)[number]
  readonly join: (typeof LINE_JOINS)[number]
  readonly dash: readonly number[]
  readonly dashOffset: number
}

/** What a layer draws, before it is placed. */
export type Drawing =
  | { readonly type: 'shape'; readonly fill: Fill | null; readonly stroke: Stroke | null }
  | { readonly type: 'group'; readonly children: readonly DisplayNode[] }

/** A placed drawing. Opacity and blend mode apply to the drawing as a whole (an isolated group where needed). */
export type DisplayNode = Drawing & {
  readonly layerId: string
  readonly transform: Matrix
  readonly opacity: number
  readonly blend: BlendMode
}

/** One frame as a description to draw: nodes from back to front. */
export interface DisplayList {
  readonly width: number
  readonly height: number
  /** A CSS colour, or null for a transparent frame. */
  readonly background: string | null
  readonly nodes: readonly DisplayNode[]
}
