'use client'

import { ChevronDown } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { Layer, Loop } from '@/core/document'
import { cyclesFor, farFor, lackingFor, MOVES, type Move, type MoveWanted, moveNamed, takeMove } from '@/core/edit'
import { currentLoop } from '@/store/document'
import { setSession, useSession, useSessionParts } from '@/store/session'
import { takeMotion } from '../../commands/moves'
import { NumberField } from '../../parts'

/** Whole motions that close, for the selected layers: seen while one is pointed at, taken by a press; the numbers of the last one are at hand. */
export function MovesPanel({ loop, layers }: { readonly loop: Loop; readonly layers: readonly Layer[] }) {
  const { taken, selection } = useSessionParts('taken', 'selection')
  const own = taken && taken.ids.join() === selection.join() ? taken.wanted : null
  const moves = layers.some(({ motions, events = {}, trembles = {} }) =>
    [motions, events, trembles].some((each) => Object.keys(each).length > 0),
  )
  // Hovering previews a move on the stage: this must not fold the panel.
  const [open, setOpen] = useState(!moves)
  const seen = usePreview()
  return (
    <details className="group pt-2" open={open || own !== null} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="dim mb-1 flex cursor-pointer list-none items-center gap-1 text-2xs">
        Motions to take
        <ChevronDown size={12} aria-hidden="true" className="group-open:rotate-180" />
      </summary>
      <div role="group" aria-label="Motions to take" className="flex flex-wrap gap-1">
        {MOVES.map((move) => {
          const lacking = layers.map((layer) => lackingFor(layer, move))
          const none = lacking.every((words) => words !== null)
          return (
            <button
              key={move.name}
              type="button"
              className="btn btn-neutral btn-xs px-1.5 font-normal aria-pressed:text-primary"
              aria-pressed={own?.name === move.name}
              disabled={none}
              title={none ? (lacking[0] ?? undefined) : `${move.label}: ${move.about}`}
              onPointerEnter={() => seen.show(move, selection)}
              onPointerLeave={seen.leave}
              onFocus={(event) => event.target.matches(':focus-visible') && seen.show(move, selection)}
              onBlur={seen.leave}
              onClick={() => {
                seen.leave()
                takeMotion(move)
              }}
            >
              {move.label}
            </button>
          )
        })}
      </div>
      {own && <MoveNumbers loop={loop} layers={layers} wanted={own} />}
    </details>
  )
}

/** Shows what a move would do, playing, and goes back to what was shown before. */
function usePreview() {
  const stopped = useRef(false)
  const leave = () => {
    if (stopped.current) setSession({ playing: false })
    stopped.current = false
    setSession({ preview: null })
  }
  const show = ({ name }: Move, ids: readonly string[]) => {
    const { playing } = useSession.getState()
    const loop = currentLoop()
    if (loop) setSession({ preview: takeMove(loop, ids, { name }) })
    if (playing || matchMedia('(prefers-reduced-motion: reduce)').matches) return
    stopped.current = true
    setSession({ playing: true })
  }
  // A preview ends when the panel goes away.
  const latest = useRef(leave)
  latest.current = leave
  useEffect(() => () => latest.current(), [])
  return { show, leave }
}

interface NumbersProps {
  readonly loop: Loop
  readonly layers: readonly Layer[]
  readonly wanted: MoveWanted
}

/** How far, how often and when, of the motion that was taken last. */
function MoveNumbers({ loop, layers, wanted }: NumbersProps) {
  const move = moveNamed(wanted.name)
  const [first] = layers
  if (!first) return null
  const far = wanted.far ?? farFor(first, move)
  const cycles = wanted.cycles ?? cyclesFor(loop, move, far)
  const context = { rate: loop.rate, length: loop.length, cycleFrames: loop.length / cycles }
  const set = (change: Partial<MoveWanted>) => takeMotion(move, { ...wanted, ...change })
  return (
    <div className="mt-2 space-y-1">
      {move.far && (
        <NumberField
          label={move.far.label}
          value={far}
          unit={move.far.unit === 'steps' ? '' : move.far.unit}
          step={move.far.unit === 'share' ? 0.01 : 1}
          min={move.far.least}
          max={move.far.most}
          context={loop}
          onChange={(next) => set({ far: move.far?.whole ? Math.round(next) : next })}
        />
      )}
      <NumberField
        label="how often"
        value={cycles}
        unit="cycles"
        step={move.far?.unit === 'steps' ? Math.max(1, Math.round(far)) : 1}
        min={1}
        max={loop.length}
        context={loop}
        onChange={(next) => set({ cycles: Math.round(next) })}
      />
      <NumberField
        label="starts at"
        value={wanted.phase ?? 0}
        unit="phase"
        step={0.05}
        min={-1}
        max={1}
        context={context}
        onChange={(phase) => set({ phase: phase - Math.floor(phase) })}
      />
      {layers.length > 1 && (
        <NumberField
          label="each later by"
          value={wanted.stagger ?? 0}
          unit="phase"
          step={0.05}
          min={-1}
          max={1}
          context={context}
          onChange={(stagger) => set({ stagger })}
        />
      )}
    </div>
  )
}
