'use client'

import { memo, type RefObject, useMemo, useRef } from 'react'
import { changeLayer, type Loop } from '@/core/document'
import { setMotion } from '@/core/edit'
import { movedPhase, periodFrames } from '@/core/motion'
import { changeLoop } from '@/store/document'
import type { FrameStore } from '@/store/frames'
import { showFrame } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import { useSeam } from '@/store/verdict'
import { startDrag } from '../../parts/start-drag'
import { useCached } from '../../playback'
import { homeWord } from '../../seam/motions-at-seam'
import { BeadMark } from './dial-bead'
import { arcPath, beadsOf, cycleStarts, DIAL, frameAngle, frameAtPoint, onDial, pointerAt } from './dial-geometry'
import { FrameFigure, Hand } from './dial-hand'
import { type Band, dialRings, type Lane } from './lanes'

interface DialProps {
  readonly loop: Loop
  readonly frames: FrameStore | null
}

/** Time as a ring: seam at the top, a ring per motion or, where they are many, per period; cycles as segments, keys as beads, the playhead a hand. */
export function Dial({ loop, frames }: DialProps) {
  const reports = useSeam((seam) => seam.motions)
  const svg = useRef<SVGSVGElement>(null)
  const selection = useSession((session) => session.selection)
  const { lanes, bands } = useMemo(() => dialRings(loop, reports, selection), [loop, reports, selection])
  const turning = useRef(false)
  const toFrame = (event: React.PointerEvent) => {
    if (svg.current) showFrame(Math.floor(frameAtPoint(pointerAt(svg.current, event), loop.length) + 0.5))
  }
  const R = DIAL.radius
  return (
    <div className="relative mx-auto aspect-square h-full max-w-full">
      <svg
        ref={svg}
        viewBox={`${-R} ${-R} ${2 * R} ${2 * R}`}
        className="block h-full w-full touch-none select-none"
        role="group"
        aria-label="Dial"
      >
        <circle
          r={DIAL.ticks + 4}
          fill="transparent"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId)
            turning.current = true
            setSession({ playing: false })
            toFrame(event)
          }}
          onPointerMove={(event) => turning.current && toFrame(event)}
          onPointerUp={() => {
            turning.current = false
          }}
        />
        <Ticks length={loop.length} />
        <CacheRing frames={frames} length={loop.length} />
        {lanes.map((lane) => (
          <Ring key={`${lane.layer.id} ${lane.name}`} lane={lane} length={loop.length} svg={svg} />
        ))}
        {bands.map((band) => (
          <BandRing key={band.label} band={band} length={loop.length} />
        ))}
        <circle r={DIAL.inner - 6} className="fill-base-100" pointerEvents="none" />
        <path d={`M0 ${-DIAL.ticks - 1}l5 -7h-10z`} className="fill-accent" aria-hidden="true" />
      </svg>
      <Hand length={loop.length} onTurn={toFrame} turning={turning} />
      <FrameFigure length={loop.length} />
    </div>
  )
}

/** Distance of the long ticks, in frames, for a length of the loop. */
function longTickEvery(length: number): number {
  if (length <= 24) return 4
  if (length <= 60) return 5
  return length <= 240 ? 10 : Math.ceil(length / 24)
}

const Ticks = memo(function Ticks({ length }: { length: number }) {
  const every = length <= 120 ? 1 : Math.ceil(length / 120)
  const long = longTickEvery(length)
  const ticks = Array.from({ length: Math.ceil(length / every) }, (_, i) => i * every)
  return (
    <g className="stroke-base-content/45" aria-hidden="true">
      {ticks.map((n) => {
        const a = onDial(DIAL.ticks, frameAngle(n, length))
        const b = onDial(DIAL.ticks + (n % long === 0 ? 5 : 2.5), frameAngle(n, length))
        return <line key={n} x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeWidth={n % long === 0 ? 1 : 0.6} />
      })}
    </g>
  )
})

/** Which frames are drawn and kept, as arcs outside the rings. */
function CacheRing({ frames, length }: { frames: FrameStore | null; length: number }) {
  const cached = useCached(frames)
  const count = cached.filter(Boolean).length
  const runs = useMemo(() => {
    const found: [number, number][] = []
    for (const [n, here] of cached.entries()) {
      const last = found.at(-1)
      if (!here) continue
      if (last && last[1] === n) last[1] = n + 1
      else found.push([n, n + 1])
    }
    return found
  }, [cached])
  return (
    <g data-testid="cached" data-count={count} aria-hidden="true">
      <title>{`${count} of ${length} frames are drawn and kept`}</title>
      {runs.map(([from, to]) => (
        <path
          key={from}
          d={arcPath(DIAL.cache, from, to, length)}
          fill="none"
          className="stroke-base-content/50"
          strokeWidth={2}
        />
      ))}
    </g>
  )
}

/** Motions of one period, or layers that stand still, as one ring; pressed, it selects their layers. */
function BandRing({ band, length }: { band: Band; length: number }) {
  const { motion, moves, label, layers, home, inner, outer } = band
  const middle = (inner + outer) / 2
  const width = outer - inner
  return (
    <g data-testid="band">
      <circle
        r={middle}
        fill="none"
        strokeWidth={width}
        className="cursor-pointer stroke-base-300/40 hover:stroke-neutral"
        pointerEvents="stroke"
        onPointerDown={(event) => {
          event.stopPropagation()
          setSession({ selection: layers, property: null })
        }}
      >
        <title>{`${label}. Press to select their layers.`}</title>
      </circle>
      {moves && (
        <circle
          r={middle}
          fill="none"
          strokeWidth={Math.max(1, width * 0.32)}
          className={home ? 'stroke-accent/50' : 'stroke-error'}
          pointerEvents="none"
          strokeDasharray={home ? undefined : '4 3'}
        />
      )}
      {motion && <CycleMarks starts={cycleStarts({ ...motion, phase: 0 }, length)} {...{ inner, outer, length }} />}
    </g>
  )
}

interface MarksProps {
  readonly starts: readonly number[]
  readonly inner: number
  readonly outer: number
  readonly length: number
}

/** Where the cycles of a ring begin. */
const CycleMarks = ({ starts, inner, outer, length }: MarksProps) =>
  starts.map((frame) => {
    const a = onDial(inner, frameAngle(frame, length))
    const b = onDial(outer, frameAngle(frame, length))
    return (
      <line
        key={frame}
        x1={a.x}
        y1={a.y}
        x2={b.x}
        y2={b.y}
        className="stroke-base-content/70"
        strokeWidth={1.2}
        pointerEvents="none"
      />
    )
  })

interface RingProps {
  readonly lane: Lane
  readonly length: number
  readonly svg: RefObject<SVGSVGElement | null>
}

/** Lanes are made anew with every change of the loop; a ring is drawn anew only when its own layer has changed. */
const sameRing = (a: RingProps, b: RingProps): boolean =>
  a.length === b.length && (Object.keys(a.lane) as (keyof Lane)[]).every((key) => a.lane[key] === b.lane[key])

const Ring = memo(function Ring({ lane, length, svg }: RingProps) {
  const { layer, name, report, inner, outer } = lane
  const chosen = useSession(
    ({ selection, property }) => selection.includes(layer.id) && (property === null || property === name),
  )
  const middle = (inner + outer) / 2
  const width = outer - inner
  const motion = name ? layer.motions[name] : undefined
  const good = !report || (report.home && !report.repeatsFrame)
  const label = report ? `${layer.name}, ${report.property.label}: ${homeWord(report)}` : `${layer.name}, does not move`
  const select = () => setSession({ selection: [layer.id], property: name })
  const frameOf = (event: { readonly clientX: number; readonly clientY: number }) =>
    svg.current ? frameAtPoint(pointerAt(svg.current, event), length) : 0
  /** Turns the ring with the pointer: everything on it happens later. */
  const turnRing = (pressed: React.PointerEvent) => {
    select()
    if (!motion || !name) return pressed.stopPropagation()
    const from = frameOf(pressed)
    let moved = false
    startDrag(pressed, {
      onMove: (event) => {
        const raw = frameOf(event) - from
        const near = raw - length * Math.round(raw / length)
        const frames = event.altKey ? near : Math.round(near)
        if (frames === 0 && !moved) return
        moved = true
        const phase = motion.phase - frames / periodFrames(motion.period, length)
        changeLoop((loop) => changeLayer(loop, layer.id, (each) => setMotion(each, name, movedPhase(motion, phase))))
      },
    })
  }
  return (
    <g opacity={layer.hidden ? 0.35 : 1}>
      <circle
        r={middle}
        fill="none"
        strokeWidth={width}
        className={chosen ? 'stroke-neutral' : 'stroke-base-300/40'}
        pointerEvents="stroke"
        style={{ cursor: motion ? 'grab' : 'pointer' }}
        data-testid={motion ? 'ring' : undefined}
        onPointerDown={turnRing}
      >
        <title>{motion ? `${label}. Drag the ring to shift its phase.` : label}</title>
      </circle>
      {motion && (
        <>
          <circle
            r={middle}
            fill="none"
            strokeWidth={Math.max(1, width * 0.16)}
            className={good ? 'stroke-accent/70' : 'stroke-error'}
            pointerEvents="none"
            strokeDasharray={good ? undefined : '4 3'}
          />
          <CycleMarks starts={cycleStarts(motion, length)} {...{ inner, outer, length }} />
          {beadsOf(motion, length).map((bead, i, all) => (
            <BeadMark
              // Not by its cycle, which changes where a bead crosses the seam in the middle of a drag.
              key={`${bead.index} ${i - all.findIndex(({ index }) => index === bead.index)}`}
              lane={lane}
              bead={bead}
              length={length}
              svg={svg}
              radius={Math.min(5, Math.max(1.6, width * 0.42))}
            />
          ))}
        </>
      )}
    </g>
  )
}, sameRing)
