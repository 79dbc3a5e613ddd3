'use client'

import { useEffect, useState } from 'react'
import { documentStore } from '@/store/document'
import { FrameStore } from '@/store/frames'
import { usePlayhead, useSession } from '@/store/session'

/**
 * The drawn frames of the shown loop, at the width of an element in px; they live as long as the view. A change goes to
 * the worker at once, before the interface has been drawn anew.
 */
export function useFrames(width: number): FrameStore | null {
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
    if (!store || width <= 0) return
    const show = () => {
      const loop = useSession.getState().preview ?? documentStore.getState().loop
      if (loop) store.show(loop, width * devicePixelRatio, usePlayhead.getState().frame)
    }
    show()
    const stops = [
      documentStore.subscribe(show),
      useSession.subscribe(show),
      usePlayhead.subscribe(({ frame }) => store.present(frame)),
    ]
    return () => {
      for (const stop of stops) stop()
    }
  }, [store, width])
  return store
}
