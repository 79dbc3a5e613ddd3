'use client'

import dynamic from 'next/dynamic'
import { useEffect, useRef, useState } from 'react'
import { formatRate, formatSeconds, loopSeconds } from '@/core/clock'
import type { Loop } from '@/core/document'
import type { FitPoint } from '@/core/fit'
import { changeLoop, useOpenLoop } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { NumberField, PanelHeading, useRoom } from '../parts'
import { Transport, useFrames } from '../playback'
import { ClockChangePanel } from './clock-change'
import { Divisors } from './divisors'
import { FillPanel } from './fill-panel'
import { FitTable } from './fit-table'
import { perCent } from './per-cent'
import { fittedLoop, setWish, useFit } from './use-fit'

/** Comes with the charts when it is first shown. */
const FrontChart = dynamic(() => import('./front-chart').then((module) => module.FrontChart), { ssr: false })

/** Lengths that bend a speed by more than this are shown only where there are no others. */
const WORTH = 0.25

/** All motions with their periods, and the lengths at which they come home together: short against true. */
export function FitView() {
  const loop = useOpenLoop()
  useEffect(() => () => setSession({ preview: null }), [])
  if (!loop) return null
  return <OpenFit key={loop.id} loop={loop} />
}

function OpenFit({ loop }: { loop: Loop }) {
  const { rows, front: all, exact, most } = useFit(loop)
  const near = all.filter(({ worstError }) => worstError <= WORTH)
  const front = near.length > 0 ? near : all
  const [pointed, setPointed] = useState<FitPoint | null>(null)
  const show = (point: FitPoint | null) => {
    setPointed(point)
    setSession({ preview: point && fittedLoop(loop, rows, point) })
  }
  const take = (point: FitPoint) => {
    changeLoop((current) => fittedLoop(current, rows, point))
    setPointed(null)
  }
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_21rem]">
      <div className="grid min-h-0 grid-rows-[minmax(9rem,auto)_minmax(11rem,1fr)]">
        <section className="flex min-h-0 flex-col bg-base-100" aria-label="Motions and their periods">
          <PanelHeading title="Motions and their periods">
            <span className="dim figures text-2xs">
              {loop.length} f at {formatRate(loop.rate)}/s · {formatSeconds(loopSeconds(loop.length, loop.rate))}
            </span>
          </PanelHeading>
          <FitTable loop={loop} rows={rows} point={pointed} />
        </section>
        <section
          className="hairline flex min-h-0 flex-col border-t bg-base-100"
          aria-label="Lengths, short against true"
        >
          <PanelHeading title="Lengths, short against true">
            <NumberField
              label="up to"
              value={most}
              unit="frames"
              step={60}
              min={2}
              max={10_000}
              context={loop}
              className="w-44"
              onChange={(value) => setWish(loop, () => ({ most: Math.round(value) }))}
            />
          </PanelHeading>
          {front.length === 0 ? (
            <p className="dim p-3 text-xs">
              {rows.length === 0
                ? 'No property has a motion yet. Give one to a property in Compose; its period then stands here.'
                : 'No length up to here leaves the locked motions as they are. Unlock one, or look further.'}
            </p>
          ) : (
            <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_17rem]">
              <FrontChart front={front} current={loop.length} pointed={pointed} onPoint={show} onTake={take} />
              <FrontList
                loop={loop}
                front={front}
                left={all.length - front.length}
                exact={exact}
                pointed={pointed}
                onPoint={show}
                onTake={take}
              />
            </div>
          )}
        </section>
      </div>
      <aside
        className="hairline min-h-0 space-y-4 overflow-y-auto border-s bg-base-100 p-3"
        aria-label="Rate, length and repeats"
      >
        <SmallStage loop={loop} />
        <ClockChangePanel loop={loop} />
        <FillPanel loop={loop} />
        <Divisors loop={loop} rows={rows} />
      </aside>
    </div>
  )
}

interface FrontListProps {
  readonly loop: Loop
  readonly front: readonly FitPoint[]
  /** How many shorter ones are not worth showing. */
  readonly left: number
  readonly exact: number | null
  readonly pointed: FitPoint | null
  readonly onPoint: (point: FitPoint | null) => void
  readonly onTake: (point: FitPoint) => void
}

/** The front as a list: the same as the chart, for the keyboard and for exact figures. */
function FrontList({ loop, front, left, exact, pointed, onPoint, onTake }: FrontListProps) {
  const last = front.at(-1)
  return (
    <div className="hairline flex min-h-0 flex-col border-s">
      <p className="px-3 pt-2 pb-1 text-xs leading-4">
        {exact === null
          ? 'No length brings all of them home exactly.'
          : last?.worstError === 0
            ? `Exactly home together after ${last.length} f.`
            : `Exactly home together only after ${exact.toLocaleString('en')} f.`}
        {left > 0 && (
          <span className="dim">
            {' '}
            {left} shorter ones bend a speed by more than {perCent(WORTH)}.
          </span>
        )}
      </p>
      <ul className="min-h-0 flex-1 overflow-y-auto px-1 pb-1" aria-label="Lengths of the front">
        {front.map((point) => (
          <li key={point.length}>
            <button
              type="button"
              className={`btn btn-ghost btn-xs figures w-full justify-between font-normal ${pointed?.length === point.length ? 'bg-neutral' : ''}`}
              aria-label={`Take ${point.length} frames, speeds bent by ${perCent(point.worstError)} at most`}
              onPointerEnter={() => onPoint(point)}
              onPointerLeave={() => onPoint(null)}
              onFocus={() => onPoint(point)}
              onBlur={() => onPoint(null)}
              onClick={() => onTake(point)}
            >
              <span className={point.length === loop.length ? 'text-primary' : ''}>{point.length} f</span>
              <span className="dim">{formatSeconds(loopSeconds(point.length, loop.rate), 2)}</span>
              <span className={point.worstError === 0 ? 'text-accent' : ''}>
                {point.worstError === 0 ? 'exact' : perCent(point.worstError)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** The loop, or the preview of it, small. */
function SmallStage({ loop }: { loop: Loop }) {
  const { box, width } = useRoom()
  const preview = useSession((session) => session.preview)
  const shown = preview ?? loop
  const scale = Math.min(1, width / shown.width, 150 / shown.height)
  const frames = useFrames(width > 0 ? shown.width * scale : 0)
  const holder = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!frames) return
    const { canvas } = frames
    canvas.style.cssText = 'width:100%;height:100%'
    holder.current?.append(canvas)
    return () => canvas.remove()
  }, [frames])
  return (
    <div>
      <div ref={box} className="flex h-37 items-center justify-center rounded-field bg-base-200">
        <div
          ref={holder}
          className={shown.background === null ? 'weave' : ''}
          style={{ width: shown.width * scale, height: shown.height * scale }}
          role="img"
          aria-label={preview ? 'The loop as it would be' : 'The loop'}
        />
      </div>
      <Transport loop={shown} frames={frames} />
    </div>
  )
}
