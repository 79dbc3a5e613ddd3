import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { readAllStored } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import { deleteForGood, listLoops, saveLoop } from '.'
import { forgetVerdict, keepKnown, keepVerdict, keptVerdict } from './verdicts'

const changed = { ...quay, background: '#123456' }

describe('the verdict on a loop in the library', () => {
  beforeEach(async () => {
    vi.restoreAllMocks()
    await forgetVerdict(quay.id)
  })
  it('is kept as long as the loop stays as it was, and not a change longer', async () => {
    expect(await keptVerdict(quay)).toBeNull()
    await keepVerdict(quay, 'jumps')
    expect(await keptVerdict(structuredClone(quay))).toBe('jumps')
    expect(await keptVerdict(changed)).toBeNull()
    // Found of the new state, it is no longer that of the old one.
    await keepVerdict(changed, 'closes')
    expect([await keptVerdict(changed), await keptVerdict(quay)]).toEqual(['closes', null])
  })
  it('comes with loops of the demo by the state that it was found of, and not with others', async () => {
    await keepKnown(quay, { somethingElse: 'closes' })
    expect(await keptVerdict(quay)).toBeNull()
    const { idOfBytes } = await import('@/core/media')
    const { formatLoop } = await import('@/core/document')
    const state = await idOfBytes(new TextEncoder().encode(formatLoop(quay)))
    await keepKnown(quay, { [state]: 'still' })
    expect(await keptVerdict(quay)).toBe('still')
  })
  it('goes with its loop', async () => {
    await saveLoop(quay)
    await keepVerdict(quay, 'closes')
    const [shown] = await listLoops(async (all) => readAllStored(all))
    expect(shown && (await deleteForGood(shown))).toBeTypeOf('function')
    expect(await keptVerdict(quay)).toBeNull()
  })
  it('is worked out where storage fails or holds what is none', async () => {
    await keepVerdict(quay, 'perfect' as never)
    expect(await keptVerdict(quay)).toBeNull()
    vi.spyOn(globalThis.crypto.subtle, 'digest').mockRejectedValue(new Error('no'))
    await keepVerdict(quay, 'closes')
    expect(await keptVerdict(quay)).toBeNull()
  })
})
