import { useCallback } from 'react'
import type { Loop } from '@/core/document'
import type { FileSettings } from '@/core/output'
import type { WeighedPicture } from '@/workers/inside/encoders/weigh'
import { weightText } from './formats'
import { type Question, useInWorker } from './use-in-worker'

/** Estimated weight of the file from a few written frames, with its uncertainty. */
export function SizeEstimate({ loop, settings }: { loop: Loop; settings: FileSettings }) {
  const ask: Question<WeighedPicture | string> = useCallback(
    (service) => service.weigh(loop, settings, 'weight').catch((error: Error) => error.message),
    [loop, settings],
  )
  const weighed = useInWorker(ask)
  if (typeof weighed === 'string') return <p className="text-error text-xs">{weighed}</p>
  return (
    <p className="figures text-xs" data-testid="estimate" data-bytes={weighed?.bytes} data-off={weighed?.uncertainty}>
      {weighed === null ? (
        <span className="dim">weighing a few frames …</span>
      ) : weighed.uncertainty === 0 ? (
        weightText(weighed.bytes)
      ) : (
        `about ${weightText(weighed.bytes)}, ± ${weightText(weighed.uncertainty)}`
      )}
    </p>
  )
}
