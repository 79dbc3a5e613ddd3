'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import type { Loop } from '@/core/document'
import { tellTrouble } from '@/store/trouble'

let fromEvent: typeof import('file-selector').fromEvent | null = null
/** Fetches what reads dropped folders, when something is first dragged over the page. */
function readDrops() {
  if (!fromEvent) void import('file-selector').then((module) => (fromEvent = module.fromEvent)).catch(() => {})
}

/** Lets files be dropped on a view, or pasted: loop files, moving pictures, and, where a loop is open, pictures. */
export function useFileDrop(onTaken?: (loops: readonly Loop[]) => void) {
  const router = useRouter()
  const [over, setOver] = useState(false)
  const hasFiles = (event: React.DragEvent) => event.dataTransfer.types.includes('Files')
  const take = async (dropped: readonly File[]) => {
    try {
      const { takeIn } = await import('./take-files')
      await takeIn(dropped, { show: (address) => router.push(address), onTaken })
    } catch (error) {
      tellTrouble('What was dropped could not be taken in.', error)
    }
  }
  const handlers = {
    onDragOver: (event: React.DragEvent) => {
      if (!hasFiles(event)) return
      event.preventDefault()
      readDrops()
      setOver(true)
    },
    onDragLeave: (event: React.DragEvent) => {
      if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false)
    },
    onDrop: async (event: React.DragEvent) => {
      if (!hasFiles(event)) return
      event.preventDefault()
      setOver(false)
      // Dropped items must be read before the first await; the package was loaded during the drag.
      const found = fromEvent ? await fromEvent(event.nativeEvent) : [...event.dataTransfer.files]
      await take(found.filter((each): each is (typeof found)[number] & File => each instanceof File))
    },
  }
  const latest = useRef(take)
  latest.current = take
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])]
      if (files.length > 0) void latest.current(files)
    }
    document.addEventListener('paste', paste)
    return () => document.removeEventListener('paste', paste)
  }, [])
  const overlay = over ? (
    <div className="pointer-events-none fixed inset-3 z-50 flex items-center justify-center rounded-box border-2 border-dashed border-accent bg-base-200/85 text-base font-semibold">
      {onTaken
        ? 'Drop loop files to put them into the library, or any moving picture to look at its seam'
        : 'Drop pictures or SVG files to bring them in, loop files to put them into the library'}
    </div>
  ) : null
  return { handlers, overlay }
}
