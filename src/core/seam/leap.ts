import { placeWords } from './place'

/** A part of the frame, as shares of its width and height. */
export interface LeapPlace {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Something that is suddenly elsewhere, or looks otherwise, from one frame to the next. */
export interface Leap {
  /** The last frame before it, counted from 0; N − 1 at the seam. */
  readonly frame: number
  /** `moves`: gone from the first place and seen at the second. `changes`: looks otherwise where it is. */
  readonly change: 'moves' | 'appears' | 'vanishes' | 'changes'
  /** Where in the frame, the most striking first. */
  readonly places: readonly LeapPlace[]
  /** Residual of the leap divided by the greatest of every other pair of frames; over 1. */
  readonly ratio: number
}

const middleOf = ({ x, y, width, height }: LeapPlace) => placeWords({ x: x + width / 2, y: y + height / 2 })

/** A leap in words: what is seen, and where. */
export function leapWords({ change, places }: Leap): string {
  const [first, second] = places
  const at = first ? ` ${middleOf(first)}` : ''
  switch (change) {
    case 'moves':
      return `something${at} is suddenly ${second && middleOf(second) !== at.trim() ? middleOf(second) : 'elsewhere'}`
    case 'appears':
      return `something${at} is suddenly there`
    case 'vanishes':
      return `something${at} is suddenly gone`
    case 'changes':
      return `something${at} suddenly looks otherwise`
  }
}
