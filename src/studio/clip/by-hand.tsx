'use client'

import { useState } from 'react'
import type { ClipPlan, Mend } from '@/core/footage'
import { GROUNDS, groundOfHex } from '@/core/seam/grounds'
import { previewMend, takeMend } from '@/store/clip'
import { ChoiceField, NumberField } from '../parts'

/** Fields of a clip take no times, and so need no clock of its own. */
export const CLOCK = { rate: { num: 25, den: 1 }, length: 1 }

/** How ends that overlap become one. */
const OVERLAPS = ['a mix', 'a mix that keeps contrast', 'a morph along the motion'] as const

/** Mends that are chosen by hand: a range of frames, how far the ends overlap, there and back, how long it lasts. */
export function MendsByHand({ plan }: { plan: ClipPlan }) {
  const count = plan.frames.length
  const seconds = plan.delaysMs.reduce((sum, delay) => sum + delay, 0) / 1000
  const [wanted, setWanted] = useState<number | null>(null)
  const lasts = wanted ?? seconds
  const [range, setRange] = useState<readonly [number, number] | null>(null)
  const [overlap, setOverlap] = useState(8)
  const [way, setWay] = useState<(typeof OVERLAPS)[number]>(OVERLAPS[0])
  const [matte, setMatte] = useState('#ffffff')
  const from = Math.min(range?.[0] ?? 0, count - 1)
  const to = Math.min(range?.[1] ?? count - 1, count - 1)
  const frames = Math.max(1, Math.min(overlap, Math.floor(count / 2)))
  // Into frames that were cropped off the ends overlap as they are.
  const hasRoom = Math.max(plan.before.length, plan.after.length) >= frames
  const number = (label: string, value: number, max: number, onChange: (value: number) => void) => (
    <NumberField
      label={label}
      value={value}
      unit=""
      step={1}
      min={0}
      max={max}
      context={CLOCK}
      onChange={(next) => onChange(Math.round(next))}
    />
  )
  return (
    <details>
      <summary className="cursor-pointer text-xs font-semibold">Mend by hand</summary>
      <div className="mt-1 space-y-1">
        {number('from frame', from, count - 1, (next) => setRange((now) => [next, Math.max(next, now?.[1] ?? to)]))}
        {number('to frame', to, count - 1, (next) => setRange((now) => [Math.min(now?.[0] ?? from, next), next]))}
        <Take mend={{ kind: 'crop', from, to }} disabled={to <= from || to - from + 1 === count}>
          Crop to {to - from + 1} frames
        </Take>
        {number('overlap by', frames, Math.floor(count / 2), setOverlap)}
        <ChoiceField label="by" options={OVERLAPS} value={way} onChange={setWay} />
        <Take
          mend={{ kind: 'overlap', frames, keepVariance: way === OVERLAPS[1], morph: way === OVERLAPS[2] }}
          disabled={count < 4}
        >
          Overlap the ends: {count - (hasRoom ? 0 : frames)} frames
        </Take>
        <Take mend={{ kind: 'there-and-back' }} disabled={count < 3}>
          Run it there and back: {2 * count - 2} frames
        </Take>
        <p className="dim text-2xs">What pours or falls runs upwards on the way back.</p>
        <label className="flex items-center gap-2 text-xs">
          <input type="color" className="size-5" value={matte} onChange={(event) => setMatte(event.target.value)} />
          colour of the page
        </label>
        <Take mend={{ kind: 'matte', colour: groundOfHex(matte) ?? GROUNDS.white }}>Lay all frames on that colour</Take>
        <Take mend={{ kind: 'even-exposure' }} disabled={count < 3}>
          Take out a drift of exposure
        </Take>
        <NumberField
          label="lasts, in s"
          value={lasts}
          unit=""
          step={0.1}
          min={0.02 * count}
          max={3600}
          context={CLOCK}
          onChange={setWanted}
        />
        <Take mend={{ kind: 'last', seconds: lasts }} disabled={Math.abs(lasts - seconds) < 1e-6}>
          Let it last {Number(lasts.toFixed(3))} s: {Number((count / lasts).toFixed(2))} frames a second
        </Take>
        <Take mend={{ kind: 'even-delays' }} disabled={new Set(plan.delaysMs).size < 2}>
          Even out the delays
        </Take>
      </div>
    </details>
  )
}

/** Where a mend was taken last: what comes to lie under the pointer there, without its moving, is not pointed at. */
let pressed = { x: Number.NaN, y: Number.NaN }

/** A mend that shows what it does while it is pointed at, and is taken with a press. */
export function Take({ mend, disabled, children }: { mend: Mend; disabled?: boolean; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className="btn btn-accent btn-outline btn-xs font-normal"
      disabled={disabled}
      onPointerEnter={({ clientX, clientY }) => {
        // A press is told in whole px, an entry in parts of them.
        const moved = Math.hypot(clientX - pressed.x, clientY - pressed.y) >= 1.5
        if (moved || Number.isNaN(pressed.x)) void previewMend(mend)
      }}
      onPointerLeave={() => void previewMend(null)}
      onFocus={() => void previewMend(mend)}
      onBlur={() => void previewMend(null)}
      onClick={({ clientX, clientY }) => {
        pressed = { x: clientX, y: clientY }
        void takeMend(mend)
      }}
    >
      {children}
    </button>
  )
}
