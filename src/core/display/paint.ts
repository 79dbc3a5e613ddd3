import type { Path, Point } from '../path'

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

/** Colours and what lies between them, as SVG gradients run; places in px before the node's transform. */
export interface Gradient {
  readonly type: 'linear' | 'radial'
  /** linear: from here to there; radial: the centre, and a point on the outermost circle. */
  readonly from: Point
  readonly to: Point
  /** Ascending from 0 to 1. */
  readonly stops: readonly { readonly at: number; readonly colour: string }[]
}

export interface Fill {
  readonly path: Path
  readonly colour: string
  /** In place of the plain colour. */
  readonly gradient?: Gradient
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

/**
 * A filter function of the Filter Effects standard, lengths in px before the node's transform. They act on the drawing
 * as a whole, one after the other, before it fades.
 */
export type Filter =
  | { readonly name: 'blur'; readonly radius: number }
  | {
      readonly name: 'drop-shadow'
      readonly x: number
      readonly y: number
      readonly blur: number
      readonly colour: string
    }
  | { readonly name: 'brightness' | 'contrast' | 'saturate'; readonly amount: number }
  | { readonly name: 'hue-rotate'; readonly degrees: number }
