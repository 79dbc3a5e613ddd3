import { type ClipPlan, type Learned, mixFrame, type PlanFrame, sourcesOf } from '@/core/footage'
import type { Picture } from '@/core/image'
import type { OpenedClip } from './reader'

/** Source frames at full size that are held at once, bytes. */
const CEILING = 64 * 1024 * 1024

/**
 * The frames of a plan at full size. The source is read anew for them: asked for one after the other, as many at a time as
 * fit under the ceiling; else one by one.
 */
export class FullFrames {
  private held = new Map<number, Picture>()
  private last = -2
  private turn: Promise<unknown> = Promise.resolve()

  constructor(
    private readonly opened: OpenedClip,
    private readonly plan: ClipPlan,
    private readonly edit: Learned['edit'] = (picture) => picture,
  ) {}

  /** Frame n of the plan. @throws ClipError where it cannot be read. */
  at(n: number): Promise<Picture> {
    const work = this.turn.then(() => this.read(n))
    this.turn = work.catch(() => {})
    return work
  }

  private async read(n: number): Promise<Picture> {
    const { width, height, frames } = this.opened
    const frame = this.plan.frames[n] as PlanFrame
    if (sourcesOf(frame).some((of) => !this.held.has(of))) {
      const room = Math.max(1, Math.floor(CEILING / (width * height * 4)))
      const wanted = new Set<number>()
      for (const next of this.plan.frames.slice(n, n === this.last + 1 ? undefined : n + 1)) {
        const more = sourcesOf(next).filter((of) => !wanted.has(of))
        if (wanted.size > 0 && wanted.size + more.length > room) break
        for (const of of more) wanted.add(of)
      }
      this.held = new Map([...this.held].filter(([of]) => wanted.has(of)))
      const missing = [...wanted].filter((of) => !this.held.has(of)).sort((a, b) => a - b)
      for await (const { n: of, picture } of frames(width, height, missing)) this.held.set(of, picture)
    }
    this.last = n
    return mixFrame(frame, (of, where) => this.edit(this.held.get(of) as Picture, of, where))
  }
}
