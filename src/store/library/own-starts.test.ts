import 'fake-indexeddb/auto'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ownStarts, setOwnStart } from './own-starts'
import { notes } from './records'

describe('loops to begin with', () => {
  beforeEach(async () => {
    vi.restoreAllMocks()
    await notes.clear()
  })
  it('are kept in the order in which they were said to be, each once, and let go', async () => {
    expect(await ownStarts()).toEqual([])
    await setOwnStart('lamp', true)
    await setOwnStart('buoy', true)
    expect(await setOwnStart('lamp', true)).toEqual(['buoy', 'lamp'])
    expect(await ownStarts()).toEqual(['buoy', 'lamp'])
    expect(await setOwnStart('buoy', false)).toEqual(['lamp'])
    expect(await setOwnStart('nothing', false)).toEqual(['lamp'])
  })
  it('are none where what is kept is damaged', async () => {
    for (const damaged of ['lamp', 7, { lamp: true }, null]) {
      await notes.setItem('loops to begin with', damaged)
      expect(await ownStarts()).toEqual([])
    }
    await notes.setItem('loops to begin with', ['lamp', 3, null])
    expect(await ownStarts()).toEqual(['lamp'])
  })
  it('say that storage is at fault where it is, and stay as they were', async () => {
    await setOwnStart('lamp', true)
    vi.spyOn(notes, 'setItem').mockRejectedValue(new Error('It is full.'))
    await expect(setOwnStart('buoy', true)).rejects.toThrow()
    expect(await ownStarts()).toEqual(['lamp'])
  })
})
