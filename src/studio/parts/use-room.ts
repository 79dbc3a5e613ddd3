'use client'

import { type RefObject, useLayoutEffect, useRef, useState } from 'react'

/** An element to be measured, and how much room there is in it, px; nothing before it is on the page. */
export function useRoom(): { box: RefObject<HTMLDivElement | null>; width: number; height: number } {
  const box = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    if (!box.current) return
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setRoom({ width: entry.contentRect.width, height: entry.contentRect.height })
    })
    observer.observe(box.current)
    return () => observer.disconnect()
  }, [])
  return { box, ...room }
}
