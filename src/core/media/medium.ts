import type * as z from 'zod/mini'
import type { Asset } from './asset'
import type { Verdict } from './verdicts'

/** Something that a document holds beside its layers, and that is drawn from files. */
export interface Medium {
  /** Names an entry of the table of kinds. */
  readonly kind: string
  readonly id: string
  readonly name: string
}

/** The seam of a medium by itself, repeated. */
interface MediumSeam {
  readonly verdict: Verdict
  /** The first frame after its fault; 0 at its seam. */
  readonly frame: number
  /** Where in its cycle that begins, 0 … 1. */
  readonly place: number
}

/** A kind of medium. One object in a file of its own, and a line in the table. */
export interface MediumKind<M extends Medium = Medium> {
  readonly kind: M['kind']
  /** In the middle of a sentence. */
  readonly label: string
  /** Schemas of its fields beside kind, id and name; what they accept is all that is ever stored. */
  readonly fields: Readonly<Record<Exclude<keyof M, 'kind' | 'id' | 'name'> & string, z.ZodMiniType>>
  /** The fault between fields of a medium, with the name of one of them; null if there is none. */
  readonly fault?: (medium: M) => { readonly field: string; readonly message: string } | null
  /** A document holds at most this many of them. */
  readonly most: number
  /** Endings of the files that one of it is read from, where such a file is one of it and nothing else. */
  readonly endings?: readonly string[]
  /** The files that it is drawn from, the ones that a picture of it needs first. */
  readonly assets: (medium: M) => readonly Asset[]
  /** The seam of the medium by itself, for one that runs: a loop that crosses its fault shows it. */
  readonly seam?: (medium: M) => MediumSeam
  /** How long each of its pictures is shown, ms, where it runs. */
  readonly delaysMs?: (medium: M) => readonly number[]
  /** The file that it was cut from, as it came, with its name; null where that was not kept. */
  readonly source?: (medium: M) => { readonly name: string; readonly file: Asset } | null
  /** The same with other pictures of another size, px, in its place; absent where it is no picture that can be changed. */
  readonly withPictures?: (medium: M, size: { readonly width: number; readonly height: number }, files: Asset) => M
  /** How it is drawn; absent where it is no picture. */
  readonly picture?: {
    /** Of every picture of it, px. */
    readonly size: (medium: M) => { readonly width: number; readonly height: number }
    /** The asset whose parts are its pictures. */
    readonly of: (medium: M) => Asset
    /** Index of the picture at a position in its cycles. */
    readonly at: (medium: M, cycles: number) => number
  }
}
