import type { Remote } from 'comlink'
import { keptOf } from '@/codecs/write'
import type { FileTiming } from '@/core/clock'
import type { Loop } from '@/core/document'
import type { DeepPicture, Picture } from '@/core/image'
import { loopOfPass, pictureOfPass } from '@/core/output'
import type { FrameLane } from './render.worker'

/** The frames of a file, as they are drawn elsewhere: the next one while this one is being written. */
export class FrameFeed {
  private readonly kept = new Map<string, Picture>()
  private readonly coming = new Map<string, Promise<Picture>>()
  private nextVideoFrame: Promise<VideoFrame> | null = null
  private next = 0
  private reading = false

  /**
   * @param loop on its ground in the file
   * @param change is made to every picture, such as a matte
   */
  constructor(
    private readonly lane: Pick<Remote<FrameLane>, 'take' | 'other' | 'videoFrame' | 'deep'>,
    private readonly loop: Loop,
    private readonly timing: FileTiming,
    private readonly size: { readonly width: number; readonly height: number },
    private readonly change: ((picture: Picture) => Picture) | null = null,
  ) {}

  /** A frame of the file, by its number there: the whole picture, or a pass of it. */
  readonly draw = async (n: number, pass = 'picture'): Promise<Picture> => {
    const { timing, kept } = this
    const asked = this.ask(n, pass)
    // The next one is drawn while this one is written.
    if (n === this.next && n + 1 < timing.frames.length) void this.ask(n + 1, pass)
    const picture = await asked
    this.coming.delete(`${n} ${pass}`)
    if (n === this.next) this.next++
    if (kept.size < keptOf(this.size.width, this.size.height)) kept.set(`${n} ${pass}`, picture)
    return picture
  }

  /** The same of a pass of models, in numbers. */
  readonly deep = (n: number, pass: string, measured: boolean): Promise<DeepPicture> =>
    this.lane.deep(loopOfPass(this.loop, pass), this.timing.frames[n] as number, measured)

  /** A frame of the file for an encoder of video, which are asked for in turn. */
  readonly videoFrame = async (n: number): Promise<VideoFrame> => {
    const { lane, timing } = this
    const drawn = (of: number) => lane.videoFrame(timing.frames[of] as number)
    const frame = this.nextVideoFrame ?? drawn(n)
    this.nextVideoFrame = n + 1 < timing.frames.length ? drawn(n + 1) : null
    this.nextVideoFrame?.catch(() => {})
    return frame
  }

  /** From now on frames are asked for from the first on again: the file is read back. */
  readBack(): void {
    this.next = 0
    this.reading = true
  }

  private ask(n: number, pass: string): Promise<Picture> {
    const key = `${n} ${pass}`
    const known = this.kept.get(key)
    if (known) return Promise.resolve(known)
    const asked = this.coming.get(key) ?? this.drawn(n, pass)
    // A drawing that fails does so where it is waited for.
    asked.catch(() => {})
    this.coming.set(key, asked)
    return asked
  }

  private async drawn(n: number, pass: string): Promise<Picture> {
    const { lane, loop, timing, next, change } = this
    const frame = timing.frames[n] as number
    const inTurn = n >= next && n <= next + 1
    const at = inTurn ? n / timing.frames.length + Number(this.reading) : null
    const ofPass = loopOfPass(loop, pass)
    const picture = ofPass === loop ? await lane.take(frame, at) : await lane.other(ofPass, frame)
    return change ? change(picture) : pictureOfPass(picture, pass)
  }
}
