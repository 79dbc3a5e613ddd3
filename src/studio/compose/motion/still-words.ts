import type { Layer } from '@/core/document'
import { movingNames } from '@/core/edit'

/** Words for a layer without a motion of its own. */
export function stillWords({ name, layers = [] }: Layer): string {
  const moving = layers.filter((each) => movingNames(each).length > 0).map((each) => each.name)
  if (moving.length === 0) return `${name} does not move yet.`
  const some = moving.length > 3 ? `${moving.length} layers` : new Intl.ListFormat('en').format(moving)
  return `${name} itself does not move; ${some} in it ${moving.length === 1 ? 'does' : 'do'}.`
}
