import type { ExportProgress } from '@/workers/inside/export.worker'

/** Seconds for people. */
export const leftText = (seconds: number | null): string =>
  seconds === null ? '' : `, ${seconds < 1 ? 'under 1' : Math.round(seconds)} s left`

/** How far a file is, and what is left. */
export function Busy({ progress, since, onCancel }: { progress: ExportProgress; since: number; onCancel: () => void }) {
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
          {Math.round(100 * progress.share)} %{leftText(left)}
        </span>
        <button type="button" className="btn btn-xs" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </div>
  )
}
