'use client'

import { fromEvent } from 'file-selector'
import { useRouter } from 'next/navigation'
import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { allLayers, type Loop } from '@/core/loop'
import { besideOthers } from '@/store/autosave'
import { cancelClip, openClip, useClip } from '@/store/clip'
import { clipAmong } from '@/store/clip-files'
import { saveLoop, storedAs } from '@/store/library'
import type { View } from '../commands'
import { problemText, readLoopFile } from '../files'
import { bringIn, isPictureFile } from '../material'

/** Puts a loop from a file into the library; one whose id is taken by another state of it comes in beside it. */
async function takeIn(loop: Loop): Promise<Loop> {
  const kept = await besideOthers(loop)
  if ((await storedAs(kept.id)) === null) await saveLoop(kept)
  return kept
}

/** Reads dropped loop files into the library. A file that cannot be read is said, and changes nothing. */
export async function takeInFiles(files: readonly File[]): Promise<Loop[]> {
  const taken: Loop[] = []
  for (const file of files) {
    try {
      taken.push(await takeIn(await readLoopFile(file)))
    } catch (error) {
      const { title, description } = problemText(error)
      toast.error(`${file.name}: ${title}`, { ...(description ? { description } : {}), duration: 12_000 })
    }
  }
  return taken
}

/** Lets files be dropped on a view, or pasted: loop files, moving pictures, and, where a loop is open, pictures. */
export function useFileDrop(go: (view: View) => void, onTaken?: (loops: Loop[]) => void) {
  const router = useRouter()
  const [over, setOver] = useState(false)
  const hasFiles = (event: React.DragEvent) => event.dataTransfer.types.includes('Files')
  const take = async (dropped: readonly File[]) => {
    const clip = await clipAmong(dropped, !onTaken)
    if (clip.length > 0) {
      // Whoever works on a loop stays there until the file has been read, and for good where it cannot be.
      const reading = onTaken
        ? null
        : toast.loading(`Reading ${clip[0]?.name} …`, { action: { label: 'Cancel', onClick: () => void cancelClip() } })
      if (onTaken) router.push('/file')
      const opened = await openClip(clip)
      if (reading !== null) {
        toast.dismiss(reading)
        if (opened) router.push('/file')
        else {
          toast.error(useClip.getState().problem ?? 'The file could not be read.', { duration: 12_000 })
          useClip.setState({ problem: null })
        }
      }
    }
    const files = dropped.filter((file) => !clip.includes(file))
    // Where a loop is open, pictures become layers of it.
    const pictures = onTaken ? [] : files.filter(isPictureFile)
    if (pictures.length > 0) await bringIn(pictures)
    const loops = await takeInFiles(files.filter((file) => !pictures.includes(file)))
    if (loops.length === 0) return
    toast.success(
      loops.length === 1
        ? `${loops[0]?.name} (${allLayers(loops[0] as Loop).length} layers) is in the library.`
        : `${loops.length} loops are in the library.`,
      { action: onTaken ? undefined : { label: 'To the library', onClick: () => go('library') } },
    )
    onTaken?.(loops)
  }
  const handlers = {
    onDragOver: (event: React.DragEvent) => {
      if (!hasFiles(event)) return
      event.preventDefault()
      setOver(true)
    },
    onDragLeave: (event: React.DragEvent) => {
      if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false)
    },
    onDrop: async (event: React.DragEvent) => {
      if (!hasFiles(event)) return
      event.preventDefault()
      setOver(false)
      const found = await fromEvent(event.nativeEvent)
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
