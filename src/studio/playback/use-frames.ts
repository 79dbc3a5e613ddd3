'use client'

import { useEffect, useState } from 'react'
import { FrameStore } from '@/store/frames'
import { usePlayhead, useShownLoop } from '@/store/session'

/** The drawn frames of the shown loop, at the width of an element; they live as long as the view. */
export function useFrames(width: number): FrameStore | null {
  const loop = useShownLoop()
  const [store, setStore] = useState<FrameStore | null>(null)
  useEffect(() => {
    const made = new FrameStore()
    setStore(made)
    return () => {
      made.end()
      setStore(null)
    }
  }, [])
  useEffect(() => {
    if (loop && width > 0) store?.show(loop, width * devicePixelRatio, usePlayhead.getState().frame)
  }, [store, loop, width])
  return store
}
