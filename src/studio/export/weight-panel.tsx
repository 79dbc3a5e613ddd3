import dynamic from 'next/dynamic'
import { useEffect, useRef } from 'react'
import type { Loop } from '@/core/document'
import { type FileSettings, frontOf, isVector } from '@/core/output'
import { setSettings, useExport } from '@/store/export'
import type { WeighedPicture } from '@/workers/inside/encoders/weigh'
import { NumberField } from '../parts'
import { FORMAT_NAMES, settingsText, weightText } from './formats'
import { useWeightSearch } from './use-weight-search'

/** Comes with the charts when it is first shown. */
const WeightChart = dynamic(() => import('./weight-chart').then((module) => module.WeightChart), { ssr: false })

interface WeightPanelProps {
  readonly loop: Loop
  readonly settings: FileSettings
  readonly onWrite: (settings: FileSettings) => void
}

/** Settings under a weight: searched, shown with pictures, chosen. */
export function WeightPanel({ loop, settings, onWrite }: WeightPanelProps) {
  const { limit } = useExport()
  const { search, start, stop } = useWeightSearch()
  const { format } = settings
  const fixed = isVector(format) || format === 'png-sequence' || format === 'sprite-sheet'
  const front = search ? (frontOf(search.points) as WeighedPicture[]) : []
  const under = front.filter(({ bytes }) => search && bytes <= 1000 * search.limit)
  return (
    <div className="mx-auto max-w-4xl space-y-4">
      <div className="flex items-start gap-3">
        <NumberField
          className="w-48"
          label="at most"
          value={limit}
          unit=""
          step={10}
          min={1}
          max={1e6}
          context={loop}
          onChange={(next) => useExport.setState({ limit: next })}
        />
        <span className="dim mt-1">kB as {FORMAT_NAMES[format]}</span>
        {search?.busy ? (
          <button type="button" className="btn btn-sm ms-auto" onClick={stop}>
            Stop after {search.points.length} weighed
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-primary btn-sm ms-auto"
            disabled={fixed}
            onClick={() => void start(loop, settings, limit)}
          >
            Find what fits
          </button>
        )}
      </div>
      {fixed && <p className="dim">A {FORMAT_NAMES[format]} has nothing to save by: it weighs what it weighs.</p>}
      {!search && !fixed && (
        <p className="dim max-w-xl">
          Sizes, rates, colours, dither, loss and quality are tried from the settings on the left on, the least spoilt
          first. Rates only by whole divisors of the length, so that every motion comes home as before.
        </p>
      )}
      {search?.problem && (
        <p role="alert" className="alert alert-error alert-soft">
          {search.problem}
        </p>
      )}
      {search && search.points.length > 0 && (
        <>
          <WeightChart points={search.points} front={front} limit={search.limit} />
          {search.loop !== loop && <p className="text-primary">The loop has been changed since this was weighed.</p>}
          {!search.busy && under.length === 0 && (
            <p className="text-error">
              Nothing that was tried stays under {search.limit} kB. Allow more, or a smaller size.
            </p>
          )}
          <ul aria-label="The front" className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-3">
            {[...under, ...front.filter((point) => !under.includes(point)).slice(-3)].map((point) => (
              <li key={JSON.stringify(point.settings)}>
                <Weight
                  point={point}
                  fits={under.includes(point)}
                  onTake={() => setSettings(point.settings)}
                  onWrite={() => {
                    setSettings(point.settings)
                    onWrite(point.settings)
                  }}
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

interface WeightProps {
  readonly point: WeighedPicture
  readonly fits: boolean
  readonly onTake: () => void
  readonly onWrite: () => void
}

function Weight({ point, fits, onTake, onWrite }: WeightProps) {
  const { bytes, uncertainty, error, settings, shown } = point
  return (
    <article className="hairline overflow-hidden rounded-box border bg-base-100" data-fits={fits}>
      <Shown picture={shown} />
      <div className="space-y-1 p-2.5">
        <p className={`figures font-semibold ${fits ? 'text-accent' : 'text-primary'}`}>
          {weightText(bytes)}
          <span className="dim font-normal">{uncertainty > 0 ? ` ± ${weightText(uncertainty)}` : ', written'}</span>
        </p>
        <p className="text-xs">{settingsText(settings)}</p>
        <p className="dim figures text-2xs">{error.toFixed(2)} of 255 from the loop</p>
        <div className="flex gap-1 pt-1">
          <button type="button" className="btn btn-primary btn-xs" onClick={onWrite}>
            Write it
          </button>
          <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={onTake}>
            Take its settings
          </button>
        </div>
      </div>
    </article>
  )
}

/** A frame of the file as it is seen. */
function Shown({ picture }: { picture: ImageBitmap | null }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    if (!canvas.current || !picture) return
    canvas.current.width = picture.width
    canvas.current.height = picture.height
    canvas.current.getContext('2d')?.drawImage(picture, 0, 0)
  }, [picture])
  return <canvas ref={canvas} className="block h-32 w-full bg-base-300 object-contain" aria-hidden="true" />
}
