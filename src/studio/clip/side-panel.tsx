'use client'

import { useClip, writeMendedClip } from '@/store/clip'
import { VerdictMark } from '../parts'
import { MendsByHand } from './by-hand'
import { Facts } from './facts'
import { Findings, MendHistory } from './findings'
import { LoopsInIt } from './loops-in-it'
import { PacePanel } from './pace'
import { PlaceInLoop } from './place-in-loop'
import { SheetFields } from './sheet-fields'
import { SteadyAndLight } from './steady'
import { WaysToClose } from './ways'
import { Weight } from './weight'
import { WrittenFile } from './written-file'

interface SidePanelProps {
  /** Whether the file is shown as it came, without its mends. */
  readonly asItCame: boolean
  readonly onAsItCame: (asItCame: boolean) => void
  /** The frame that is looked at. */
  readonly frame: number
}

/** Panel beside the clip: findings, mends, header facts, and ways to place it. */
export function SidePanel({ asItCame, onAsItCame, frame }: SidePanelProps) {
  const { facts, mended, preview, original, working, written, mends } = useClip()
  const shown = asItCame ? original : (preview ?? mended)
  if (!facts || !shown || !mended) return null
  const { seam } = shown.report
  const before = original?.report.seam.verdict
  return (
    <aside className="hairline min-h-0 space-y-4 overflow-y-auto border-s bg-base-100 p-4" aria-label="What is found">
      <div>
        <div className="flex h-7 items-center gap-2 text-lg" aria-live="polite">
          <VerdictMark verdict={seam.verdict} size={22} />
          {asItCame ? (
            <span className="dim text-xs">as it came</span>
          ) : (
            preview && <span className="dim text-xs">if this is mended</span>
          )}
        </div>
        {/* As tall with words as without: what is below must not move away from the pointer. */}
        <p className="dim h-4 text-xs">
          {before && before !== seam.verdict ? `Before: ${before.replaceAll('-', ' ')}.` : ''}
        </p>
        <p className="figures dim mt-1 text-xs">
          seam step {seam.seamStep.toFixed(4)}, expected {seam.expected.toFixed(4)}
        </p>
        <label className="mt-1 flex items-center gap-2 text-xs">
          <input
            type="checkbox"
            className="toggle toggle-xs"
            checked={asItCame}
            disabled={mends.length === 0}
            onChange={(event) => onAsItCame(event.target.checked)}
          />
          show and play it without the mends
        </label>
      </div>
      <SteadyAndLight />
      <Findings findings={mended.report.findings} count={mended.plan.frames.length} />
      {mended.plan.frames.length > 3 && <LoopsInIt key={facts.name} plan={mended.plan} frame={frame} />}
      {mended.plan.frames.length > 3 && <WaysToClose key={`ways ${facts.name}`} plan={mended.plan} />}
      <PacePanel plan={mended.plan} />
      {facts.grid && (
        <SheetFields
          key={JSON.stringify(facts.grid)}
          grid={facts.grid}
          size={{
            width: facts.claims.width * facts.grid.columns,
            height: facts.claims.height * facts.grid.rows,
          }}
        />
      )}
      <MendsByHand plan={mended.plan} />
      <MendHistory />
      <Facts facts={facts} plan={shown.plan} />
      <div className="space-y-1">
        <button
          type="button"
          className="btn btn-primary btn-sm w-full"
          disabled={working !== null}
          onClick={() => void writeMendedClip()}
        >
          Write a GIF and prove it
        </button>
        <Weight key={JSON.stringify(mends)} />
        <PlaceInLoop frame={Math.min(frame, mended.plan.frames.length - 1)} />
      </div>
      {written && <WrittenFile written={written} name={facts.name} stale={written.mends !== mends} />}
    </aside>
  )
}
