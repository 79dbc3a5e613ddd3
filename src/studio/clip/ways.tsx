'use client'

import { proxy } from 'comlink'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { ClipPlan, Mend } from '@/core/footage'
import { applyMend } from '@/core/footage/mends/table'
import type { Picture } from '@/core/image'
import { askClip, takeMend, useClip } from '@/store/clip'
import type { SeenWay } from '@/workers/inside/clip-mends'
import { NumberField, VerdictMark } from '../parts'
import { CLOCK } from './by-hand'
import { leastLoopOf } from './least-loop'

/** Small pictures of the ways, px across. */
const SIDE = 112
/** A value being dragged or typed is computed once it has rested this long, ms. */
const STILL_MS = 300

/** A way to close the clip; of regions, the mend is found first. */
interface Way {
  readonly name: string
  readonly about?: string
  readonly mend: Mend | 'parts' | null
}

/** Results for one way; fields are filled in as they arrive. */
interface Seen {
  readonly way?: SeenWay
  readonly mend?: Mend
  /** It is being refined. */
  readonly rough?: boolean
  readonly problem?: string
}

const overlap = (frames: number, how: { keepVariance: boolean; morph?: boolean }): Mend => ({
  kind: 'overlap',
  frames,
  ...how,
})

const waysOver = (frames: number): readonly Way[] => [
  { name: 'as it is', mend: null },
  { name: `overlap of ${frames}`, mend: overlap(frames, { keepVariance: false }) },
  { name: `overlap of ${frames}, contrast kept`, mend: overlap(frames, { keepVariance: true }) },
  { name: `morph over ${frames}`, mend: overlap(frames, { keepVariance: false, morph: true }) },
  {
    name: 'in parts',
    about: 'Each region of the picture gets a start and a period of its own',
    mend: 'parts',
  },
  {
    name: 'there and back',
    about: 'What pours or falls runs upwards on the way back',
    mend: { kind: 'there-and-back' },
  },
]

/** The ways to close the clip beside each other, small and playing, with what is seen of their seams; a press takes one. */
export function WaysToClose({ plan }: { readonly plan: ClipPlan }) {
  const [open, setOpen] = useState(false)
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-xs font-semibold">Ways to close it</summary>
      {open && <Ways plan={plan} />}
    </details>
  )
}

function Ways({ plan }: { readonly plan: ClipPlan }) {
  const { working } = useClip()
  const count = plan.frames.length
  const [frames, setFrames] = useState(Math.max(2, Math.min(16, count >> 2)))
  const [amount, setAmount] = useState(0.5)
  const [length, setLength] = useState<number | null>(null)
  const K = Math.max(1, Math.min(frames, count >> 1))
  const ways = useMemo(() => waysOver(K), [K])
  const seen = useSeenWays(ways, plan, { amount, length })
  const seconds = (n: number) => (n / count) * (plan.delaysMs.reduce((sum, delay) => sum + delay, 0) / 1000)
  return (
    <div className="mt-1 space-y-1">
      <NumberField
        label="overlap by"
        value={K}
        unit="frames"
        step={1}
        min={1}
        max={Math.max(1, count >> 1)}
        context={CLOCK}
        onChange={(next) => setFrames(Math.round(next))}
      />
      <label className="flex items-center gap-2 text-xs">
        <span className="whitespace-nowrap">parts: still</span>
        <input
          type="range"
          className="range range-xs"
          min={0}
          max={1}
          step={0.05}
          value={amount}
          aria-label="How much of it moves, in parts"
          onChange={(event) => setAmount(Number(event.target.value))}
        />
        <span className="whitespace-nowrap">all moves</span>
      </label>
      <label className="flex items-center gap-2 text-xs">
        <input
          type="checkbox"
          className="toggle toggle-xs"
          checked={length === null}
          onChange={(event) => setLength(event.target.checked ? null : count)}
        />
        parts: the length that suits them best
      </label>
      {length !== null && (
        <NumberField
          label="parts: all home after"
          value={length}
          unit="frames"
          step={1}
          min={2}
          max={2 * count}
          context={CLOCK}
          onChange={(next) => setLength(Math.round(next))}
        />
      )}
      <ul aria-label="Ways to close it" className="space-y-1">
        {ways.map((each) => {
          const { way, mend = null, problem, rough } = seen.get(each.name) ?? {}
          return (
            <li key={each.name}>
              <button
                type="button"
                className="flex w-full cursor-pointer items-center gap-2 rounded p-1 text-start text-xs hover:bg-base-300 disabled:cursor-default"
                disabled={!mend || working !== null}
                title={each.about}
                onClick={() => mend && void takeMend(mend)}
              >
                <SmallPlay frames={way?.frames ?? []} seconds={way ? seconds(way.length) : 1} />
                <span className="flex min-w-0 flex-1 flex-col gap-0.5">
                  <span className="truncate">{each.name}</span>
                  {problem ? (
                    <span className="text-error">{problem}</span>
                  ) : way ? (
                    <>
                      {rough ? (
                        <span className="dim">coarse so far, looking closer …</span>
                      ) : (
                        <VerdictMark verdict={way.verdict} size={14} />
                      )}
                      <span className="figures dim">
                        {way.length} f · {seconds(way.length).toFixed(2)} s · seam {way.ratio.toFixed(2)}
                      </span>
                    </>
                  ) : (
                    <span className="dim">looking …</span>
                  )}
                </span>
              </button>
            </li>
          )
        })}
      </ul>
    </div>
  )
}

/** Looks at one way after the other; what was changed meanwhile is begun anew. */
function useSeenWays(
  ways: readonly Way[],
  plan: ClipPlan,
  { amount, length }: { readonly amount: number; readonly length: number | null },
): ReadonlyMap<string, Seen> {
  const { mends, facts } = useClip()
  const [seen, setSeen] = useState<ReadonlyMap<string, Seen>>(new Map())
  const least = leastLoopOf(plan)
  useEffect(() => {
    if (!facts) return
    let current = true
    const tell = (name: string, of: Seen) => {
      if (current) setSeen((now) => new Map(now).set(name, of))
    }
    const look = async () => {
      const list = await askClip((service) => service.askWays())
      setSeen(new Map())
      const seenWith = (mend: Mend | null) =>
        askClip((service) => service.way(list, mend ? [...mends, mend] : mends, SIDE))
      for (const { name, mend: how } of ways) {
        if (!current) return
        try {
          let rough: Promise<void> = Promise.resolve()
          const onRough = proxy((mend: Mend) => {
            rough = seenWith(mend).then(
              (way) => tell(name, { way, rough: true }),
              () => {},
            )
          })
          const mend =
            how === 'parts'
              ? (await askClip((service) => service.parts(list, mends, { least, length, amount }, onRough))).regions
              : how
          await rough
          // A mend without any effect is not offered.
          if (mend && applyMend(plan, mend, { delaysMs: plan.delaysMs, playsForever: true, means: [] }) === plan) {
            tell(name, { problem: 'it does not fit what was done already' })
            continue
          }
          tell(name, { way: await seenWith(mend), ...(mend && { mend }) })
        } catch (error) {
          tell(name, { problem: (error as Error).message })
        }
      }
    }
    const timer = setTimeout(() => void look().catch(() => {}), STILL_MS)
    return () => {
      current = false
      clearTimeout(timer)
    }
  }, [ways, plan, mends, facts, least, length, amount])
  return seen
}

/** Small pictures playing. */
function SmallPlay({ frames, seconds }: { readonly frames: readonly Picture[]; readonly seconds: number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { width, height } = frames[0] ?? { width: SIDE, height: Math.round((SIDE * 9) / 16) }
  useEffect(() => {
    if (frames.length === 0) return
    const images = frames.map((each) => new ImageData(new Uint8ClampedArray(each.data), each.width, each.height))
    let request = 0
    let last = -1
    const show = (now: number) => {
      const k = Math.floor(((now / 1000 / seconds) % 1) * images.length)
      if (k !== last) canvas.current?.getContext('2d')?.putImageData(images[k] as ImageData, 0, 0)
      last = k
      request = requestAnimationFrame(show)
    }
    request = requestAnimationFrame(show)
    return () => cancelAnimationFrame(request)
  }, [frames, seconds])
  return (
    <canvas
      ref={canvas}
      width={width}
      height={height}
      className="shrink-0 rounded bg-base-300"
      style={{ width: SIDE, height: (SIDE * height) / width }}
      aria-hidden="true"
    />
  )
}
