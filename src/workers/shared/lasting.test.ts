import { describe, expect, it } from 'vitest'
import type { Client } from './client'
import { lastingService, WorkerEnded } from './client'

/** Clients that die when they are told to. */
function mortal() {
  const made: { die: (why: string) => void; ended: boolean }[] = []
  const start = (): Client<object> => {
    let die = (_why: string) => {}
    const broken = new Promise<never>((_, reject) => {
      die = (why) => reject(new WorkerEnded(why))
    })
    broken.catch(() => {})
    const own = { die, ended: false }
    made.push(own)
    return {
      service: {} as Client<object>['service'],
      broken,
      ask: (work) => Promise.race([work({} as never), broken]),
      send: async () => {},
      end: () => {
        own.ended = true
      },
    }
  }
  return { made, start }
}

describe('a service whose worker dies', () => {
  it('says so where something was asked, and asks a new worker from then on', async () => {
    const { made, start } = mortal()
    const service = lastingService(start)
    const never = service.ask(() => new Promise(() => {}))
    made[0]?.die('no memory left')
    await expect(never).rejects.toThrow('no memory left')
    expect(made[0]?.ended).toBe(true)
    expect(await service.ask(async () => 7)).toBe(7)
    expect(made).toHaveLength(2)
  })
  it('keeps its worker where only the work failed', async () => {
    const { made, start } = mortal()
    const service = lastingService(start)
    await expect(service.ask(() => Promise.reject(new Error('this file is damaged')))).rejects.toThrow('damaged')
    expect(await service.ask(async () => 7)).toBe(7)
    expect(made).toHaveLength(1)
    service.end()
    expect(made[0]?.ended).toBe(true)
  })
})
