'use client'

import { ImageDown } from 'lucide-react'
import { useEffect, useMemo } from 'react'
import { toast } from 'sonner'
import { MAX_SIDE } from '@/codecs/write'
import { FILE_FORMATS } from '@/core/clock'
import type { Loop } from '@/core/document'
import { MAX_PIXELS } from '@/core/image'
import { SCALES, settingsFor, withFormat } from '@/core/output'
import { scaledSize } from '@/render/browser'
import { useDocument } from '@/store/document'
import { EXPORT_TABS, setSettings, useExport } from '@/store/export'
import { useQueue } from '@/store/queue'
import { useStillFrame } from '@/store/session'
import { exportClient } from '@/workers/page/clients'
import { fileName, problemText, saveFile } from '../files'
import { classNames, NumberField } from '../parts'
import { Busy } from './busy'
import { DataPanel } from './data-panel'
import { FilePanel } from './file-panel'
import { FormatOptions } from './format-options'
import { FORMAT_NAMES } from './formats'
import { QueuePanel } from './queue-panel'
import { SizeEstimate } from './size-estimate'
import { TargetBar } from './target-bar'
import { TimingTruth } from './timing-truth'
import { useWriting } from './use-writing'
import { WeightPanel } from './weight-panel'

const TAB_NAMES = { file: 'File and proof', weight: 'Fit to a weight', queue: 'Queue', data: 'For programs' } as const

/** Writes the loop to files, and proves them. */
export function ExportView() {
  const loop = useDocument()
  return loop ? <Export loop={loop} /> : null
}

function Export({ loop }: { loop: Loop }) {
  const frame = useStillFrame()
  const { settings: wanted, tab, writeAsked } = useExport()
  const settings = useMemo(() => settingsFor(loop, wanted), [loop, wanted])
  const waiting = useQueue(({ items }) => items.length)
  const { work, write, cancel } = useWriting()
  const { format, scale } = settings
  const { width, height } = scaledSize(loop, scale)
  const tooLarge = width * height > MAX_PIXELS || Math.max(width, height) > MAX_SIDE
  useEffect(() => {
    if (!writeAsked) return
    useExport.setState({ writeAsked: false })
    if (work.state === 'busy') return
    if (tooLarge) toast.error('That is larger than can be written. Choose a smaller size.')
    else void write(loop, settings)
  })
  const goTo = (next: typeof tab) => useExport.setState({ tab: next })
  const savePng = async () => {
    const client = exportClient()
    try {
      const blob = await client.service.png(loop, frame, scale)
      if (await saveFile(blob, fileName(loop, `-${String(frame).padStart(4, '0')}.png`)))
        toast.success(`Frame ${frame} was saved.`)
    } catch (error) {
      toast.error(problemText(error).title)
    } finally {
      client.end()
    }
  }

  return (
    <div className="grid h-full min-h-0 grid-cols-[23rem_minmax(0,1fr)]">
      <section className="hairline flex min-h-0 flex-col border-e bg-base-100" aria-label="What is written">
        <div className="min-h-0 flex-1 space-y-3 overflow-y-auto p-4">
          <TargetBar />
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
                onClick={() => setSettings(withFormat(settings, each))}
              >
                {FORMAT_NAMES[each]}
              </button>
            ))}
          </div>
          <TimingTruth loop={loop} settings={settings} />
          <div className="space-y-1.5">
            <NumberField
              label="size"
              value={scale}
              unit="×"
              step={0.25}
              min={SCALES.least}
              max={SCALES.most}
              context={loop}
              onChange={(next) => setSettings({ scale: next })}
            />
            <p className="dim figures ms-20 ps-1">
              {width} × {height} px
            </p>
            {tooLarge && (
              <p role="alert" className="text-error text-xs">
                That is larger than can be written: up to {MAX_SIDE} px a side and {Math.floor(MAX_PIXELS / 1e6)}{' '}
                million pixels. Choose a smaller size.
              </p>
            )}
            <FormatOptions settings={settings} loop={loop} onChange={setSettings} />
          </div>
        </div>
        <div className="hairline space-y-2 border-t p-4">
          {!tooLarge && <SizeEstimate loop={loop} settings={settings} />}
          {work.state === 'busy' ? (
            <Busy progress={work.progress} since={work.since} onCancel={cancel} />
          ) : (
            <button
              type="button"
              className="btn btn-primary btn-sm w-full"
              disabled={tooLarge}
              onClick={() => {
                goTo('file')
                void write(loop, settings)
              }}
            >
              Write the {FORMAT_NAMES[format]} and prove it
            </button>
          )}
          <button type="button" className="btn btn-neutral btn-sm w-full" disabled={tooLarge} onClick={savePng}>
            <ImageDown size={15} aria-hidden="true" /> Save frame {frame} as PNG
          </button>
        </div>
      </section>
      <div className="flex min-h-0 flex-col">
        <div className="hairline flex h-9 shrink-0 items-end gap-1 border-b px-4" role="tablist" aria-label="Export">
          {EXPORT_TABS.map((each) => (
            <button
              key={each}
              type="button"
              role="tab"
              id={`export-tab-${each}`}
              aria-controls="export-panel"
              aria-selected={tab === each}
              className={classNames(
                'border-b-2 px-2.5 py-1.5',
                tab === each ? 'border-primary font-semibold' : 'dim border-transparent hover:border-base-300',
              )}
              onClick={() => goTo(each)}
            >
              {TAB_NAMES[each]}
              {each === 'queue' && waiting > 0 && <span className="figures dim"> {waiting}</span>}
            </button>
          ))}
        </div>
        <section
          id="export-panel"
          role="tabpanel"
          aria-labelledby={`export-tab-${tab}`}
          aria-live={tab === 'file' ? 'polite' : undefined}
          className="min-h-0 flex-1 overflow-y-auto p-5"
        >
          {tab === 'file' && <FilePanel work={work} loop={loop} />}
          {tab === 'weight' && (
            <WeightPanel
              loop={loop}
              settings={settings}
              onWrite={(chosen) => {
                goTo('file')
                void write(loop, chosen)
              }}
            />
          )}
          {tab === 'queue' && <QueuePanel loop={loop} />}
          {tab === 'data' && <DataPanel loop={loop} scale={scale} />}
        </section>
      </div>
    </div>
  )
}
