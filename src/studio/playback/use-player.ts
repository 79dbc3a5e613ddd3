'use client'

import { useEffect } from 'react'
import { create } from 'zustand'
import { toNumber } from '@/core/clock'
import type { FrameStore } from '@/store/frames'
import { usePlayhead, useSession, useShownLoop } from '@/store/session'
import { dueIndex, keepsPace, PaceMeter, playedFrames } from './pace'

interface Measured {
  /** Frames per second that were shown over the last second; null while not playing. */
  readonly rate: number | null
  readonly keeps: boolean
  /** Frames that were due but not shown since playing began. */
  readonly missed: number
}
export const useMeasured = create<Measured>()(() => ({ rate: null, keeps: true, missed: 0 }))

/** Plays the shown loop from its cached frames. A frame that is not drawn yet is not shown, and counted as missed. */
export function usePlayer(frames: FrameStore | null): void {
  const loop = useShownLoop()
  const { playing, pace, aroundSeam } = useSession()
  const length = loop?.length ?? 0
  const rate = loop?.rate
  useEffect(() => {
    if (!playing || !rate || length < 2) return
    const order = playedFrames(length, aroundSeam)
    const first = Math.max(0, order.indexOf(usePlayhead.getState().frame))
    const meter = new PaceMeter()
    const start = performance.now()
    meter.start(start)
    let request = 0
    let last = -1
    let missed = 0
    let told = start
    const tick = (now: number) => {
      request = requestAnimationFrame(tick)
      const index = dueIndex(Math.max(0, now - start), rate, pace, first, order.length)
      if (index !== last) {
        const due = order[index] as number
        if (last >= 0) missed += (index - last - 1 + order.length) % order.length
        last = index
        if (frames?.has(due)) {
          meter.shown(now)
          usePlayhead.setState({ frame: due })
        } else {
          missed++
          frames?.present(due)
        }
      }
      if (now - told > 250) {
        told = now
        const measured = meter.rate(now)
        if (measured !== null) {
          const keeps = keepsPace(measured, toNumber(rate) * pace)
          useMeasured.setState({ rate: measured, keeps, missed })
        }
      }
    }
    request = requestAnimationFrame(tick)
    return () => {
      cancelAnimationFrame(request)
      useMeasured.setState({ rate: null, keeps: true, missed: 0 })
    }
  }, [playing, pace, aroundSeam, length, rate, frames])
}
