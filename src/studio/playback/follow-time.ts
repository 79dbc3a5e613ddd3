'use client'

import { type RefObject, useEffect } from 'react'
import { frameMs, type Playback } from '@/core/clock'
import { usePlayback } from '@/store/playback'
import { usePlayhead } from '@/store/session'

/** More moments than this are not told apart by an element that follows time. */
const MAX_MOMENTS = 720

/** One round of what is played as keyframes: a transform for each frame, held as long as the frame is shown. */
function keyframes(order: readonly number[], transform: (frame: number) => string): Keyframe[] {
  const every = Math.ceil(order.length / MAX_MOMENTS)
  const moments = order.flatMap((frame, i) =>
    i % every === 0 ? [{ transform: transform(frame), offset: i / order.length, easing: 'step-end' }] : [],
  )
  return [...moments, { transform: moments.at(-1)?.transform ?? 'none', offset: 1 }]
}

function animate(element: HTMLElement, playback: Playback, transform: (frame: number) => string): Animation {
  const animation = element.animate(keyframes(playback.order, transform), {
    duration: frameMs(playback) * playback.order.length,
    iterations: Number.POSITIVE_INFINITY,
  })
  // The page's own timeline counts from its time origin, as performance.now() does.
  animation.startTime = playback.startedAt - performance.timeOrigin - playback.first * frameMs(playback)
  return animation
}

/**
 * Moves an element with time. Standing still it is put where the playhead is; while playing, the browser moves it by
 * itself, so that no time of the page goes into it.
 */
export function useFollowTime(element: RefObject<HTMLElement | null>, transform: (frame: number) => string): void {
  useEffect(() => {
    let animation: Animation | null = null
    const follow = () => {
      const { playback } = usePlayback.getState()
      animation?.cancel()
      animation = playback && element.current ? animate(element.current, playback, transform) : null
      put()
    }
    const put = () => {
      if (element.current) element.current.style.transform = transform(usePlayhead.getState().frame)
    }
    follow()
    const stops = [usePlayback.subscribe(follow), usePlayhead.subscribe(put)]
    return () => {
      animation?.cancel()
      for (const stop of stops) stop()
    }
  }, [element, transform])
}
