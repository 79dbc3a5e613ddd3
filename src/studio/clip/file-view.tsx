'use client'

import { fromEvent } from 'file-selector'
import { ArrowLeft, FolderOpen, Images } from 'lucide-react'
import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { cancelClip, openClip, useClip } from '@/store/clip'
import { useOpenLoop } from '@/store/document'
import { DEMO_CLIP_FILES, demoFile } from '../demo-files'
import { Brand, ThemeButton } from '../shell/brand'
import { RoomToWork } from '../shell/room-to-work'
import { chooseFiles, chooseFolder } from './choose'

/** Comes when the first file is opened: pages with a link to this one do not load it ahead. */
const Workbench = dynamic(() => import('./workbench').then(({ Workbench }) => Workbench), { ssr: false })

/** Footage, and any file's seam: what it claims and contains, the loops in it, what mends it. */
export function FileView() {
  const { facts, working, problem } = useClip()
  const open = useOpenLoop()
  const router = useRouter()
  useHotkeys('escape', () => router.push(open ? `/loop/${open.id}/compose` : '/'), { enabled: working === null })
  const [ready, setReady] = useState(false)
  useEffect(() => {
    setReady(true)
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])]
      if (files.length > 0) void openClip(files)
    }
    document.addEventListener('paste', paste)
    return () => document.removeEventListener('paste', paste)
  }, [])
  const openFiles = async () => openClip(await chooseFiles())
  const openFolder = async () => openClip(await chooseFolder())
  const drop = {
    onDragOver: (event: React.DragEvent) => event.preventDefault(),
    onDrop: async (event: React.DragEvent) => {
      event.preventDefault()
      // Folders are walked through.
      const found = await fromEvent(event.nativeEvent)
      await openClip(found.filter((each): each is (typeof found)[number] & File => each instanceof File))
    },
  }
  return (
    <RoomToWork>
      <div className="flex h-full flex-col overflow-hidden" data-testid="file-view" data-ready={ready} {...drop}>
        <header className="hairline flex h-10 shrink-0 items-center gap-3 border-b bg-base-100 px-4">
          <Brand />
          <nav aria-label="Back" className="flex gap-1">
            <Link href="/" className="btn btn-ghost btn-xs font-normal">
              <ArrowLeft size={14} aria-hidden="true" /> Library
            </Link>
            {open && (
              <Link href={`/loop/${open.id}/compose`} className="btn btn-ghost btn-xs max-w-48 font-normal">
                <ArrowLeft size={14} aria-hidden="true" /> <span className="truncate">{open.name}</span>
              </Link>
            )}
          </nav>
          <h1 className="truncate font-semibold">{facts?.name ?? 'Footage'}</h1>
          <span className="ms-auto" />
          <button type="button" className="btn btn-neutral btn-xs" onClick={() => void openFiles()}>
            <FolderOpen size={14} aria-hidden="true" /> Open a file
          </button>
          <button type="button" className="btn btn-neutral btn-xs" onClick={() => void openFolder()}>
            <Images size={14} aria-hidden="true" /> Open a folder
          </button>
          <ThemeButton />
        </header>
        {problem && (
          <p role="alert" className="alert alert-error alert-soft m-2 py-2">
            <span className="flex-1">{problem}</span>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => useClip.setState({ problem: null })}>
              Close
            </button>
          </p>
        )}
        {working && (
          <div role="status" className="hairline flex items-center gap-3 border-b bg-base-100 px-4 py-1.5">
            <span>{working.what}</span>
            <progress className="progress progress-primary flex-1" max={working.of} value={working.done} />
            <span className="figures dim">{timeLeft(working)}</span>
            <button type="button" className="btn btn-xs" onClick={() => void cancelClip()}>
              Cancel
            </button>
          </div>
        )}
        {facts ? <Workbench /> : <Nothing />}
      </div>
    </RoomToWork>
  )
}

const Nothing = () => (
  <main className="flex flex-1 items-center justify-center">
    <div className="hairline rounded-box border border-dashed p-10 text-center">
      <p className="font-semibold">
        Drop a GIF, APNG, WebP, AVIF, MP4, MOV or WebM here, a sprite sheet, or numbered pictures: many of them, a
        folder or a ZIP.
      </p>
      <p className="dim">
        You can paste one, too. Its seam is looked at in this browser; the file goes nowhere and is never changed.
      </p>
      <p className="mt-4 text-xs">Or try a clip of the demo:</p>
      <div className="mt-1 flex justify-center gap-2">
        {DEMO_CLIP_FILES.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            className="btn btn-neutral btn-xs font-normal"
            onClick={() =>
              void demoFile('clip', id).then(
                (file) => openClip([file]),
                (error: Error) => useClip.setState({ problem: error.message }),
              )
            }
          >
            {name}
          </button>
        ))}
      </div>
    </div>
  </main>
)

function timeLeft({ done, of, since }: { done: number; of: number; since: number }): string {
  const passed = performance.now() - since
  if (done === 0 || passed < 500) return ''
  const left = (passed / done) * (of - done)
  return left < 1000 ? 'nearly done' : `${Math.ceil(left / 1000)} s left`
}
