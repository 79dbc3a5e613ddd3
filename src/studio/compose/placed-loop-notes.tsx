'use client'

import { useMemo } from 'react'
import { formatRate, toNumber } from '@/core/clock'
import { changeLayer, type Layer, type Loop, mapProperty, nearestCycles, running, setMotion } from '@/core/loop'
import { isTied, type Motion, reversed, travel } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { openInside, setSession } from '@/store/session'
import { NumberField } from '../parts'

/** How a placed loop runs: whole cycles, its pace, where it starts, which way; and the way into it. */
export function PlacedLoopNotes({ loop, layer }: { loop: Loop; layer: Layer }) {
  const inner = loop.loops.find(({ id }) => id === layer.values.loop)
  const clock = useMemo(() => ({ rate: loop.rate, length: loop.length }), [loop.rate, loop.length])
  if (!inner) return <p className="dim pt-2 text-xs">Choose one of the loops that this document holds.</p>
  const { time } = layer.motions
  const cycles = time && isTied(time.period) ? time.period.cycles : null
  const set = (motion: Motion | null) =>
    changeLoop((current) => changeLayer(current, layer.id, (each) => setMotion(each, 'time', motion, 0)))
  const pace =
    cycles === null ? null : (cycles * inner.length) / toNumber(inner.rate) / (loop.length / toNumber(loop.rate))
  const back = time ? travel(time as Motion<number>) < 0 : false
  return (
    <fieldset className="pt-2">
      <legend className="dim float-left mb-1 w-full text-2xs">How it runs</legend>
      <div className="clear-both space-y-1">
        {time && cycles !== null ? (
          <>
            <NumberField
              label="whole cycles"
              value={cycles}
              unit="cycles"
              step={1}
              min={1}
              max={loop.length}
              context={clock}
              onChange={(next) => set({ ...time, period: { cycles: Math.max(1, Math.round(next)) } })}
            />
            <NumberField
              label="starts at"
              value={time.phase}
              unit="share"
              step={0.05}
              min={0}
              max={1}
              context={clock}
              onChange={(phase) => set({ ...time, phase })}
            />
            <p className="dim figures text-2xs">
              {inner.length} f at {formatRate(inner.rate)}/s, {Number((100 * (pace ?? 1)).toFixed(1))} % of its own pace
              {back ? ', backwards' : ''}
            </p>
          </>
        ) : (
          <p className="dim text-xs">
            {time ? 'Its time moves in its own way; see the motion of time.' : 'It is frozen.'}
          </p>
        )}
        <div className="flex flex-wrap gap-1">
          <button type="button" className="btn btn-neutral btn-xs" onClick={() => openInside(inner.id)}>
            Edit {inner.name}
          </button>
          {time ? (
            <>
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                aria-pressed={back}
                onClick={() => set(reversed(time))}
              >
                Backwards
              </button>
              <button type="button" className="btn btn-ghost btn-xs" onClick={() => set(null)}>
                Freeze
              </button>
            </>
          ) : (
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              onClick={() => set(running(nearestCycles(loop, inner)))}
            >
              Run
            </button>
          )}
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            onClick={() => {
              changeLoop((current) =>
                changeLayer(current, layer.id, (each) =>
                  mapProperty(
                    mapProperty(each, 'width', () => inner.width),
                    'height',
                    () => inner.height,
                  ),
                ),
              )
              setSession({ property: null })
            }}
          >
            Own size
          </button>
        </div>
      </div>
    </fieldset>
  )
}
