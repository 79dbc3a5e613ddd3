import type { Layer } from '../document'
import { propertyAt } from './evaluate'

/** So many places round the loop are looked at. */
const PLACES = 24

/**
 * What a property is round the loop, with the seam in the middle: from half a loop before it to half a loop after; 0 for its least and 1 for its most.
 * Of a colour: where it has the one that it has at the seam, and where another.
 * @returns one more than there are steps; null where it is the same all the time
 */
export function roundTheLoop(layer: Layer, name: string, length: number): readonly number[] | null {
  const values = Array.from({ length: PLACES + 1 }, (_, i) =>
    propertyAt(layer, name, (i / PLACES - 0.5) * length - (i === PLACES ? 1e-6 : 0), length),
  )
  const [first] = values
  const numbers = values.map((value) =>
    typeof value === 'number' ? value : JSON.stringify(value) === JSON.stringify(first) ? 0 : 1,
  )
  const least = Math.min(...numbers)
  const most = Math.max(...numbers)
  return most - least < 1e-9 ? null : numbers.map((value) => (value - least) / (most - least))
}
