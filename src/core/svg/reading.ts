import type { Element } from './parse'
import type { rulesIn } from './style'

/** State of reading one file. */
export interface Reading {
  readonly byId: ReadonlyMap<string, Element>
  readonly rules: ReturnType<typeof rulesIn>
  readonly left: Set<string>
  shapes: number
  visits: number
}
