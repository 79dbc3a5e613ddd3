'use client'

import { FoldHorizontal, Pause, Play, SkipBack, StepBack, StepForward } from 'lucide-react'
import { useRef, useState } from 'react'
import { type ClockField, formatRate, formatSeconds, keepsPace, loopSeconds, toNumber } from '@/core/clock'
import type { Loop } from '@/core/document'
import { changeLoop } from '@/store/document'
import type { FrameStore } from '@/store/frames'
import { showFrame } from '@/store/playback'
import { type Pace, setSession, useSessionParts } from '@/store/session'
import { ClockFields } from '../clock/clock-fields'
import { runCommand, shortcutOf } from '../commands'
import { IconButton, useDismiss } from '../parts'
import { useMeasured } from './use-frames'

const PACES: readonly [Pace, string][] = [
  [1, '1'],
  [0.5, '½'],
  [0.25, '¼'],
]

/** Plays, steps across the seam, sets the pace; says the measured rate. */
export function Transport({ loop, frames }: { loop: Loop; frames: FrameStore | null }) {
  const { playing, pace, aroundSeam } = useSessionParts('playing', 'pace', 'aroundSeam')
  return (
    <div className="flex flex-wrap items-center gap-1 px-2 py-1" role="group" aria-label="Playing">
      <IconButton icon={SkipBack} label="Go to the seam" shortcut={shortcutOf('seam')} onClick={() => showFrame(0)} />
      <IconButton
        icon={StepBack}
        label="Previous frame"
        shortcut={shortcutOf('previous')}
        onClick={() => runCommand('previous')}
      />
      <button
        type="button"
        className="btn btn-primary btn-sm btn-square"
        aria-label={playing ? 'Stop' : 'Play'}
        title={`${playing ? 'Stop' : 'Play'} (${shortcutOf('play')})`}
        onClick={() => runCommand('play')}
      >
        {playing ? <Pause size={16} aria-hidden="true" /> : <Play size={16} aria-hidden="true" />}
      </button>
      <IconButton
        icon={StepForward}
        label="Next frame"
        shortcut={shortcutOf('next')}
        onClick={() => runCommand('next')}
      />
      <IconButton
        icon={FoldHorizontal}
        label="Play only around the seam"
        shortcut={shortcutOf('around-seam')}
        pressed={aroundSeam}
        onClick={() => runCommand('around-seam')}
      />
      <div className="join ms-1" role="group" aria-label="Pace">
        {PACES.map(([value, text]) => (
          <button
            key={value}
            type="button"
            aria-pressed={pace === value}
            aria-label={`Pace ${text}`}
            className={`btn join-item btn-xs figures px-2 ${pace === value ? 'bg-neutral text-primary' : 'btn-ghost'}`}
            onClick={() => setSession({ pace: value })}
          >
            {text}
          </button>
        ))}
      </div>
      <MeasuredRate frames={frames} wanted={toNumber(loop.rate) * pace} />
      <ClockButton loop={loop} />
    </div>
  )
}

function MeasuredRate({ frames, wanted }: { frames: FrameStore | null; wanted: number }) {
  const measured = useMeasured(frames)
  if (!measured) return null
  const { rate, missed } = measured
  const keeps = keepsPace(rate, wanted)
  return (
    <span
      className={`figures ms-1 ${keeps ? 'dim' : 'text-error'}`}
      data-testid="measured-rate"
      title={`${missed} frames missed`}
    >
      {rate.toFixed(1)}/s {keeps ? '' : `— pace not kept (${Number(wanted.toFixed(2))}/s)`}
    </span>
  )
}

/** The clock of the open loop; tied motions keep their cycles when it changes, free ones their frames. */
function ClockButton({ loop }: { loop: Loop }) {
  const [open, setOpen] = useState(false)
  const [fixed, setFixed] = useState<ClockField>('rate')
  const box = useRef<HTMLDivElement>(null)
  useDismiss(box, open, () => setOpen(false))
  return (
    <div ref={box} className="relative ms-auto">
      <button
        type="button"
        className="btn btn-ghost btn-xs figures font-normal"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {loop.length} f · {formatRate(loop.rate)}/s · {formatSeconds(loopSeconds(loop.length, loop.rate), 2)}
      </button>
      {open && (
        <div className="hairline absolute bottom-8 left-0 z-40 w-[34rem] rounded-box border bg-base-100 p-3 shadow-lg">
          <ClockFields
            clock={loop}
            fixed={fixed}
            onFix={setFixed}
            onChange={({ rate, length }) => changeLoop((current) => ({ ...current, rate, length }))}
          />
          <p className="dim mt-2 text-xs">
            Tied motions keep their cycles and stretch with the loop; free ones keep their frames. Nothing is resampled.
          </p>
        </div>
      )}
    </div>
  )
}
