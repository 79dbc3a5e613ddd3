'use client'

import { useRouter } from 'next/navigation'
import { useMemo } from 'react'
import { toast } from 'sonner'
import { type Clock, formatRate, toNumber } from '@/core/clock'
import { nearestCycles } from '@/core/closing'
import { changeLayer, type Layer, type Loop, referencesOf } from '@/core/document'
import { mapProperty, secondsOf, setMotion } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { clipSeconds, fileOf, frameOfClip, type MediumKind, mediumKind, startOfFrame } from '@/core/media'
import { evenly, isTied, type Motion, mixNumbers, motionValue, reversed, travel } from '@/core/motion'
import { changeLoop } from '@/store/document'
import { openInside, setSession, useStillFrame } from '@/store/session'
import { NumberField } from '../../parts'
import { ExactLengths } from './exact-lengths'

/** A placed loop or clip, and its own verdict. */
interface Placed {
  readonly width: number
  readonly height: number
  /** Of one cycle at its own pace. */
  readonly seconds: number
  readonly words: string
  /** Of a clip: how long each frame is shown, ms. */
  readonly delaysMs: readonly number[] | null
  /** The loop that can be worked on; null for what has no layers of its own. */
  readonly loop: { readonly id: string; readonly name: string } | null
  /** The file that it was cut from, where that was kept. */
  readonly source: ReturnType<NonNullable<MediumKind['source']>>
}

function placedBy(layer: Layer, { loops, media }: Loop): Placed | null {
  const shown = referencesOf(layer)
  const inner = loops.find(({ id }) => shown.some((each) => each.to === 'loop' && each.id === id))
  if (inner) {
    const words = `${inner.length} f at ${formatRate(inner.rate)}/s`
    return { ...inner, loop: inner, seconds: secondsOf(inner), words, delaysMs: null, source: null }
  }
  const medium = media.find(({ id, kind }) => shown.some((each) => each.to === kind && each.id === id))
  const kind = medium && mediumKind(medium.kind)
  const delaysMs = medium && kind?.delaysMs?.(medium)
  if (!medium || !delaysMs || !kind?.picture) return null
  const seconds = clipSeconds({ delaysMs })
  const words = `${delaysMs.length} f, ${Number(seconds.toFixed(2))} s`
  return { ...kind.picture.size(medium), loop: null, seconds, words, delaysMs, source: kind.source?.(medium) ?? null }
}

interface StartFrameProps {
  readonly delaysMs: readonly number[]
  readonly time: Motion
  readonly clock: Clock
  readonly onChange: (time: Motion) => void
}

/** The frame of a clip with which the loop begins. */
function StartFrame({ delaysMs, time, clock, onChange }: StartFrameProps) {
  const first = Number(motionValue(time as Motion<number>, 0, clock.length, mixNumbers))
  const from = Number(motionValue({ ...time, phase: 0 } as Motion<number>, 0, clock.length, mixNumbers))
  const way = travel(time as Motion<number>)
  return (
    <NumberField
      label="first frame"
      value={frameOfClip(delaysMs, first)}
      unit=""
      step={1}
      min={0}
      max={delaysMs.length - 1}
      context={clock}
      onChange={(n) => {
        const phase = (startOfFrame(delaysMs, Math.round(n)) - from) / (way || 1)
        onChange({ ...time, phase: phase - Math.floor(phase) })
      }}
    />
  )
}

/** The way back to the file that a clip was cut from, in the view of files. */
function OpenSource({ source }: { source: NonNullable<Placed['source']> }) {
  const router = useRouter()
  const open = async () => {
    const blob = await fileOf(source.file.id)
    if (!blob) return toast.error(`${source.name} is missing. Bring it in again from where it lies.`)
    // The code that reads files is loaded when the first one is opened.
    const { openClip, useClip } = await import('@/store/clip')
    if (await openClip([new File([blob], source.name, { type: source.file.type })])) router.push('/file')
    else toast.error(useClip.getState().problem ?? `${source.name} could not be opened.`)
  }
  return (
    <button type="button" className="btn btn-neutral btn-xs" onClick={() => void open()}>
      Open its file
    </button>
  )
}

/** How a placed loop or clip runs: whole cycles, its pace, where it starts, which way; and the way into it. */
export function RunningNotes({ loop, layer, property }: { loop: Loop; layer: Layer; property: string }) {
  const placed = placedBy(layer, loop)
  const clock = useMemo(() => ({ rate: loop.rate, length: loop.length }), [loop.rate, loop.length])
  const frame = useStillFrame()
  if (!placed) return <p className="dim pt-2 text-xs">Choose what it shows of what this document holds.</p>
  const time = layer.motions[property]
  const cycles = time && isTied(time.period) ? time.period.cycles : null
  const set = (motion: Motion | null, value: number = 0) =>
    changeLoop((current) => changeLayer(current, layer.id, (each) => setMotion(each, property, motion, value)))
  const pace = cycles === null ? null : (cycles * placed.seconds) / (loop.length / toNumber(loop.rate))
  const frames = placed.seconds * toNumber(loop.rate)
  /** Frames of a cycle, where it runs freely at its own pace. */
  const ownFrames = time && !isTied(time.period) && Math.abs(time.period.frames - frames) < 1e-6 ? frames : null
  const cut = () => {
    if (!time) return
    set({ ...time, period: { frames } })
    toast(`${layer.name} runs exactly at its own pace and is cut where the loop ends.`, {
      description: 'The loop jumps there, and its files will say so. Undo, or “Whole cycles again”, has it close.',
    })
  }
  const back = time ? travel(time as Motion<number>) < 0 : false
  const now = Number(valuesAt(layer, frame, loop.length)[property])
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
            {placed.delaysMs && <StartFrame delaysMs={placed.delaysMs} time={time} clock={clock} onChange={set} />}
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
            <NumberField
              label="pace"
              value={pace ?? 1}
              unit="share"
              step={0.05}
              min={0.01}
              max={100}
              context={clock}
              onChange={(next) => set({ ...time, period: { cycles: nearestCycles(loop, placed.seconds / next) } })}
            />
            <p className="dim figures text-2xs">
              {placed.words}
              {back ? ', backwards' : ''}; the pace goes by whole cycles
            </p>
            {pace !== null && Math.abs(pace - 1) >= 5e-4 && (
              <div className="flex flex-wrap items-center gap-1">
                <ExactLengths
                  clock={clock}
                  layer={layer}
                  property={property}
                  what="motion"
                  seconds={placed.seconds}
                  words="exactly its own pace"
                />
                <button
                  type="button"
                  className="btn btn-ghost btn-xs font-normal"
                  title="Exactly its own pace, repeated, and cut where the loop ends: the loop jumps there"
                  onClick={cut}
                >
                  cut at the loop’s end
                </button>
              </div>
            )}
          </>
        ) : ownFrames !== null ? (
          <div className="flex flex-wrap items-center gap-1">
            <p className="dim text-xs">It runs exactly at its own pace, and is cut where the loop ends.</p>
            <button
              type="button"
              className="btn btn-neutral btn-xs"
              onClick={() => time && set({ ...time, period: { cycles: nearestCycles(loop, placed.seconds) } })}
            >
              Whole cycles again
            </button>
          </div>
        ) : (
          <p className="dim text-xs">
            {time ? 'Its time moves in its own way; see the motion of time.' : 'It is frozen at the time below.'}
          </p>
        )}
        <div className="flex flex-wrap gap-1">
          {placed.loop && (
            <button
              type="button"
              className="btn btn-neutral btn-xs"
              onClick={() => placed.loop && openInside(placed.loop.id)}
            >
              Edit {placed.loop.name}
            </button>
          )}
          {placed.source && <OpenSource source={placed.source} />}
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
              <button type="button" className="btn btn-ghost btn-xs" onClick={() => set(null, now - Math.floor(now))}>
                Freeze
              </button>
            </>
          ) : (
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              onClick={() => set(evenly(1, nearestCycles(loop, placed.seconds)))}
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
                    mapProperty(each, 'width', () => placed.width),
                    'height',
                    () => placed.height,
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
