import { closeSync, openSync, readSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type ClipPlan, mixFrame, type PlanFrame, sourcesOf } from '@/core/footage'
import type { Picture } from '@/core/image'
import { CommandError } from './command-error'
import type { Source } from './sources'

/** Frames of the clip that are kept at hand, bytes; where more are needed again, they lie in a file meanwhile. */
const KEPT = 192 * 1024 * 1024

/** The frames of a plan. The clip is read once, whatever is made of it. */
export class Reel {
  private readonly wanted: readonly number[]
  private store: Store | null = null
  private reading: AsyncGenerator<Picture> | null = null
  private next = 0

  constructor(
    private readonly source: Source,
    private readonly plan: ClipPlan,
    private readonly most = KEPT,
  ) {
    this.wanted = [...new Set(plan.frames.flatMap(sourcesOf))].sort((a, b) => a - b)
  }

  /** A frame of the clip, which is one that the plan needs. @throws CommandError where the clip breaks off before it */
  async at(frame: number): Promise<Picture> {
    const known = this.store?.get(frame)
    if (known) return known
    this.reading ??= this.source.frames()
    for (;;) {
      const { value, done } = await this.reading.next()
      if (done || !value) throw new CommandError(`The clip breaks off at frame ${this.next}.`)
      const n = this.next++
      if (!this.wanted.includes(n)) continue
      this.store ??= storeFor(value, this.wanted.length, this.most)
      this.store.put(n, value)
      if (n === frame) return value
    }
  }

  async mixed(n: number): Promise<Picture> {
    const frame = this.plan.frames[n] as PlanFrame
    const pictures = new Map<number, Picture>()
    for (const of of sourcesOf(frame).sort((a, b) => a - b)) pictures.set(of, await this.at(of))
    return mixFrame(frame, (of) => pictures.get(of) as Picture)
  }

  /** Ends the reading, and leaves nothing behind. */
  async close(): Promise<void> {
    await this.reading?.return(undefined)
    this.store?.close()
  }
}

interface Store {
  put(n: number, picture: Picture): void
  get(n: number): Picture | null
  close(): void
}

const storeFor = (picture: Picture, count: number, most: number): Store =>
  count * picture.data.length <= most ? inMemory() : inFile(picture)

function inMemory(): Store {
  const kept = new Map<number, Picture>()
  return { put: (n, picture) => void kept.set(n, picture), get: (n) => kept.get(n) ?? null, close: () => kept.clear() }
}

/** Frames one after the other in a file of their own, as they are. */
function inFile({ width, height, data: { length } }: Picture): Store {
  const path = join(tmpdir(), `cyclon-frames-${process.pid}-${Math.random().toString(36).slice(2)}`)
  const file = openSync(path, 'wx+')
  const places = new Map<number, number>()
  return {
    put(n, { data }) {
      const place = places.size * length
      for (let done = 0; done < length; ) done += writeSync(file, data, done, length - done, place + done)
      places.set(n, place)
    },
    get(n) {
      const place = places.get(n)
      if (place === undefined) return null
      const data = new Uint8ClampedArray(length)
      for (let done = 0; done < length; ) done += readSync(file, data, done, length - done, place + done)
      return { width, height, data }
    },
    close() {
      closeSync(file)
      rmSync(path, { force: true })
    },
  }
}
