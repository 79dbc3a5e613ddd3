import { proxy, type Remote, releaseProxy, transfer } from 'comlink'
import type { Playback } from '@/core/clock'
import type { Loop } from '@/core/document'
import type { RenderService } from '@/workers/inside/render.worker'
import type { FramesStatus, Screen } from '@/workers/inside/screen'
import { type Client, renderClient } from '@/workers/page/clients'
import { tellTrouble } from './trouble'

/** Ceiling of the frames of the loop that is worked on, and of each thumbnail, bytes. */
const STAGE_CEILING = 384 * 1024 * 1024
const THUMBNAIL_CEILING = 24 * 1024 * 1024

interface Wanted {
  readonly loop: Loop
  readonly width: number
  readonly frame: number
}

const NOTHING: FramesStatus = { cached: new Uint8Array(), measured: null, problem: null, missing: [] }

/**
 * A canvas on which a worker draws, keeps and shows the frames of a loop. While one picture is being drawn only the last
 * one asked for waits, so that a drag never falls behind.
 */
export class FrameStore {
  /** The canvas to put on the page. It is sent a `shown` event, with the time, whenever a frame has been put on it. */
  readonly canvas = document.createElement('canvas')
  /** null until the worker has taken over the canvas. */
  private screen: Remote<Screen> | null = null
  private readonly listeners = new Set<() => void>()
  private latest: FramesStatus = NOTHING
  private sent: Wanted | null = null
  private wanted: Wanted | null = null
  private playback: Playback | null = null
  private busy = false
  private ended = false
  /** Rejects when the worker that draws has died: the canvas has gone with it, and another store must take this one's place. */
  readonly broken: Promise<never>

  constructor(
    private readonly client: Client<RenderService>,
    ceiling: number,
    /** Whether frames are drawn ahead while it stands still, too. */
    ahead: boolean,
  ) {
    this.broken = client.broken
    const canvas = this.canvas.transferControlToOffscreen()
    const tell = (status: FramesStatus) => {
      if (status.problem) tellTrouble('A frame could not be drawn.', status.problem)
      const { cached } = this.latest
      const alike = cached.length === status.cached.length && cached.every((here, n) => here === status.cached[n])
      this.latest = alike ? { ...status, cached } : status
      for (const listener of this.listeners) listener()
    }
    const made = client.service.screen(transfer(canvas, [canvas]), ceiling, proxy(tell), ahead)
    void Promise.race([made as Promise<Remote<Screen>>, client.broken]).then(
      (screen) => {
        this.screen = screen
        if (this.playback) this.quietly(screen.play(this.playback))
        void this.showWanted()
      },
      (error) => {
        if (!this.ended) tellTrouble('The loop could not be drawn.', error)
      },
    )
  }

  /** Shows a frame of a loop at a width in device pixels. Frames of another loop or size are drawn anew. */
  show(loop: Loop, width: number, frame: number): void {
    this.wanted = { loop, width, frame }
    void this.showWanted()
  }

  /** Plays from a moment on, until it is told to stop with null. */
  play(playback: Playback | null): void {
    if (playback === this.playback) return
    this.playback = playback
    if (this.ended) return
    const told = playback ? this.screen?.play(playback) : this.screen?.stop()
    if (told) this.quietly(told)
  }

  private quietly(work: Promise<unknown>): void {
    work.catch((error) => tellTrouble('The loop could not be played.', error))
  }

  /** Which frames are drawn and kept, and the pace that was measured. */
  readonly status = (): FramesStatus => this.latest

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** Lets go of the frames. */
  async end(): Promise<void> {
    if (this.ended) return
    this.ended = true
    // A worker that has died has nothing left to let go of.
    await Promise.race([this.screen?.end(), this.broken]).catch(() => {})
    this.screen?.[releaseProxy]()
  }

  /** Sends what a loop is drawn from before it is sent itself; one without media at once. */
  private async withFiles<R>(loop: Loop, then: () => Promise<R>): Promise<R> {
    if (loop.media.length > 0) await this.client.send(loop)
    return then()
  }

  /** Nothing is waited for before the message has been sent: the page draws itself anew in the meantime. */
  private async showWanted() {
    const { screen } = this
    if (this.busy || !screen) return
    this.busy = true
    try {
      while (this.wanted && !this.ended) {
        const { sent, wanted } = this
        this.sent = wanted
        this.wanted = null
        const same = sent?.loop === wanted.loop && sent.width === wanted.width
        const at = await Promise.race([
          same
            ? screen.present(wanted.frame)
            : this.withFiles(wanted.loop, () => screen.setLoop(wanted.loop, wanted.width, wanted.frame)),
          this.broken,
        ])
        this.canvas.dispatchEvent(new CustomEvent('shown', { detail: at }))
      }
    } catch (error) {
      // The next request is tried anew, whatever happened to this one.
      this.sent = null
      if (!this.ended) tellTrouble('The frame could not be drawn.', error)
    } finally {
      this.busy = false
    }
    if (this.wanted && !this.ended && this.wanted !== this.sent) void this.showWanted()
  }
}

/** Frames for the stage, drawn by a worker of their own. Returns a function that ends both. */
export function stageFrames(): { frames: FrameStore; end: () => void } {
  const client = renderClient()
  const frames = new FrameStore(client, STAGE_CEILING, true)
  return { frames, end: client.end }
}

let thumbnails: { readonly client: Client<RenderService>; users: number } | null = null

/** Frames of a thumbnail; one worker draws all of them. Returns a function that ends these. */
export function thumbnailFrames(): { frames: FrameStore; end: () => void } {
  thumbnails ??= { client: renderClient(), users: 0 }
  const shared = thumbnails
  shared.users++
  const { client } = shared
  const frames = new FrameStore(client, THUMBNAIL_CEILING, false)
  // The next thumbnail is given a new worker where this one has died.
  client.broken.catch(() => {
    if (thumbnails === shared) thumbnails = null
  })
  const end = async () => {
    await frames.end()
    shared.users--
    if (shared.users > 0) return
    shared.client.end()
    if (thumbnails === shared) thumbnails = null
  }
  return { frames, end: () => void end() }
}
