'use client'

import { proxy } from 'comlink'
import { Download, ImageDown } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { PLAIN_COLOURS } from '@/codecs'
import { FILE_FORMATS, type FileFormat } from '@/core/clock'
import { MAX_PIXELS } from '@/core/image'
import type { Loop } from '@/core/loop'
import { scaledSize } from '@/render/browser'
import { useDocument } from '@/store/document'
import { useStillFrame } from '@/store/session'
import { exportClient } from '@/workers/clients'
import { MAX_SIDE, VIDEO_CODECS } from '@/workers/encoders/job'
import type { ExportedFile, ExportOptions, ExportProgress } from '@/workers/export.worker'
import { fileName, problemText, saveFile } from '../files'
import { classNames, NumberField } from '../parts'
import { FormatOptions } from './format-options'
import { ProofCard } from './proof-card'
import { FORMAT_NAMES, TimingTruth } from './timing-truth'

type Work =
  | { readonly state: 'idle' }
  | { readonly state: 'busy'; readonly progress: ExportProgress; readonly since: number }
  | { readonly state: 'done'; readonly result: ExportedFile; readonly loop: Loop; readonly url: string }
  | { readonly state: 'failed'; readonly title: string }

/** Writes the loop to a file, and proves the file. */
export function ExportView() {
  const loop = useDocument()
  const frame = useStillFrame()
  const [format, setFormat] = useState<FileFormat>('gif')
  const [options, setOptions] = useState<ExportOptions>({
    ...PLAIN_COLOURS,
    ...{ scale: 1, transparent: loop?.background === null },
    ...{ lossless: true, quality: 90, codec: 'avc', firstNumber: 0, sides: 'as it comes' },
  })
  const [work, setWork] = useState<Work>({ state: 'idle' })
  const running = useRef<ReturnType<typeof exportClient> | null>(null)
  useEffect(() => () => running.current?.end(), [])
  const url = work.state === 'done' ? work.url : null
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url])
  if (!loop) return null

  const cancel = () => {
    running.current?.end()
    running.current = null
    setWork({ state: 'idle' })
    toast('The export was cancelled; no file was written.')
  }
  const write = async () => {
    const client = exportClient()
    running.current = client
    const since = performance.now()
    setWork({ state: 'busy', progress: { stage: 'drawing and writing', share: 0 }, since })
    try {
      const tell = proxy((progress: ExportProgress) => {
        if (running.current === client) setWork({ state: 'busy', progress, since })
      })
      const name = fileName(loop, '')
      const isVideo = format === 'mp4' || format === 'webm'
      const clear = options.transparent && (!isVideo || options.codec === 'vp9')
      const wanted = { ...options, transparent: clear }
      const result = await Promise.race([client.service.file(loop, format, name, wanted, tell), client.broken])
      setWork({
        state: 'done',
        result,
        loop,
        url: URL.createObjectURL(new Blob([result.bytes], { type: result.type })),
      })
    } catch (error) {
      setWork({ state: 'failed', title: problemText(error).title })
    } finally {
      client.end()
      if (running.current === client) running.current = null
    }
  }
  const savePng = async () => {
    const client = exportClient()
    try {
      const blob = await client.service.png(loop, frame, options.scale)
      if (await saveFile(blob, fileName(loop, `-${String(frame).padStart(4, '0')}.png`)))
        toast.success(`Frame ${frame} was saved.`)
    } catch (error) {
      toast.error(problemText(error).title)
    } finally {
      client.end()
    }
  }
  const choose = (next: FileFormat) => {
    setFormat(next)
    if (next === 'mp4' || next === 'webm') set({ codec: VIDEO_CODECS[next][0] })
  }
  const set = (part: Partial<ExportOptions>) => setOptions((known) => ({ ...known, ...part }))
  const { width, height } = scaledSize(loop, options.scale)
  const tooLarge = width * height > MAX_PIXELS || Math.max(width, height) > MAX_SIDE

  return (
    <div className="grid h-full min-h-0 grid-cols-[22rem_minmax(0,1fr)]">
      <section
        className="hairline min-h-0 space-y-4 overflow-y-auto border-e bg-base-100 p-4"
        aria-label="What is written"
      >
        <div className="flex flex-wrap gap-1" role="group" aria-label="Format">
          {FILE_FORMATS.map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={format === each}
              className={classNames(
                'btn btn-xs font-normal',
                format === each ? 'bg-neutral text-primary' : 'btn-ghost',
              )}
              onClick={() => choose(each)}
            >
              {FORMAT_NAMES[each]}
            </button>
          ))}
        </div>
        <TimingTruth format={format} length={loop.length} rate={loop.rate} />
        <div className="space-y-1.5">
          <NumberField
            label="size"
            value={options.scale}
            unit="×"
            step={0.25}
            min={0.05}
            max={4}
            context={loop}
            onChange={(scale) => set({ scale })}
          />
          <p className="dim figures ms-20 ps-1">
            {width} × {height} px
          </p>
          {tooLarge && (
            <p role="alert" className="text-error text-xs">
              That is larger than can be written: up to {MAX_SIDE} px a side and {MAX_PIXELS / 1024 / 1024} megapixels.
              Choose a smaller size.
            </p>
          )}
          <FormatOptions format={format} options={options} loop={loop} onChange={set} />
        </div>
        <div className="space-y-2">
          {work.state === 'busy' ? (
            <Busy progress={work.progress} since={work.since} onCancel={cancel} />
          ) : (
            <button type="button" className="btn btn-primary btn-sm w-full" disabled={tooLarge} onClick={write}>
              Write the {FORMAT_NAMES[format]} and prove it
            </button>
          )}
          <button type="button" className="btn btn-neutral btn-sm w-full" disabled={tooLarge} onClick={savePng}>
            <ImageDown size={15} aria-hidden="true" /> Save frame {frame} as PNG
          </button>
        </div>
      </section>
      <section className="min-h-0 overflow-y-auto p-6" aria-label="Proof" aria-live="polite">
        {work.state === 'idle' && (
          <div className="dim mx-auto mt-24 max-w-sm text-center">
            <p className="text-base font-semibold text-base-content">No file yet.</p>
            <p className="mt-1">
              After writing, the file is read back by a decoder that is not its encoder: what it says about its frames,
              times and repeats, and what its own seam looks like, is shown here.
            </p>
          </div>
        )}
        {work.state === 'busy' && <p className="dim mt-24 text-center">{work.progress.stage} …</p>}
        {work.state === 'failed' && (
          <p role="alert" className="alert alert-error alert-soft mx-auto max-w-lg">
            The file could not be written: {work.title} The loop itself is unchanged.
          </p>
        )}
        {work.state === 'done' && (
          <div className="mx-auto max-w-3xl">
            <ProofCard
              proof={work.result.proof}
              file={{ url: work.url, type: work.result.type }}
              loop={work.loop}
              stale={work.loop !== loop}
            />
            <button
              type="button"
              className="btn btn-primary btn-sm mt-4"
              onClick={async () => {
                const saved = await saveFile(
                  new Blob([work.result.bytes], { type: work.result.type }),
                  fileName(work.loop, work.result.ending),
                )
                if (saved) toast.success('The file was saved.')
              }}
            >
              <Download size={15} aria-hidden="true" />{' '}
              {work.result.ending === '.gif' ? 'Save the GIF' : 'Save the file'}
            </button>
          </div>
        )}
      </section>
    </div>
  )
}

function Busy({ progress, since, onCancel }: { progress: ExportProgress; since: number; onCancel: () => void }) {
  const elapsed = (performance.now() - since) / 1000
  const left = progress.share > 0.03 ? (elapsed / progress.share) * (1 - progress.share) : null
  return (
    <div>
      <progress
        className="progress progress-primary w-full"
        value={progress.share}
        max={1}
        aria-label={progress.stage}
      />
      <div className="flex items-center justify-between">
        <span className="dim figures">
          {Math.round(100 * progress.share)} %
          {left === null ? '' : `, ${left < 1 ? 'under 1' : Math.round(left)} s left`}
        </span>
        <button type="button" className="btn btn-xs" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </div>
  )
}
