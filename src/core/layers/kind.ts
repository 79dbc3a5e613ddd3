import type { DisplayNode, Drawing } from '../display'
import type { Picture } from '../image'
import type { Medium } from '../media'
import { fractionalPart } from '../modulo'
import type { Box, Matrix, Path, Point } from '../path'
import type { FaceName } from '../text'
import { EFFECTS, filtersAllRound } from './effects'
import { FILL, paintOutline, paintsWholeOutline, STROKE } from './paint'
import { PLACEMENT } from './placement'
import type { PropertyTable, ValuesOf } from './property'
import type { Change, Values } from './types'

/** Services of the surrounding loop for a layer while it is drawn. */
export interface Inside {
  /**
   * The children at the moment being drawn, with all phases moved on by `shift` cycles, and with a share, 0 … 1, of
   * some changes.
   */
  readonly layers: (shift?: number, changes?: readonly Change[], share?: number) => readonly DisplayNode[]
  /** Picture of a loop of the document at a position in its cycles; null if there is none of that id. */
  readonly loop: (id: string, cycles: number) => LoopPicture | null
  /** Name of the picture of a medium at a position in its cycles; null if there is none of that id. */
  readonly picture: (id: string, cycles: number) => string | null
  /** A medium of the document; null where there is none of that id. */
  readonly medium: (id: string) => Medium | null
}
export interface LoopPicture {
  readonly width: number
  readonly height: number
  readonly background: string | null
  readonly nodes: readonly DisplayNode[]
}

/** Repetition of the children of a kind that draws them many times. */
export interface Repeating {
  /** The property by which what is repeated moves on: by a whole place at whole numbers. */
  readonly along: string
  /** How often, at the most where that moves. */
  readonly count: (values: Values) => number
  readonly most: number
  /** Whether the same motion is shown at several phases at once. */
  readonly staggered: (values: Values) => boolean
  /** The values with which it looks as if time ran backwards. */
  readonly backwards: (values: Values) => Values
  /** Where one leaves, and where one comes in in its stead, as all move on by a place; null where nothing leaves. */
  readonly ends: (values: Values) => readonly Matrix[] | null
  /** The straight row that it is, or is made of; null where it is none. */
  readonly row: (values: Values) => {
    readonly count: number
    /** The noun that is counted. */
    readonly what: string
    /** px */
    readonly pitch: number
    readonly degrees: number
    /** Values for a row of the given number of copies at this pitch. */
    readonly of: (count: number) => Values
  } | null
}

/** Icons that kinds are shown by; the interface has a drawing of each. */
export type IconName =
  | 'letters'
  | 'pen'
  | 'rows'
  | 'film'
  | 'picture'
  | 'disc'
  | 'group'
  | 'texture'
  | 'particles'
  | 'pattern'
  | 'lattice'
  | 'brush'
  | 'model'
  | 'part'
  | 'levels'
  | 'curve'
  | 'thermometer'
  | 'palette'
  | 'blend'
  | 'table'
  | 'contrast'
  | 'droplet'
  | 'sun'
  | 'triangle'
  | 'grain'
  | 'frame'
  | 'waves'
  | 'sliders'

/** A kind of layer: what it is called, which properties it has and what it draws. All of it is data to the interface. */
export interface LayerKind {
  readonly kind: string
  readonly label: string
  /** The letter that picks the tool which draws it; null for kinds that are not drawn by hand. */
  readonly shortcut: string | null
  /** True for a kind that is drawn by hand though no letter picks its tool: letters are scarce. */
  readonly drawn?: boolean
  /** The name of its icon; left out where its own outline, drawn small, tells it. */
  readonly icon?: IconName
  readonly properties: PropertyTable
  /** True if the kind has children. */
  readonly holdsLayers: boolean
  /** Files before version 3 have no children for this kind: an empty list is added. */
  readonly heldNone?: true
  /** Drawing of the layer about its own centre. */
  readonly draw: (values: Values, inside: Inside) => Drawing
  /** Its outline, for guides and tool icons; null where it has none of its own. */
  readonly outline: ((values: Values) => Path) | null
  /** The box around its outline, about its own centre; null where its children make it up. */
  readonly bounds: (values: Values) => Box | null
  /** The radius of its outline where that is a circle. */
  readonly radius?: (values: Values) => number | null
  readonly repeats?: Repeating
  /** The property that runs what a reference of the layer shows: its time, in cycles. */
  readonly running?: string
  /** A property after a part of whose turn it may look the same, by what it holds. */
  readonly turning?: string
  /** Whether the frontmost layer that it holds cuts the others, and its values without that. */
  readonly mask?: { readonly cuts: (values: Values) => boolean; readonly none: (values: Values) => Values }
  /** The faces that its text is set in. */
  readonly faces?: (values: Values) => readonly FaceName[]
  /** Preview of some values, at a size in px. */
  readonly sample?: (values: Values, width: number, height: number) => Picture
  /**
   * Computed facts in words, by the section they are shown under; `cycleOf` names the property whose cycle, in seconds,
   * is passed in (null if it is not tied).
   */
  readonly note?: {
    readonly section: string
    readonly text: (values: Values, cycleSeconds: number | null) => string | null
    readonly cycleOf?: string
  }
  /** Properties that go on by one, evenly, once a loop, in a layer that is new. */
  readonly begins?: readonly string[]
  /** Sets of values to begin with. */
  readonly presets?: readonly Preset[]
  /** How many things it draws itself, where that is not one. */
  readonly drawings?: (values: Values) => number
  /** How often it draws what it holds, where that is not once and it does not repeat it. */
  readonly drawsHeld?: (values: Values) => number
  /** Present where it changes what lies behind it; how, stands in the table of `render/effects`. */
  readonly effect?: {
    /** Whether what it holds is what it acts by, and not where it acts. */
    readonly heldIsMap: boolean
    /** True for a group of effects, which does nothing by itself. */
    readonly heldOnly?: boolean
  }
  /** Where a kind that holds layers draws them; once and unmoved where this is left out. */
  readonly placesInside?: (values: Values) => readonly Matrix[]
  /** The values of a layer that is drawn by a drag from one point of the stage to another. */
  readonly fromDrag: (from: Point, to: Point) => Values
}

/** Values that make a layer something by a name; others stay as they are. */
export interface Preset {
  readonly label: string
  /** Name of the set, for a kind with several sets of presets. */
  readonly of?: string
  readonly values: Values
}

interface ShapeDescription<T extends PropertyTable> {
  readonly kind: string
  readonly label: string
  readonly shortcut: string | null
  readonly properties: T
  /** An open outline has no inside: it is stroked, not filled. */
  readonly open?: boolean
  readonly outline: (values: ValuesOf<T>) => Path
  readonly bounds: (values: ValuesOf<T>) => Box
  readonly fromDrag: (from: Point, to: Point) => Partial<ValuesOf<T> & ValuesOf<typeof PLACEMENT>>
  readonly icon?: IconName
  readonly radius?: (values: ValuesOf<T>) => number | null
  readonly faces?: (values: ValuesOf<T>) => readonly FaceName[]
  /** How many turns of the outline look alike; 1 unless said. */
  readonly fold?: (values: ValuesOf<T>) => number
}

/** A kind that paints one outline with a fill and a stroke. */
export function defineShape<T extends PropertyTable>(shape: ShapeDescription<T>): LayerKind {
  const as = (values: Values) => values as unknown as ValuesOf<T>
  const { fold = () => 1, open = false, icon, radius, faces } = shape
  const turnEquivalence = (values: Values) => 360 / (isSymmetric(values) ? fold(as(values)) : 1)
  const stroke = open
    ? {
        ...STROKE,
        stroke: { ...STROKE.stroke, default: '#f2b54a' },
        cap: { ...STROKE.cap, default: 'round' as const },
      }
    : { ...FILL, ...STROKE }
  return {
    kind: shape.kind,
    label: shape.label,
    shortcut: shape.shortcut,
    ...(icon && { icon }),
    ...(radius && { radius: (values: Values) => radius(as(values)) }),
    ...(faces && { faces: (values: Values) => faces(as(values)) }),
    holdsLayers: false,
    properties: {
      ...PLACEMENT,
      rotation: { ...PLACEMENT.rotation, equivalence: turnEquivalence },
      ...shape.properties,
      ...stroke,
      ...EFFECTS,
    },
    outline: (values) => shape.outline(as(values)),
    bounds: (values) => shape.bounds(as(values)),
    fromDrag: (from, to) => shape.fromDrag(from, to) as Values,
    draw: (values) => paintOutline(shape.outline(as(values)), values as Parameters<typeof paintOutline>[1]),
  }
}

/** The fold of an outline is that of the layer only if it turns about its own centre and is painted all round. */
const isSymmetric = (values: Values): boolean =>
  values.pivotX === 0 &&
  values.pivotY === 0 &&
  values.scaleX === values.scaleY &&
  paintsWholeOutline(values) &&
  filtersAllRound(values)

/** The box of a drag: centre and size, at least 1 px. */
export function dragBox(from: Point, to: Point) {
  return {
    x: (from.x + to.x) / 2,
    y: (from.y + to.y) / 2,
    width: Math.max(1, Math.abs(to.x - from.x)),
    height: Math.max(1, Math.abs(to.y - from.y)),
  }
}

/** A positive length in px, as shapes measure themselves. */
export const sizeProperty = (label: string, size: number) =>
  ({ type: 'number', label, section: 'shape', unit: 'px', default: size, min: 0, step: 1, moves: true }) as const

/** The time of something placed that has cycles of its own. */
export const timeProperty = {
  type: 'number',
  label: 'time',
  section: 'shape',
  unit: 'cycles',
  default: 0,
  step: 0.05,
  moves: true,
  equivalence: 1,
  newTravel: 1,
} as const

/** How far something is moved on, in tiles: whole ones look the same. */
export const tilesProperty = (label: string, section: string) =>
  ({ ...timeProperty, label, section, unit: 'tiles', step: 1 }) as const

/** A turn about the middle of a box. */
export const turnProperty = (section: string) =>
  ({
    type: 'number',
    label: 'turn',
    section,
    unit: '°',
    default: 0,
    step: 5,
    moves: true,
    equivalence: 360,
    newTravel: 360,
  }) as const

/** A value of which whole ones look the same, as a part of one. */
export const wrapped = (value: unknown): number => fractionalPart(Number(value))

export const centredBox = (width: number, height: number): Box => ({
  x: -width / 2,
  y: -height / 2,
  width,
  height,
})
