import type { Layer, Loop } from '../../document'

/** Size, duration and colours that a start is drawn for. */
export interface StartFrame {
  readonly width: number
  readonly height: number
  /** How long the loop lasts. */
  readonly seconds: number
}

/** Something that a new loop of a kind can begin with. */
export interface Start {
  readonly name: string
  readonly label: string
  /** Its layers in a frame, back to front; they move, and come home. */
  readonly layers: (frame: StartFrame) => readonly Layer[]
  /** Colours that its layers have by name. */
  readonly palette?: Loop['palette']
}
