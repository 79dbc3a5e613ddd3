'use client'

import { CircleHelp, CopyPlus, Footprints, ListFilter, Redo2, Save, Undo2 } from 'lucide-react'
import dynamic from 'next/dynamic'
import Link from 'next/link'
import { usePathname, useRouter } from 'next/navigation'
import { useCallback, useEffect, useState } from 'react'
import { type Loop, MAX_NAME } from '@/core/document'
import { keepAsCopy, openStored, startAutosave, takeStored, useSaveState } from '@/store/autosave'
import { changeDocument, documentStore, redo, undo, useDocumentPart, useHistoryLength } from '@/store/document'
import { useExport } from '@/store/export'
import { setSession, useSessionParts } from '@/store/session'
import { startSeamWatch } from '@/store/verdict'
import { COMMANDS, saveFileCommand, shortcutOf, type View } from '../commands'
import { problemText } from '../files'
import { useFileDrop } from '../library/use-file-drop'
import { classNames, IconButton } from '../parts'
import { SeamReadout } from '../seam/seam-readout'
import { Brand, ThemeButton } from './brand'
import { CommandKeys, useFocusOrigin } from './command-keys'
import { CommandList, ShortcutSheet } from './command-list'
import { QueueState } from './queue-state'
import { RoomToWork } from './room-to-work'
import { usePaste } from './use-paste'
import { useTour } from './use-tour'
import { VariantBar } from './variant-bar'

const idOf = ({ id }: Loop) => id
const nameOf = ({ name }: Loop) => name

const VIEWS = [
  ['compose', 'Compose'],
  ['fit', 'Fit'],
  ['seam', 'Seam'],
  ['export', 'Export'],
] as const

/** Opens a loop of the library and stands around the views of it. */
export function Workspace({ id, children }: { id: string; children: React.ReactNode }) {
  const open = useDocumentPart(idOf)
  const [problem, setProblem] = useState<{ title: string; description?: string } | null>(null)

  useEffect(() => {
    let current = true
    // Without storage a new loop is worked on in memory.
    const inMemory = () => documentStore.getState().loop?.id === id
    openStored(id).then(
      (found) => {
        if (current && !found)
          setProblem({ title: 'The library has no such loop.', description: 'It may have been deleted.' })
      },
      (error) => current && !inMemory() && setProblem(problemText(error)),
    )
    return () => {
      current = false
    }
  }, [id])

  if (problem) return <Notice {...problem} />
  if (open !== id) return <Notice title="Opening the loop …" busy />
  return <OpenWorkspace id={id}>{children}</OpenWorkspace>
}

function Notice({ title, description, busy }: { title: string; description?: string; busy?: boolean }) {
  return (
    <main className="flex h-dvh flex-col items-center justify-center gap-2" aria-busy={busy}>
      <Brand />
      <h1 className="mt-3 text-base font-semibold">{title}</h1>
      {description && <p className="dim">{description}</p>}
      {!busy && (
        <Link href="/" prefetch={false} className="btn btn-neutral btn-sm mt-3">
          To the library
        </Link>
      )}
    </main>
  )
}

/** Surroundings of the views: nothing here is drawn anew when the loop changes. */
function OpenWorkspace({ id, children }: { id: string; children: React.ReactNode }) {
  const router = useRouter()
  const path = usePathname()
  const go = useCallback(
    (view: View) => router.push(view === 'library' ? '/' : view === 'file' ? '/file' : `/loop/${id}/${view}`),
    [router, id],
  )
  useEffect(() => startAutosave(), [])
  useEffect(() => startSeamWatch(), [])
  const composes = /\/(compose|fit)$/.test(path)
  useEffect(() => {
    if (!composes) setSession({ playing: false })
    return () => setSession({ preview: null })
  }, [composes])
  useEffect(() => () => setSession({ playing: false }), [])
  const drop = useFileDrop()
  useFocusOrigin()
  usePaste()
  useTour(go)

  return (
    <RoomToWork>
      <div className="grid h-full min-h-0 grid-rows-[auto_minmax(0,1fr)_auto] overflow-hidden" {...drop.handlers}>
        <header className="hairline flex h-10 items-center gap-3 border-b bg-base-100 px-3">
          <Link href="/" prefetch={false} className="rounded-field" title="Library">
            <Brand />
          </Link>
          <LoopName />
          <nav aria-label="Views" className="ms-2 flex h-full items-stretch gap-1">
            {VIEWS.map(([view, label]) => {
              const here = path.endsWith(`/${view}`)
              return (
                <Link
                  key={view}
                  href={`/loop/${id}/${view}`}
                  aria-current={here ? 'page' : undefined}
                  className={classNames(
                    'flex items-center border-b-2 px-2.5',
                    here ? 'border-primary font-semibold' : 'dim border-transparent hover:border-base-300',
                  )}
                >
                  {label}
                </Link>
              )
            })}
          </nav>
          <QueueState where={`/loop/${id}/export`} onShow={() => useExport.setState({ tab: 'queue' })} />
          <SaveState go={(copy) => router.replace(`/loop/${copy}/compose`)} />
          <History />
          <IconButton
            icon={CopyPlus}
            label="Make a variant"
            shortcut={shortcutOf('vary')}
            onClick={() => setSession({ varying: true })}
          />
          <IconButton icon={Save} label="Save to a file" shortcut={shortcutOf('save-file')} onClick={saveFileCommand} />
          <IconButton
            icon={ListFilter}
            label="Command list"
            shortcut={shortcutOf('commands')}
            onClick={() => setSession({ commandList: true })}
          />
          <IconButton
            icon={Footprints}
            label="Take the tour, or go on with it"
            onClick={() => setSession({ tourAsked: true })}
          />
          <IconButton
            icon={CircleHelp}
            label="Shortcuts"
            shortcut={shortcutOf('shortcuts')}
            onClick={() => setSession({ shortcutSheet: true })}
          />
          <ThemeButton />
        </header>
        <main className="flex min-h-0 min-w-0 flex-col">
          <VariantBar />
          <div className="min-h-0 flex-1">{children}</div>
        </main>
        <SeamReadout go={go} />
        {drop.overlay}
        {COMMANDS.map((command) => (
          <CommandKeys key={command.id} command={command} go={go} />
        ))}
        <AskedFor go={go} />
      </div>
    </RoomToWork>
  )
}

/** Comes when it is first asked for. The list of commands does not: what is typed after its key goes into it at once. */
const HealDialog = dynamic(() => import('../heal/heal-dialog').then((module) => module.HealDialog), { ssr: false })
const VaryDialog = dynamic(() => import('./vary-dialog').then((module) => module.VaryDialog), { ssr: false })

function AskedFor({ go }: { go: (view: View) => void }) {
  const { varying, healing } = useSessionParts('varying', 'healing')
  return (
    <>
      <CommandList go={go} />
      <ShortcutSheet />
      {varying && <VaryDialog />}
      {healing && <HealDialog />}
    </>
  )
}

function LoopName() {
  const name = useDocumentPart(nameOf) ?? ''
  const [draft, setDraft] = useState<string | null>(null)
  const commit = () => {
    const typed = draft?.trim()
    if (typed) changeDocument((current) => ({ ...current, name: typed.slice(0, MAX_NAME) }))
    setDraft(null)
  }
  return (
    <h1 className="min-w-0">
      <input
        aria-label="Name of the loop"
        className="input input-ghost input-sm w-44 truncate font-semibold"
        data-draft={draft !== null}
        value={draft ?? name}
        maxLength={MAX_NAME}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key === 'Escape') setDraft(null)
        }}
      />
    </h1>
  )
}

function History() {
  const { past, future } = useHistoryLength()
  return (
    <>
      <IconButton
        icon={Undo2}
        label="Undo"
        shortcut={shortcutOf('undo')}
        onClick={() => undo()}
        disabled={past === 0}
      />
      <IconButton
        icon={Redo2}
        label="Redo"
        shortcut={shortcutOf('redo')}
        onClick={() => redo()}
        disabled={future === 0}
      />
    </>
  )
}

function SaveState({ go }: { go: (id: string) => void }) {
  const { state, problem } = useSaveState()
  const copy = async () => {
    const id = await keepAsCopy()
    if (id) go(id)
  }
  if (state === 'failed')
    return (
      <SaveProblem text={`Not saved: ${problem}`}>
        <button type="button" className="btn btn-error btn-xs" onClick={saveFileCommand}>
          Save to a file
        </button>
      </SaveProblem>
    )
  if (state === 'conflict')
    return (
      <SaveProblem text={`Not saved: ${problem}`}>
        <button type="button" className="btn btn-error btn-xs" onClick={copy}>
          Keep mine as a copy
        </button>
        <button type="button" className="btn btn-error btn-outline btn-xs" onClick={() => void takeStored()}>
          Take the other
        </button>
      </SaveProblem>
    )
  return (
    <span className="dim ms-auto text-2xs" aria-live="polite">
      {state === 'saved' ? 'saved in this browser' : 'saving …'}
    </span>
  )
}

const SaveProblem = ({ text, children }: { text: string; children: React.ReactNode }) => (
  <div role="alert" className="ms-auto flex min-w-0 items-center gap-2">
    <span className="truncate text-error" title={text}>
      {text}
    </span>
    {children}
  </div>
)
