import { TARGETS, type Target, targetSchema } from '@/core/output'
import { storeOf } from './storage'

const targets = storeOf('targets')

/** All targets: those that are there from the beginning, as they were last saved, and one's own, by name. */
export async function listTargets(): Promise<Target[]> {
  const own: Target[] = []
  await targets.iterate<unknown, void>((record) => {
    const { success, data } = targetSchema.safeParse(record)
    // A target written by another version that this one cannot read is left in place.
    if (success) own.push(data)
  })
  const named = (id: string) => own.find((each) => each.id === id)
  const extra = own.filter(({ id }) => !TARGETS.some((each) => each.id === id))
  return [...TARGETS.map((each) => named(each.id) ?? each), ...extra.sort((a, b) => a.name.localeCompare(b.name))]
}

export const saveTarget = (target: Target): Promise<unknown> => targets.setItem(target.id, targetSchema.parse(target))

/** Takes one's own away, or has one of the first be as it was. */
export const removeTarget = (id: string): Promise<void> => targets.removeItem(id)
