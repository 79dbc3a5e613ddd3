'use client'

import { useEffect, useMemo, useRef, useState } from 'react'
import type { ClipCut, ClipPlan, CutMap } from '@/core/footage'
import { askClip, previewMend, takeMend, useClip } from '@/store/clip'
import type { FoundLoops } from '@/workers/inside/clip-search'
import { NumberField, themeColour, useShownTheme, VerdictMark } from '../parts'
import { CLOCK } from './by-hand'
import { delayOf, leastLoopOf } from './least-loop'

/** A hovered cut is previewed once the pointer has rested this long, ms. */
const STILL_MS = 60
/** Cost in steps from which a cut is darkest on the map. */
const DARKEST = 3

interface Bounds {
  readonly least: number
  readonly most: number
  readonly from: number
  readonly to: number
}

const cropOf = ({ start, length }: ClipCut) => ({ kind: 'crop', from: start, to: start + length - 1 }) as const

/** Loops that lie in the clip: pointing at one plays it, pressing takes it. @param frame the one that is looked at */
export function LoopsInIt({ plan, frame }: { readonly plan: ClipPlan; readonly frame: number }) {
  const [open, setOpen] = useState(false)
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-xs font-semibold">Loops in it</summary>
      {open && <Search plan={plan} frame={frame} />}
    </details>
  )
}

function Search({ plan, frame }: { readonly plan: ClipPlan; readonly frame: number }) {
  const { mends } = useClip()
  const count = plan.frames.length
  const delay = useMemo(() => delayOf(plan), [plan])
  const first = leastLoopOf(plan)
  const [bounds, setBounds] = useState<Bounds>({ least: first, most: count, from: 0, to: count - 1 })
  const [holds, setHolds] = useState<number | null>(null)
  const [found, setFound] = useState<FoundLoops | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const least = Math.min(bounds.least, count)
  const most = Math.min(Math.max(bounds.most, bounds.least), count)
  const to = Math.min(bounds.to, count - 1)
  const from = Math.min(bounds.from, to)
  useEffect(() => {
    let current = true
    setProblem(null)
    askClip((service) => service.loops(mends, { least, most, from, to, holds })).then(
      (loops) => current && setFound(loops),
      (error: Error) => current && setProblem(error.message),
    )
    return () => {
      current = false
    }
  }, [mends, least, most, from, to, holds])
  const point = usePointed()
  const bound = (name: keyof Bounds, label: string, value: number, min = 2, max = count) => (
    <NumberField
      label={label}
      value={value}
      unit="frames"
      step={1}
      min={min}
      max={max}
      context={CLOCK}
      onChange={(next) => setBounds((now) => ({ ...now, [name]: Math.round(next) }))}
    />
  )
  const time = (frames: number) => `${((frames * delay) / 1000).toFixed(2)} s`
  return (
    <div className="mt-1 space-y-1" aria-busy={found === null}>
      {bound('least', 'at least', least)}
      {bound('most', 'at most', most)}
      {bound('from', 'not before', from, 0, count - 1)}
      {bound('to', 'not after', to, 0, count - 1)}
      <label className="flex items-center gap-2 text-xs">
        <input
          type="checkbox"
          className="toggle toggle-xs"
          checked={holds !== null}
          onChange={(event) => setHolds(event.target.checked ? frame : null)}
        />
        {holds === null ? 'holds the frame that is looked at' : `holds frame ${holds}`}
      </label>
      {problem && <p className="text-xs text-error">{problem}</p>}
      {!found && !problem && <p className="dim text-xs">Looking for loops …</p>}
      {found && (
        <>
          <p className="text-xs" data-testid="period">
            {found.period === null ? 'Nothing in it comes back evenly.' : `It comes back every ${found.period} frames.`}
          </p>
          <CutPicture map={found.map} onPoint={point} />
          {found.cuts.length === 0 && <p className="dim text-xs">No loop of such a length lies in it.</p>}
          <ul aria-label="Loops in the clip">
            {found.cuts.map((cut) => (
              <li key={`${cut.start} ${cut.length}`}>
                <button
                  type="button"
                  className="grid w-full cursor-pointer grid-cols-[6.5rem_1fr_auto] gap-x-2 rounded px-1 py-0.5 text-start text-xs hover:bg-base-300"
                  onPointerEnter={() => point(cut)}
                  onPointerLeave={() => point(null)}
                  onFocus={() => point(cut)}
                  onBlur={() => point(null)}
                  onClick={() => void takeMend(cropOf(cut))}
                  title={`Frames ${cut.start} to ${cut.start + cut.length - 1}`}
                >
                  <VerdictMark verdict={cut.verdict} size={14} />
                  <span className="figures">
                    from {cut.start}, {cut.length} f
                  </span>
                  <span className="figures dim">{time(cut.length)}</span>
                  <span className="figures dim" title="Its seam, against what is expected">
                    seam {cut.ratio.toFixed(2)}
                  </span>
                  <span className="figures dim" title="How far its end misses its start: what is left to mend">
                    {cut.cost.toFixed(2)} steps off
                  </span>
                  <span className="figures dim" title="So much of the picture moves">
                    {Math.round(100 * cut.moving)} % moves
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

/** Shows the loop that is pointed at, once it has been for a moment. */
function usePointed(): (cut: ClipCut | null) => void {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  useEffect(() => () => clearTimeout(timer.current), [])
  return (cut) => {
    clearTimeout(timer.current)
    timer.current = setTimeout(() => void previewMend(cut && cropOf(cut)), STILL_MS)
  }
}

/** Every cut by its start, across, and its length, down: the brighter, the better. */
function CutPicture({ map, onPoint }: { readonly map: CutMap; readonly onPoint: (cut: ClipCut | null) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const theme = useShownTheme()
  const { across, down, cells } = map
  // biome-ignore lint/correctness/useExhaustiveDependencies: drawn anew in the colours of another theme
  useEffect(() => {
    const element = canvas.current
    const context = element?.getContext('2d')
    if (!element || !context) return
    context.clearRect(0, 0, across, down)
    context.fillStyle = themeColour(element, 'accent')
    for (const [i, cell] of cells.entries()) {
      if (!cell) continue
      context.globalAlpha = Math.max(0.04, (1 - Math.min(1, cell.cost / DARKEST)) ** 2)
      context.fillRect(i % across, Math.floor(i / across), 1, 1)
    }
  }, [map, theme])
  const cutAt = (event: React.PointerEvent | React.MouseEvent): ClipCut | null => {
    const box = event.currentTarget.getBoundingClientRect()
    const x = Math.min(across - 1, Math.max(0, Math.floor(((event.clientX - box.left) / box.width) * across)))
    const y = Math.min(down - 1, Math.max(0, Math.floor(((event.clientY - box.top) / box.height) * down)))
    return cells[y * across + x] ?? null
  }
  return (
    <figure>
      <canvas
        ref={canvas}
        width={across}
        height={down}
        className="h-24 w-full cursor-crosshair rounded bg-base-300"
        style={{ imageRendering: 'pixelated' }}
        data-testid="cut-map"
        role="img"
        aria-label="All loops in the clip by start and length; the list below names the best"
        onPointerMove={(event) => onPoint(cutAt(event))}
        onPointerLeave={() => onPoint(null)}
        onClick={(event) => {
          const cut = cutAt(event)
          if (cut) void takeMend(cropOf(cut))
        }}
      />
      <figcaption className="dim flex text-2xs">
        <span>start →</span>
        <span className="ms-auto">longer ↓</span>
      </figcaption>
    </figure>
  )
}
