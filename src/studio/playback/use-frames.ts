'use client'

import { type RefObject, useEffect, useRef, useState } from 'react'
import { FrameStore } from '@/store/frames'
import { usePlayhead, useShownLoop } from '@/store/session'

/** The drawn frames of the shown loop, at the width of an element; they live as long as the view. */
export function useFrames(width: number): RefObject<FrameStore | null> {
  const store = useRef<FrameStore | null>(null)
  const loop = useShownLoop()
  const [ready, setReady] = useState(false)
  useEffect(() => {
    store.current = new FrameStore()
    setReady(true)
    return () => {
      store.current?.end()
      store.current = null
      setReady(false)
    }
  }, [])
  useEffect(() => {
    if (ready && loop && width > 0) store.current?.show(loop, width * devicePixelRatio, usePlayhead.getState().frame)
  }, [ready, loop, width])
  return store
}
