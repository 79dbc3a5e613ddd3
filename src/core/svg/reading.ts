import type { Element } from './parse'
import type { rulesIn } from './style'

/** What is known of a file while it is read. */
export interface Reading {
  readonly byId: ReadonlyMap<string, Element>
  readonly rules: ReturnType<typeof rulesIn>
  readonly left: Set<string>
  shapes: number
  visits: number
}
