import { describe, expect, it } from 'vitest'
import { type Client, WorkerEnded, WorkerStopped } from './client'
import { poolOf } from './pool'

interface Held {
  readonly go: (value: number) => void
  readonly fail: (error: Error) => void
}

/** Workers whose jobs wait until they are told how they end, and that die when they are told to. */
function workers() {
  const made: { die: () => void; ended: boolean }[] = []
  const jobs: Held[] = []
  const service = {
    work: () =>
      new Promise<number>((go, fail) => {
        jobs.push({ go, fail })
      }),
  }
  const start = (): Client<typeof service> => {
    let die = () => {}
    let stop = () => {}
    const broken = new Promise<never>((_, reject) => {
      die = () => reject(new WorkerEnded('no memory left'))
    })
    const stopped = new Promise<never>((_, reject) => {
      stop = () => reject(new WorkerStopped('ended'))
    })
    broken.catch(() => {})
    stopped.catch(() => {})
    const own = { die, ended: false }
    made.push(own)
    return {
      service: service as never,
      broken,
      ask: (job) => Promise.race([job(service as never), broken, stopped]),
      send: async () => {},
      end: () => {
        own.ended = true
        stop()
      },
    }
  }
  return { made, jobs, start }
}
const settle = () => new Promise((resolve) => setTimeout(resolve))
const work = async (service: { work: () => Promise<number> }) => service.work()

describe('a pool', () => {
  it('shares jobs out among so many workers, and no more', async () => {
    const { made, jobs, start } = workers()
    const pool = poolOf(start, 2)
    const all = Array.from({ length: 5 }, () => pool.run(work))
    await settle()
    expect([made.length, jobs.length]).toEqual([2, 2])
    for (let n = 0; n < 5; n++) {
      jobs[n]?.go(n)
      await settle()
    }
    expect(await Promise.all(all)).toEqual([0, 1, 2, 3, 4])
    expect(made).toHaveLength(2)
  })
  it('says where a job fails, and goes on with the others', async () => {
    const { made, jobs, start } = workers()
    const pool = poolOf(start, 1)
    const bad = pool.run(work)
    const good = pool.run(work)
    await settle()
    jobs[0]?.fail(new Error('this frame is damaged'))
    await expect(bad).rejects.toThrow('damaged')
    jobs[1]?.go(7)
    expect(await good).toBe(7)
    expect(made).toHaveLength(1)
  })
  it('tries a job once more whose worker has died, and not for ever', async () => {
    const { made, jobs, start } = workers()
    const pool = poolOf(start, 1)
    const first = pool.run(work)
    await settle()
    made[0]?.die()
    await settle()
    jobs[1]?.go(3)
    expect(await first).toBe(3)
    const second = pool.run(work)
    await settle()
    made[1]?.die()
    await settle()
    made[2]?.die()
    await expect(second).rejects.toBeInstanceOf(WorkerEnded)
    expect(made.map(({ ended }) => ended)).toEqual([true, true, true])
    // Others are served all the same.
    const third = pool.run(work)
    await settle()
    jobs.at(-1)?.go(1)
    expect(await third).toBe(1)
  })
  it('gives up what is taken back while it waits, and everything when it is ended', async () => {
    const { jobs, start } = workers()
    const pool = poolOf(start, 1)
    const running = pool.run(work)
    const off = new AbortController()
    const taken = pool.run(work, off.signal)
    const waiting = pool.run(work)
    off.abort(new DOMException('not wanted any more', 'AbortError'))
    await expect(taken).rejects.toThrow('not wanted')
    await settle()
    expect(jobs).toHaveLength(1)
    pool.end()
    await expect(running).rejects.toBeInstanceOf(WorkerStopped)
    await expect(waiting).rejects.toBeInstanceOf(WorkerStopped)
    await expect(pool.run(work)).rejects.toBeInstanceOf(WorkerStopped)
  })
})
