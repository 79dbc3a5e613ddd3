import type { Fraction } from '../clock'
import { type EntryKind, propertiesWith, propertyType, type Values } from '../layers'
import type { Medium } from '../media'
import type { Motion, MotionEvent, Tremble } from '../motion'

export const FORMAT = 'cyclon-loop'
/** The version that is written. Older ones are migrated, newer ones refused. */
export const VERSION = 3
export const LOOP_KINDS = ['loader', 'texture', 'cinemagraph', 'turntable'] as const
export const MAX_SIZE = 8192
/** Groups may be nested at most this deep. */
export const MAX_DEPTH = 24
export const MAX_NAME = 200
export const MAX_NOTE = 2000
export const MAX_LAYERS = 4000
/** As a loop begins: frames are sharp; eight samples where they are not. */
export const NO_BLUR: FrameBlur = { shutter: 0, samples: 8 }

/** A layer: a kind, the values of its properties, and the motions of those that move. Children draw back to front. */
export interface Layer {
  readonly id: string
  readonly kind: string
  readonly name: string
  readonly hidden: boolean
  readonly locked: boolean
  readonly values: Values
  readonly motions: Readonly<Record<string, Motion>>
  /** Irregularity that is added to properties, and what they are for a few frames now and then. */
  readonly trembles?: Readonly<Record<string, Tremble>>
  readonly events?: Readonly<Record<string, MotionEvent>>
  /** Only in kinds that hold layers. */
  readonly layers?: readonly Layer[]
}

/** A colour that layers use by its name. */
export interface NamedColour {
  /** Lower-case letters, digits and hyphens, as in a CSS custom property. */
  readonly name: string
  readonly colour: string
}

/** A loop that is placed in this one, or in another of those placed in it. */
export interface InnerLoop {
  readonly id: string
  readonly name: string
  readonly width: number
  readonly height: number
  readonly background: string | null
  readonly rate: Fraction
  readonly length: number
  readonly layers: readonly Layer[]
}

/** Sub-frame samples of every frame. */
export interface FrameBlur {
  /** How long the shutter is open, as an angle: 360° is a whole frame, 0 is none. */
  readonly shutter: number
  readonly samples: number
}

/** Changes that a variant makes to its source loop. */
export interface VariantChange {
  /** Named colours that are other ones here. */
  readonly palette: Readonly<Record<string, string>>
  /** Whole number of times as fast, by cycles. */
  readonly faster: number
  /** Whole number of times as long, by frames: as much slower. */
  readonly longer: number
  readonly reversed: boolean
  /** Shift of all motions along the loop, a share of it, 0 … 1. */
  readonly phase: number
}
export interface VariantOf extends VariantChange {
  /** Id of the source in the library. */
  readonly id: string
}

/** The document: a function on a ring of `length` frames. Layers draw back to front. */
export interface Loop {
  readonly format: typeof FORMAT
  readonly version: typeof VERSION
  readonly id: string
  readonly name: string
  readonly kind: (typeof LOOP_KINDS)[number]
  /** Free note of its maker. */
  readonly note?: string
  /** px */
  readonly width: number
  readonly height: number
  /** A CSS colour; null is transparent. */
  readonly background: string | null
  /** Frames per second, in lowest terms. */
  readonly rate: Fraction
  /** Frames; frame `length` is the closing frame, which equals frame 0. */
  readonly length: number
  readonly layers: readonly Layer[]
  readonly blur: FrameBlur
  readonly palette: readonly NamedColour[]
  /** Loops that layers of kind `loop` place; none of them is placed in itself. */
  readonly loops: readonly InnerLoop[]
  /** Pictures and clips that layers show. Their files lie outside the document. */
  readonly media: readonly Medium[]
  /** Present in a variant that still follows its source. */
  readonly variantOf?: VariantOf
}

/** Something that the document holds and a layer shows, and the property that names it. */
export interface Reference {
  readonly property: string
  readonly to: EntryKind
  readonly id: string
}

/** References of a layer to entries of the document, without those of its children. */
export const referencesOf = ({ kind, values }: Pick<Layer, 'kind' | 'values'>): Reference[] =>
  propertiesWith(kind, 'references').flatMap(([name, property]) =>
    (propertyType(property).references?.(property, values[name] ?? null) ?? []).map((each) => ({
      ...each,
      property: name,
    })),
  )

/** Ids of what layers, and those in them, name of one sort. */
export const namedIn = (layers: readonly Layer[], sort: EntryKind): string[] =>
  layers.flatMap((layer) => [
    ...referencesOf(layer).flatMap(({ to, id }) => (to === sort ? [id] : [])),
    ...namedIn(layer.layers ?? [], sort),
  ])

/** Ids of the loops that layers place. */
export const placedLoops = (layers: readonly Layer[]): string[] => namedIn(layers, 'loop')

/** Whether a loop places another one, by way of others or not. */
export function reaches(from: string, to: string, loops: ReadonlyMap<string, Pick<InnerLoop, 'layers'>>): boolean {
  const seen = new Set<string>()
  const ahead = [...placedLoops(loops.get(from)?.layers ?? [])]
  for (let next = ahead.pop(); next !== undefined; next = ahead.pop()) {
    if (next === to) return true
    if (seen.has(next)) continue
    seen.add(next)
    ahead.push(...placedLoops(loops.get(next)?.layers ?? []))
  }
  return false
}
