'use client'

import { FolderOpen, Footprints, Plus } from 'lucide-react'
import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useState } from 'react'
import { toast } from 'sonner'
import type { Loop } from '@/core/document'
import { endCards, listCards } from '@/store/cards'
import { useExport } from '@/store/export'
import { type LibraryEntry, onceInLibrary } from '@/store/library/list'
import { ownStarts, setOwnStart } from '@/store/library/own-starts'
import { trashCount } from '@/store/library/trash'
import { type Room, roomNow } from '@/store/room'
import { tellTrouble } from '@/store/trouble'
import { WorkerStopped } from '@/workers/shared/client'
import { kept } from '../kept'
import { classNames, GroundPicker } from '../parts'
import { Brand, ThemeButton } from '../shell/brand'
import { QueueState } from '../shell/queue-state'
import { DeletedLine } from './deleted-line'
import { LoopCard } from './loop-card'
import { RoomMeter } from './room-meter'
import { type Order, onShelf, usesIn } from './shelf'
import { ShelfTools } from './shelf-tools'
import { useDeleting } from './use-deleting'
import { useFileDrop } from './use-file-drop'

/** Comes when a new loop is asked for. */
const BriefDialog = dynamic(() => import('./brief-dialog').then((module) => module.BriefDialog), { ssr: false })

const NameDialog = dynamic(() => import('./name-dialog').then((module) => module.NameDialog), { ssr: false })
const Trash = dynamic(() => import('./trash').then((module) => module.Trash), { ssr: false })

const LARGE_KEY = 'large previews'

/** All loops of this browser, playing; new ones begin here. */
export function LibraryView() {
  useEffect(() => endCards, [])
  const router = useRouter()
  const [entries, setEntries] = useState<readonly LibraryEntry[] | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [brief, setBrief] = useState(false)
  const [typed, setTyped] = useState('')
  const [order, setOrder] = useState<Order>('last changed')
  /** Ids, in the order in which they were chosen. */
  const [chosen, setChosen] = useState<readonly string[]>([])
  const [starts, setStarts] = useState<readonly string[]>([])
  const [large, setLarge] = useState(false)
  useEffect(() => setLarge(kept.getItem(LARGE_KEY) === 'yes'), [])
  const [trashed, setTrashed] = useState(0)
  /** How many times the library has been looked at. */
  const [looks, setLooks] = useState(0)
  const [trashShown, setTrashShown] = useState(false)
  const [naming, setNaming] = useState<Loop | null>(null)

  const [room, setRoom] = useState<Room | null>(null)
  const lookAtRoom = useCallback(async () => {
    try {
      setRoom(await roomNow())
    } catch (error) {
      tellTrouble('The browser does not say how much room there is.', error)
    }
  }, [])
  const refresh = useCallback(async () => {
    setLooks((before) => before + 1)
    try {
      await onceInLibrary('demo loops are here', async () => (await import('./demo-loops')).addDemoLoops())
      setEntries(await listCards())
      setStarts(await ownStarts())
      setTrashed(await trashCount())
      setProblem(null)
      await lookAtRoom()
    } catch (error) {
      // The library has been left meanwhile.
      if (error instanceof WorkerStopped) return
      setProblem((error as Error).message)
      setEntries((known) => known ?? [])
    }
  }, [lookAtRoom])
  useEffect(() => void refresh(), [refresh])
  const drop = useFileDrop(refresh)

  const openFile = async () => {
    try {
      const { openChosenFile } = await import('./take-files')
      const id = await openChosenFile()
      if (id) router.push(`/loop/${id}/compose`)
    } catch (error) {
      tellTrouble('No file could be opened.', error)
    }
  }
  const deleting = useDeleting(refresh)
  const remove = (gone: readonly LibraryEntry[]) => {
    setChosen([])
    return deleting.remove(gone)
  }
  const shown = onShelf(entries ?? [], typed, order)
  // Only shown loops count as chosen.
  const taken = chosen.flatMap((id) => shown.find((entry) => entry.id === id) ?? [])
  const own = starts.flatMap((id) => entries?.find((entry) => entry.id === id)?.loop ?? [])
  const tellStart = (error: unknown) => tellTrouble('That could not be kept.', error)
  const takeTour = async () => {
    try {
      const { beginTour } = await import('./begin-tour')
      router.push(`/loop/${await beginTour()}/compose`)
    } catch (error) {
      tellTrouble('The tour could not be shown.', error)
    }
  }
  const write = () => {
    const ids = taken.flatMap(({ loop }) => loop?.id ?? [])
    useExport.setState({ tab: 'queue', chosen: ids })
    router.push(`/loop/${ids[0]}/export`)
  }
  const name = async (loop: Loop, name: string, note: string) => {
    setNaming(null)
    try {
      const { changeStored } = await import('@/store/library')
      await changeStored(loop.id, ({ note: _was, ...own }) => ({ ...own, name, ...(note && { note }) }))
    } catch (error) {
      toast.error((error as Error).message)
    }
    await refresh()
  }
  const uses = usesIn(entries ?? [])
  const place = async () => {
    try {
      const { placeTogether } = await import('./place-together')
      const { id, words } = await placeTogether(taken.flatMap(({ loop }) => loop ?? []))
      toast.success(`${taken.length} loops are on one sheet.`, { description: words })
      router.push(`/loop/${id}/compose`)
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

  return (
    <div className="flex h-dvh flex-col overflow-hidden" {...drop.handlers}>
      <header className="hairline flex h-10 shrink-0 items-center gap-3 border-b bg-base-100 px-4">
        <Brand />
        <span className="ms-auto" />
        <QueueState />
        <ThemeButton />
      </header>
      <main className="min-h-0 flex-1 overflow-y-auto px-8 py-6">
        <div className="mx-auto max-w-[112rem]">
          <div className="mb-5 flex flex-wrap items-end gap-3">
            <div>
              <h1 className="text-xl font-semibold">Library</h1>
              <p className="dim">
                Loops kept in this browser. Drop a loop file anywhere to take it in, or any moving picture to look at
                its seam.
              </p>
            </div>
            <span className="ms-auto mb-1.5">
              <GroundPicker />
            </span>
            <Link className="btn btn-ghost btn-sm" href="/file" prefetch={false}>
              Footage
            </Link>
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => void takeTour()}>
              <Footprints size={15} aria-hidden="true" /> Tour
            </button>
            <button type="button" className="btn btn-neutral btn-sm" onClick={openFile}>
              <FolderOpen size={15} aria-hidden="true" /> Open a file
            </button>
            <button type="button" className="btn btn-primary btn-sm" onClick={() => setBrief(true)}>
              <Plus size={15} aria-hidden="true" /> New loop
            </button>
          </div>
          {problem && (
            <p role="alert" className="alert alert-error alert-soft mb-4">
              {problem}
            </p>
          )}
          <DeletedLine onChange={refresh} />
          {entries === null ? (
            <p className="dim" aria-busy="true">
              Looking for your loops …
            </p>
          ) : entries.length === 0 && trashed === 0 && !problem ? (
            <div className="hairline rounded-box border border-dashed p-10 text-center">
              <p className="font-semibold">No loops yet.</p>
              <p className="dim">
                Take the tour with a loop of your own, give a brief for a new one, or drop a file here.
              </p>
            </div>
          ) : (
            <>
              <ShelfTools
                typed={typed}
                order={order}
                chosen={taken.length}
                large={large}
                trashed={trashed}
                trashShown={trashShown}
                onLarge={(is) => {
                  kept.setItem(LARGE_KEY, is ? 'yes' : 'no')
                  setLarge(is)
                }}
                onTrash={setTrashShown}
                onWrite={write}
                onType={setTyped}
                onOrder={setOrder}
                onPlace={() => void place()}
                onDelete={() => void remove(taken)}
                onNone={() => setChosen([])}
              />
              {trashShown && (
                <div className="mb-6">
                  <Trash looks={looks} onChange={refresh} />
                </div>
              )}
              {shown.length === 0 && <p className="dim">No loop is called so, nor any of its layers.</p>}
              <ul
                aria-label="Loops"
                className={classNames(
                  'grid gap-4',
                  large
                    ? 'grid-cols-[repeat(auto-fill,minmax(440px,1fr))]'
                    : 'grid-cols-[repeat(auto-fill,minmax(250px,1fr))]',
                )}
              >
                {shown.map((entry) => (
                  <LoopCard
                    key={entry.id}
                    entry={entry}
                    chosen={chosen.includes(entry.id)}
                    onChoose={(is) =>
                      setChosen((ids) => [...ids.filter((id) => id !== entry.id), ...(is ? [entry.id] : [])])
                    }
                    begins={starts.includes(entry.id)}
                    onBegins={(is) => void setOwnStart(entry.id, is).then(setStarts, tellStart)}
                    onDelete={() => void remove([entry])}
                    uses={uses.get(entry.id) ?? []}
                    large={large}
                    onName={() => setNaming(entry.loop)}
                  />
                ))}
              </ul>
            </>
          )}
          <div className="mt-6">{room && <RoomMeter room={room} onAsked={lookAtRoom} />}</div>
        </div>
      </main>
      {brief && <BriefDialog open own={own} onClose={() => setBrief(false)} />}
      {naming && (
        <NameDialog
          loop={naming}
          onTake={(typedName, note) => void name(naming, typedName, note)}
          onClose={() => setNaming(null)}
        />
      )}
      {deleting.dialog}
      {drop.overlay}
    </div>
  )
}
