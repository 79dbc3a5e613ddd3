import { fraction } from '@/core/clock'
import { begunLoop } from '@/core/edit'
import { openUnsaved } from '@/store/autosave'
import { setSession } from '@/store/session'

/** Opens a loop of one's own to be shown the way on; returns its id. @throws StorageError */
export async function beginTour(): Promise<string> {
  const clock = { rate: fraction(30), length: 60 }
  const brief = { name: 'My first loop', kind: 'loader', width: 480, height: 480, background: '#0a2231' } as const
  const loop = begunLoop({ ...brief, ...clock }, 'arc')
  await openUnsaved(loop)
  setSession({ tourAsked: true })
  return loop.id
}
