import { create } from 'zustand'
import { dueFrame, type Playback, playedFrames, wrapFrame } from '@/core/clock'
import { sharedNow } from '@/workers/shared/timing'
import { currentLoop, documentStore } from './document'
import { usePlayhead, useSession } from './session'

/** Current playback; null while paused. */
export const usePlayback = create<{ readonly playback: Playback | null }>()(() => ({ playback: null }))

/** The frame that is shown, also while it plays. */
export function frameNow(): number {
  const { playback } = usePlayback.getState()
  return playback ? dueFrame(playback, sharedNow()) : usePlayhead.getState().frame
}

/** Shows a whole frame of the loop, modulo its length; where it plays, it plays on from there. */
export function showFrame(frame: number): void {
  const loop = currentLoop()
  const { playback } = usePlayback.getState()
  if (!loop) return
  const n = wrapFrame(Math.round(frame), loop.length)
  if (playback)
    usePlayback.setState({
      playback: { ...playback, first: Math.max(0, playback.order.indexOf(n)), startedAt: sharedNow() },
    })
  else if (n !== usePlayhead.getState().frame) usePlayhead.setState({ frame: n })
}

/** Playing follows from the session and the shown loop, at once: where it stops, the playhead stands there. */
function follow() {
  const { playing, pace, aroundSeam, preview } = useSession.getState()
  const loop = preview ?? currentLoop()
  const before = usePlayback.getState().playback
  const { frame } = usePlayhead.getState()
  if (loop && frame >= loop.length) usePlayhead.setState({ frame: loop.length - 1 })
  if (!playing || !loop || loop.length < 2) {
    if (!before) return
    usePlayhead.setState({ frame: frameNow() })
    usePlayback.setState({ playback: null })
    return
  }
  const order = playedFrames(loop.length, aroundSeam)
  const same =
    before?.pace === pace &&
    before.rate.num === loop.rate.num &&
    before.rate.den === loop.rate.den &&
    before.order.length === order.length &&
    before.order[0] === order[0] &&
    before.order.at(-1) === order.at(-1)
  if (same) return
  const first = Math.max(0, order.indexOf(frameNow() % loop.length))
  usePlayback.setState({ playback: { order, first, rate: loop.rate, pace, startedAt: sharedNow() } })
}

useSession.subscribe(follow)
documentStore.subscribe(follow)
