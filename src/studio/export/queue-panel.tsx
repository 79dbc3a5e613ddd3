import { CircleCheck, CircleX, Download, FileArchive, Pause, PenLine, Play, Square, Trash2, X } from 'lucide-react'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import type { Loop } from '@/core/document'
import { distinctNames, ENDINGS, type FileRecord, manifestOf } from '@/core/output'
import {
  pauseQueue,
  type QueueItem,
  queuedFile,
  recallQueue,
  secondsLeft,
  shareDone,
  stopQueue,
  useQueue,
} from '@/store/queue'
import { queuedLoop } from '@/store/queue-storage'
import { exportClient } from '@/workers/page/clients'
import { saveFile } from '../files'
import { IconButton } from '../parts'
import { emptyQueue, runQueue } from '../run-queue'
import { leftText } from './busy'
import { FORMAT_NAMES, weightText } from './formats'
import { QueueForm } from './queue-form'

/** Names of the files of a run, with their endings; none comes twice. */
const namesOf = (items: readonly QueueItem[]) =>
  distinctNames(
    items.map(({ name }) => name),
    items.map(({ settings }) => ENDINGS[settings.format]),
  )

/** All files that keep their promise in one ZIP, with a manifest that says what became of the others. */
async function saveAll(items: readonly QueueItem[]): Promise<void> {
  const names = namesOf(items)
  const files: { name: string; file: Blob }[] = []
  const records: FileRecord[] = []
  const left: { file: string; reason: string }[] = []
  for (const [i, item] of items.entries()) {
    const name = names[i] as string
    const file = await queuedFile(item)
    const loop = await queuedLoop(item.loopKey)
    if (item.state !== 'done' || !item.result || !file || !loop) {
      left.push({ file: name, reason: item.problem ?? 'It has not been written yet.' })
      continue
    }
    files.push({ name, file })
    const { width, height, frames, seconds, size, note, proof } = item.result
    const own = { file: name, loop: item.loopName, rate: loop.rate, settings: item.settings }
    records.push({ ...own, width, height, frames, seconds, bytes: size, note, proof })
  }
  const text = `${JSON.stringify(manifestOf(records, left), null, 2)}\n`
  files.push({ name: 'manifest.json', file: new Blob([text], { type: 'application/json' }) })
  const client = exportClient()
  try {
    const zip = await Promise.race([client.service.zip(files), client.broken])
    if (await saveFile(zip, 'cyclon-files.zip')) toast.success(`${files.length - 1} files were saved, with a manifest.`)
  } finally {
    client.end()
  }
}

/** The files that are being written one after the other, whatever else is done meanwhile. */
export function QueuePanel({ loop }: { loop: Loop }) {
  const { items, state, since, interrupted } = useQueue()
  const [, setTick] = useState(0)
  useEffect(() => void recallQueue(), [])
  useEffect(() => {
    if (state !== 'running') return
    const timer = setInterval(() => setTick((tick) => tick + 1), 1000)
    return () => clearInterval(timer)
  }, [state])
  const done = items.filter((item) => item.state === 'done').length
  const failed = items.filter((item) => item.state === 'failed').length
  const waiting = items.length - done - failed
  const names = namesOf(items)
  return (
    <div className="mx-auto max-w-4xl space-y-3">
      <QueueForm loop={loop} />
      {interrupted && (
        <div role="alert" className="alert alert-soft alert-warning flex items-center py-2">
          <span>
            A run was left unfinished: {done} of {items.length} files are done.
          </span>
          <button type="button" className="btn btn-primary btn-xs ms-auto" onClick={runQueue}>
            Go on with it
          </button>
          <button type="button" className="btn btn-xs" onClick={() => emptyQueue()}>
            Let it go
          </button>
        </div>
      )}
      {items.length > 0 && (
        <section aria-label="Queue" className="hairline rounded-box border bg-base-100">
          <div className="hairline flex items-center gap-2 border-b px-3 py-2">
            <span className="figures" data-testid="queue-state" data-state={state}>
              {done} of {items.length} done{failed > 0 ? `, ${failed} failed` : ''}
              <span className="dim">
                {state === 'running' ? leftText(secondsLeft({ items, since }, performance.now())) : ''}
              </span>
            </span>
            <progress
              className="progress progress-primary mx-2 min-w-16 flex-1"
              value={shareDone(items)}
              max={1}
              aria-label="The whole run"
            />
            {state === 'running' ? (
              <IconButton icon={Pause} label="Pause" onClick={pauseQueue} />
            ) : (
              waiting > 0 && <IconButton icon={Play} label="Go on" onClick={runQueue} />
            )}
            {state !== 'idle' && <IconButton icon={Square} label="Stop" onClick={stopQueue} />}
            <button
              type="button"
              className="btn btn-neutral btn-xs"
              disabled={done === 0}
              onClick={() => void saveAll(items).catch((error: Error) => toast.error(error.message))}
            >
              <FileArchive size={13} aria-hidden="true" /> Save all as ZIP
            </button>
            <IconButton icon={Trash2} label="Empty the queue" onClick={() => emptyQueue()} />
          </div>
          <ul>
            {items.map((item, i) => (
              <Row key={item.id} item={item} name={names[i] as string} />
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}

function Row({ item, name }: { item: QueueItem; name: string }) {
  const { state, progress, result, problem, settings } = item
  const save = async () => {
    const file = await queuedFile(item)
    if (file) await saveFile(file, name)
    else toast.error('The browser does not have this file any more. Write it again.')
  }
  return (
    <li className="hairline border-b px-3 py-1.5 last:border-b-0" data-state={state}>
      <div className="grid grid-cols-[1.1rem_minmax(0,1fr)_5.5rem_4.75rem_8.25rem_3.5rem] items-center gap-2">
        {state === 'done' && <CircleCheck size={15} className="text-accent" aria-label="done" />}
        {state === 'failed' && <CircleX size={15} className="text-error" aria-label="failed" />}
        {state === 'waiting' && <span className="dim">·</span>}
        {state === 'writing' && <PenLine size={13} className="text-primary" aria-hidden="true" />}
        <span className="truncate" title={name}>
          {name}
        </span>
        <span className="dim truncate">{FORMAT_NAMES[settings.format]}</span>
        <span className="figures text-end">{result ? weightText(result.size) : ''}</span>
        {state === 'writing' ? (
          <progress
            className="progress progress-primary"
            value={progress?.share ?? 0}
            max={1}
            aria-label={`${name}, ${progress?.stage ?? 'waiting'}`}
          />
        ) : (
          <span className={state === 'failed' ? 'text-error' : 'dim'}>
            {state === 'done' ? 'keeps its promise' : state === 'failed' ? 'not done' : 'waits'}
          </span>
        )}
        <span className="flex justify-end">
          {result && <IconButton icon={Download} label={`Save ${name}`} onClick={() => void save()} />}
          {state !== 'writing' && (
            <IconButton icon={X} label={`Take ${name} out`} onClick={() => emptyQueue(item.id)} />
          )}
        </span>
      </div>
      {problem && <p className="ps-7 text-error text-xs">{problem}</p>}
    </li>
  )
}
