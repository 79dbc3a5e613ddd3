import { memo, useEffect, useState } from 'react'
import { toast } from 'sonner'
import { FILE_FORMATS, type FileFormat, formatRate } from '@/core/clock'
import type { Loop } from '@/core/document'
import { NAME_PARTS, namedBy, PLAIN_PATTERN, settingsFor, timingIn, withFormat } from '@/core/output'
import { scaledSize } from '@/render/browser'
import { endCards, listCards } from '@/store/cards'
import { useExport } from '@/store/export'
import { enqueue, type QueuedFile } from '@/store/queue'
import { fileName, saveFile } from '../files'
import { runQueue } from '../run-queue'
import { Check } from './format-options'
import { FORMAT_NAMES } from './formats'

const SIZES = [0.5, 1, 2, 3, 4]
function toggled<T>(list: readonly T[], value: T, on: boolean): readonly T[] {
  return on ? [...list, value] : list.filter((each) => each !== value)
}

/** Several loops in several formats at several sizes, named by a pattern, put into the queue. */
export const QueueForm = memo(function QueueForm({ loop }: { loop: Loop }) {
  const { settings } = useExport()
  const [formats, setFormats] = useState<readonly FileFormat[]>([settings.format])
  const [sizes, setSizes] = useState<readonly number[]>([settings.scale])
  const [pattern, setPattern] = useState(PLAIN_PATTERN)
  const [others, setOthers] = useState<readonly Loop[]>([])
  const [chosen, setChosen] = useState<readonly string[]>(() => {
    const asked = useExport.getState().chosen
    return asked.includes(loop.id) ? asked : [loop.id]
  })
  const [busy, setBusy] = useState(false)
  useEffect(() => {
    listCards().then(
      (entries) => setOthers(entries.flatMap((entry) => (entry.loop && entry.id !== loop.id ? [entry.loop] : []))),
      () => setOthers([]),
    )
    return endCards
  }, [loop.id])
  const loops = [loop, ...others].filter(({ id }) => chosen.includes(id))
  const count = loops.length * formats.length * sizes.length

  const nameOf = (own: Loop, format: FileFormat, scale: number) => {
    const { width, height } = scaledSize(own, scale)
    const frames = timingIn(own, { ...settings, format, scale }).frames.length
    return namedBy(pattern, {
      loop: own.name,
      format,
      size: `${scale}x`,
      width: String(width),
      height: String(height),
      rate: formatRate(own.rate).replace('/', '-'),
      frames: String(frames),
    })
  }
  const add = async () => {
    setBusy(true)
    try {
      const wanted: QueuedFile[] = []
      for (const own of loops) {
        for (const scale of sizes)
          for (const format of formats) {
            const fitting = settingsFor(own, { ...withFormat(settings, format), scale })
            wanted.push({ loop: own, settings: fitting, name: nameOf(own, format, scale) })
          }
      }
      await enqueue(wanted)
      runQueue()
    } catch (error) {
      toast.error(`The files could not be put into the queue: ${(error as Error).message}`)
    } finally {
      setBusy(false)
    }
  }
  const saveForCluster = async () => {
    setBusy(true)
    try {
      const { CLUSTER_ENDINGS, forCluster } = await import('./for-cluster')
      const left = formats.filter((format) => !CLUSTER_ENDINGS[format])
      if (left.length === formats.length)
        return toast.error(
          `The command line does not write this: ${left.map((format) => FORMAT_NAMES[format]).join(', ')}.`,
        )
      const archive = await forCluster(loops, formats, sizes, settings)
      const saved = await saveFile(archive, fileName(loop, '-for-a-cluster.zip'))
      if (saved)
        toast.success('What is in it is told by its README.', {
          ...(left.length > 0 && {
            description: `The command line does not write this: ${left.map((format) => FORMAT_NAMES[format]).join(', ')}.`,
          }),
        })
    } catch (error) {
      toast.error(`That could not be saved: ${(error as Error).message}`)
    } finally {
      setBusy(false)
    }
  }
  return (
    <section aria-label="Put into the queue" className="hairline rounded-box border bg-base-100 p-3">
      <div className="grid grid-cols-[1.1fr_1fr_0.7fr] gap-4">
        <fieldset>
          <legend className="dim mb-1">loops</legend>
          <div className="max-h-32 overflow-y-auto">
            {[loop, ...others].map(({ id, name }) => (
              <Check
                key={id}
                label={<span className="truncate">{name}</span>}
                checked={chosen.includes(id)}
                onChange={(on) => setChosen((list) => toggled(list, id, on))}
              />
            ))}
          </div>
        </fieldset>
        <fieldset>
          <legend className="dim mb-1">formats</legend>
          <div className="grid grid-cols-2">
            {FILE_FORMATS.map((format) => (
              <Check
                key={format}
                label={FORMAT_NAMES[format]}
                checked={formats.includes(format)}
                onChange={(on) => setFormats((list) => toggled(list, format, on))}
              />
            ))}
          </div>
        </fieldset>
        <fieldset>
          <legend className="dim mb-1">sizes</legend>
          {[...new Set([...SIZES, settings.scale])]
            .sort((a, b) => a - b)
            .map((size) => (
              <Check
                key={size}
                label={<span className="figures">{size}×</span>}
                checked={sizes.includes(size)}
                onChange={(on) => setSizes((list) => toggled(list, size, on))}
              />
            ))}
        </fieldset>
      </div>
      <div className="mt-3 flex items-center gap-2">
        <label className="flex min-w-0 flex-1 items-center gap-2">
          <span className="dim shrink-0">names</span>
          <input
            className="input input-xs figures w-full"
            value={pattern}
            maxLength={120}
            title={`Parts: ${NAME_PARTS.map((part) => `{${part}}`).join(' ')}`}
            onChange={(event) => setPattern(event.target.value)}
          />
        </label>
        <span className="dim figures max-w-52 truncate text-2xs">
          {loops[0] && formats[0] && sizes[0] !== undefined ? nameOf(loops[0], formats[0], sizes[0]) : ''}
        </span>
        <button
          type="button"
          className="btn btn-neutral btn-sm"
          disabled={count === 0 || busy}
          title="Saves loops, media, a plan and job files: cyclon work and join do it on many machines"
          onClick={() => void saveForCluster()}
        >
          For a cluster
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={count === 0 || busy}
          onClick={() => void add()}
        >
          {count === 1 ? 'Write 1 file' : `Write ${count} files`}
        </button>
      </div>
      <p className="dim mt-1 text-2xs">
        With the settings on the left; parts of names are {NAME_PARTS.map((part) => `{${part}}`).join(' ')}.
      </p>
    </section>
  )
})
