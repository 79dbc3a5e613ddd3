import type { BrushStroke } from '../effects'
import type { Box, Matrix } from '../path'
import type { Camera, SpacePlacement, Turn, Vector } from '../solid'
import type { ParticleSpec, TextureSpec } from '../texture'
import type { BlendMode, Fill, Filter, Stroke } from './paint'

/** How the frontmost drawing of a group cuts the others: to where it is or is not, to where it is bright or is not. */
export const MASKS = ['none', 'shape', 'inverse', 'brightness', 'darkness'] as const

interface ShapeDrawing {
  readonly type: 'shape'
  readonly fill: Fill | null
  readonly stroke: Stroke | null
}
interface GroupDrawing {
  readonly type: 'group'
  readonly children: readonly DisplayNode[]
  readonly mask?: (typeof MASKS)[number]
  /** px over which the edge of the mask fades. */
  readonly feather?: number
  /** How much of what the mask hides is hidden: 1 unless said. */
  readonly density?: number
  /** Nothing outside this box is drawn. */
  readonly clip?: Box
}
interface PictureDrawing {
  readonly type: 'picture'
  readonly id: string
  readonly box: Box
}

/** A texture over a box that is one tile of it, or a part of one that is turned. */
interface TextureDrawing {
  readonly type: 'texture'
  readonly spec: TextureSpec
  readonly box: Box
  /** How far it has drifted, in tiles. */
  readonly drift: { readonly x: number; readonly y: number }
  /** Degrees, about the middle of the box. */
  readonly turn: number
}

/** A tile that is drawn of others and fills a box. */
interface PatternDrawing {
  readonly type: 'pattern'
  readonly box: Box
  /** px, before it is scaled; its middle is where what it holds has its own. */
  readonly tile: { readonly width: number; readonly height: number }
  readonly scale: number
  /** Degrees, about the middle of the box. */
  readonly turn: number
  /** How far it is moved on, in tiles. */
  readonly drift: { readonly x: number; readonly y: number }
  readonly children: readonly DisplayNode[]
}

/** Many small things over a box, which is their tile. */
interface ParticlesDrawing {
  readonly type: 'particles'
  readonly spec: ParticleSpec
  readonly box: Box
  /** In cycles, 0 … 1. */
  readonly time: number
  /** The form of each particle: a shape by its name, or `layers` for what `sprite` draws, whose size is 100 px. */
  readonly shape: string
  readonly softness: number
  /** How many times as long as wide streaks are. */
  readonly length: number
  /** The first and the last of their colours. */
  readonly from: string
  readonly to: string
  readonly sprite: readonly DisplayNode[]
}

/** Area that strokes of a brush cover; the whole surface if there are none. */
interface StrokesDrawing {
  readonly type: 'strokes'
  readonly strokes: readonly BrushStroke[]
  readonly colour: string
}

/** An effect on everything painted behind it in its group, or in the frame. */
interface EffectDrawing {
  readonly type: 'effect'
  readonly changesBehind: true
  /** The kind of layer that it is. */
  readonly effect: string
  readonly values: Readonly<Record<string, unknown>>
  /** 0 … 1 */
  readonly strength: number
  /** True to act outside its mask instead of inside. */
  readonly inverse?: boolean
  /** The picture that it looks colours up in. */
  readonly table?: string
  readonly children: readonly DisplayNode[]
}

/** A light in a scene: degrees about the upright axis, 0 being the front, and above the horizon. */
interface SceneLight {
  readonly strength: number
  readonly around: number
  readonly height: number
  readonly colour: string
}

/** How a model is lit and painted, on what it stands, and which of its passes is drawn. */
export interface ModelLook {
  readonly pass: 'colour' | 'alpha' | 'wireframe' | 'occlusion' | 'depth' | 'normals' | 'shadow' | 'part colours'
  readonly edges: 'creases' | 'all'
  /** px of the node */
  readonly lineWidth: number
  readonly lineColour: string
  readonly material: 'of the file' | 'clay' | 'one colour' | 'glossy'
  readonly materialColour: string
  /** The first of them casts the shadow. */
  readonly lights: readonly SceneLight[]
  readonly surround: { readonly strength: number; readonly colour: string }
  /** Whether the lights turn with the model. */
  readonly lightsTurn: boolean
  readonly ground: 'none' | 'shadow only' | 'colour' | 'disc' | 'picture'
  readonly groundColour: string
  /** The picture that lies on the ground; null for none. */
  readonly groundPicture: string | null
  /** Of a disc or a picture: how many times as wide as what the model passes through. */
  readonly groundSize: number
  readonly shadow: number
  /** Radius of the lens as a share of the distance to what is sharp; 0 has all sharp. */
  readonly aperture: number
  /** How much nearer than the pivot what is sharp lies, as a share of the model's size. */
  readonly focus: number
}

/** A part of a model that does not stand where its file puts it: the node of the file, and the placement that comes before its own. */
export interface MovedPart {
  readonly node: number
  readonly seen: 'seen' | 'hidden' | 'alone'
  readonly placement: SpacePlacement
  /** Equal parts of a turn about its axis after which it looks the same. */
  readonly fold: number
}

/** A solid model seen through a camera, in a box. */
interface ModelDrawing {
  readonly type: 'model'
  /** The medium that it is, and its file. */
  readonly model: string
  readonly file: string
  readonly box: Box
  readonly camera: Camera
  /** From the model's own coordinates to those of the camera. */
  readonly placement: SpacePlacement
  readonly turn: Turn
  /** The largest side of the model. */
  readonly size: number
  /** Points that hold the model between them. */
  readonly hull: readonly number[]
  readonly parts: readonly MovedPart[]
  readonly look: ModelLook
}

/**
 * State of one part of a model, for the model that holds it; by itself it draws nothing. Lengths are shares of the
 * model's size.
 */
export interface PartDrawing {
  readonly type: 'part'
  readonly part: string
  readonly seen: MovedPart['seen']
  readonly shift: Vector
  readonly pivot: Vector
  readonly axis: Vector
  readonly degrees: number
  readonly fold: number
  readonly scale: Vector
}

/** Drawing of a layer, before it is placed. */
export type Drawing =
  | ShapeDrawing
  | GroupDrawing
  | PictureDrawing
  | TextureDrawing
  | ParticlesDrawing
  | PatternDrawing
  | EffectDrawing
  | StrokesDrawing
  | ModelDrawing
  | PartDrawing

/** How a drawing is placed. Opacity and blend mode apply to the drawing as a whole (an isolated group where needed). */
export interface Placing {
  readonly layerId: string
  readonly transform: Matrix
  readonly opacity: number
  readonly blend: BlendMode
  readonly filters?: readonly Filter[]
  /** True for a type that changes what is painted behind it, which must then be painted apart from the rest. */
  readonly changesBehind?: true
}

export type ShapeNode = ShapeDrawing & Placing
export type GroupNode = GroupDrawing & Placing
export type PictureNode = PictureDrawing & Placing
export type PatternNode = PatternDrawing & Placing
export type ParticlesNode = ParticlesDrawing & Placing
export type StrokesNode = StrokesDrawing & Placing
export type EffectNode = EffectDrawing & Placing
export type ModelNode = ModelDrawing & Placing
export type PartNode = PartDrawing & Placing
export type TextureNode = TextureDrawing & Placing
export type DisplayNode = Drawing & Placing

/** One frame as a description to draw: nodes from back to front. */
export interface DisplayList {
  readonly width: number
  readonly height: number
  /** A CSS colour, or null for a transparent frame. */
  readonly background: string | null
  readonly nodes: readonly DisplayNode[]
}

/** Vector files that a drawing can be written into. */
export type VectorFile = 'svg' | 'lottie'

/** The part of a drawing that cuts its siblings or children. */
interface Cut {
  readonly box?: Box
  /** The one of those it holds by which the others are cut to where it is. */
  readonly shape?: DisplayNode
}

/** A model that is to be drawn: its medium and its file, and whether what its surface sees of the sky must be known. */
export interface NeededModel {
  readonly model: string
  readonly file: string
  readonly occlusion: boolean
}

/**
 * A type of display node: what can be known of a drawing without painting it. One object in a file of its own and a line in
 * the table; how it is painted, and what becomes of it in a vector file, stands in the tables of the painters and writers.
 */
export interface NodeType<N extends Placing = DisplayNode> {
  readonly type: string
  /** The drawings in it, from back to front; absent where it holds none. */
  readonly held?: (node: N) => readonly DisplayNode[]
  /** The cut that a node applies to its children. */
  readonly cut?: (node: N) => Cut
  /** How many things are painted over each other: where there are several, they fade and blend as one. */
  readonly parts: (node: N) => number
  /** Ids of the pictures that must be there when it is painted. */
  readonly pictures?: (node: N) => readonly string[]
  /** The models that must be there when it is painted. */
  readonly models?: (node: N) => readonly NeededModel[]
  /** Appearance of the node where it is placed, as values that tell it from others; without its children. */
  readonly look: (node: N, matrix: Matrix) => unknown
  /** The box around it where it is placed; null where it draws nothing. Not asked of what holds others. */
  readonly box: (node: N, matrix: Matrix) => Box | null
  /**
   * Identity of the node where it is placed, whichever of its points comes first: a line turned by half is the same.
   */
  readonly mark: (node: N, matrix: Matrix) => unknown
  /** Words for the part that a vector file leaves out; null if it leaves out nothing. */
  readonly leftOut?: (node: N, file: VectorFile) => string | null
  /** The vector files that show it; where it is left out, that is said. */
  readonly vectors: readonly VectorFile[]
}
