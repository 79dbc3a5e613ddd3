import type { Layer } from '../document'
import { propertyAt } from './evaluate'

/** Number of samples round the loop. */
const PLACES = 24

/**
 * Course of a property round the loop with the seam in the middle, from half a loop before it to half a loop after; 0
 * at its least value, 1 at its greatest. For a colour: 0 where it equals the one at the seam, 1 where it differs.
 * @returns one value more than there are steps; null if the property does not change
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
