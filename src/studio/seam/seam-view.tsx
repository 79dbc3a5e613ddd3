'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { Loop } from '@/core/loop'
import { setSession, showFrame, useShownLoop } from '@/store/session'
import { useSeam } from '@/store/verdict'
import { type Client, renderClient, seamClient } from '@/workers/clients'
import type { RenderService } from '@/workers/render.worker'
import type { SeamService } from '@/workers/seam.worker'
import { classNames, NumberField, VerdictMark } from '../parts'
import { homeWord } from './motions-at-seam'
import { StepChart } from './step-chart'

const MODES = ['side by side', 'flip', 'difference', 'onion skin'] as const
type Mode = (typeof MODES)[number]

type Moment = 'last' | 'closing' | 'first'
const frameOf = (moment: Moment, loop: Loop): number =>
  ({ last: loop.length - 1, closing: loop.length, first: 0 })[moment]
const momentLabel = (moment: Moment, loop: Loop) =>
  ({
    last: `last frame, ${loop.length - 1}`,
    closing: `closing frame, ${loop.length} (never written)`,
    first: 'first frame, 0',
  })[moment]

const PAIRS: readonly (readonly [Moment, Moment])[] = [
  ['closing', 'first'],
  ['last', 'first'],
  ['last', 'closing'],
]

/** The seam of the open loop: last, closing and first frame against each other, and every step of the loop. */
export function SeamView() {
  const router = useRouter()
  const loop = useShownLoop()
  const { pictures, motions, verdict } = useSeam()
  const [mode, setMode] = useState<Mode>('side by side')
  const [pair, setPair] = useState(0)
  const [gain, setGain] = useState(8)
  const [flips, setFlips] = useState(2)
  if (!loop) return null
  const shown = PAIRS[pair] as readonly [Moment, Moment]
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_20rem]">
      <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_11rem]">
        <div className="hairline flex h-10 items-center gap-3 border-b bg-base-100 px-3">
          <div className="join" role="group" aria-label="Way to compare">
            {MODES.map((each) => (
              <button
                key={each}
                type="button"
                aria-pressed={mode === each}
                className={classNames(
                  'btn join-item btn-xs font-normal',
                  mode === each ? 'bg-neutral text-primary' : 'btn-ghost',
                )}
                onClick={() => setMode(each)}
              >
                {each}
              </button>
            ))}
          </div>
          {mode !== 'side by side' && (
            <div className="join" role="group" aria-label="Frames compared">
              {PAIRS.map(([a, b], i) => (
                <button
                  key={a + b}
                  type="button"
                  aria-pressed={pair === i}
                  className={classNames(
                    'btn join-item btn-xs font-normal',
                    pair === i ? 'bg-neutral text-primary' : 'btn-ghost',
                  )}
                  onClick={() => setPair(i)}
                >
                  {a} | {b}
                </button>
              ))}
            </div>
          )}
          {mode === 'difference' && (
            <NumberField
              label="gain"
              value={gain}
              unit="×"
              step={1}
              min={1}
              max={64}
              context={loop}
              className="w-36"
              onChange={setGain}
            />
          )}
          {mode === 'flip' && (
            <NumberField
              label="per second"
              value={flips}
              unit=""
              step={0.5}
              min={0.25}
              max={20}
              context={loop}
              className="w-36"
              onChange={setFlips}
            />
          )}
        </div>
        <Compare loop={loop} mode={mode} pair={shown} gain={gain} flips={flips} />
        <section className="hairline min-h-0 border-t bg-base-100" aria-label="Steps round the loop">
          {pictures ? (
            <StepChart pictures={pictures} onFrame={showFrame} />
          ) : (
            <p className="dim p-3">Looking at the pictures …</p>
          )}
        </section>
      </div>
      <aside className="hairline min-h-0 overflow-y-auto border-s bg-base-100 p-4" aria-label="What is seen">
        {verdict && (
          <>
            <div className="text-lg">
              <VerdictMark verdict={verdict.verdict} size={22} />
            </div>
            <p className="mt-2">{verdict.sentence}</p>
            {pictures && (
              <dl className="figures mt-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
                <dt className="dim">seam step</dt>
                <dd>{pictures.seamStep.toFixed(4)}</dd>
                <dt className="dim">expected</dt>
                <dd>{pictures.expected.toFixed(4)}</dd>
                <dt className="dim">ratio</dt>
                <dd>{Number.isFinite(pictures.ratio) ? pictures.ratio.toFixed(2) : '—'}</dd>
              </dl>
            )}
            <p className="dim mt-2 text-xs">
              A step is how much the picture changes from one frame to the next, in OKLab over the pixels that change at
              all. The seam step should look like its neighbours.
            </p>
          </>
        )}
        <h2 className="mt-5 mb-1 text-xs font-semibold">Motions</h2>
        <ul className="space-y-1">
          {motions.length === 0 && <li className="dim">Nothing moves yet.</li>}
          {motions.map((report) => {
            const good = report.home && !report.repeatsFrame && !report.hesitates
            return (
              <li key={`${report.layer.id} ${report.name}`} className="flex justify-between gap-2">
                <span className="truncate">
                  {report.layer.name} · {report.property.label}
                </span>
                <span className={`figures shrink-0 ${good ? 'text-accent' : 'text-error'}`}>{homeWord(report)}</span>
              </li>
            )
          })}
        </ul>
        <button
          type="button"
          className="btn btn-neutral btn-sm mt-5 w-full"
          onClick={() => {
            setSession({ aroundSeam: true, pace: 0.25, playing: true })
            router.push(`/loop/${loop.id}/compose`)
          }}
        >
          Play around the seam, quarter pace
        </button>
      </aside>
    </div>
  )
}

interface CompareProps {
  readonly loop: Loop
  readonly mode: Mode
  readonly pair: readonly [Moment, Moment]
  readonly gain: number
  readonly flips: number
}

const reducedMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches

function Compare({ loop, mode, pair, gain, flips }: CompareProps) {
  const box = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    if (!box.current) return
    const observer = new ResizeObserver(
      ([entry]) => entry && setRoom({ width: entry.contentRect.width, height: entry.contentRect.height }),
    )
    observer.observe(box.current)
    return () => observer.disconnect()
  }, [])
  const beside = mode === 'side by side' ? 3 : 1
  const scale = Math.max(
    0.02,
    Math.min((room.width - 32 - 16 * (beside - 1)) / beside / loop.width, (room.height - 64) / loop.height),
  )
  const width = Math.max(1, Math.round(loop.width * scale))
  const height = Math.max(1, Math.round(loop.height * scale))
  const clients = useRef<{ render: Client<RenderService>; seam: Client<SeamService> } | null>(null)
  useEffect(() => {
    const made = { render: renderClient(), seam: seamClient() }
    clients.current = made
    return () => {
      made.render.end()
      made.seam.end()
    }
  }, [])
  const moments: readonly Moment[] = mode === 'side by side' ? ['last', 'closing', 'first'] : pair
  const bitmaps = useMoments(clients, loop, moments, mode === 'difference' ? gain : null, width, height)
  const [second, setSecond] = useState(false)
  useEffect(() => {
    if (mode !== 'flip' || reducedMotion()) return
    const timer = setInterval(() => setSecond((each) => !each), 1000 / flips / 2)
    return () => clearInterval(timer)
  }, [mode, flips])

  const canvases =
    mode === 'side by side'
      ? bitmaps.map((bitmap) => [bitmap])
      : mode === 'flip'
        ? [[bitmaps[second ? 1 : 0] ?? null]]
        : [bitmaps]
  const captions =
    mode === 'side by side'
      ? moments.map((moment) => momentLabel(moment, loop))
      : mode === 'flip'
        ? [momentLabel(pair[second ? 1 : 0], loop)]
        : mode === 'difference'
          ? [`what differs between the ${pair[0]} and the ${pair[1]} frame, ${gain} times; black is alike`]
          : [`${pair[0]} and ${pair[1]} frame, half and half`]
  return (
    <div
      ref={box}
      className="flex min-h-0 min-w-0 items-center justify-center gap-4 overflow-hidden bg-base-200"
      data-testid="compare"
      data-mode={mode}
    >
      {canvases.map((layers, i) => (
        <figure key={i} className="text-center">
          <div
            className={loop.background === null && mode !== 'difference' ? 'weave' : ''}
            style={{ width, height, outline: '1px solid var(--color-base-300)' }}
          >
            <BitmapCanvas bitmaps={layers} width={width} height={height} label={captions[i] ?? ''} />
          </div>
          <figcaption className="dim mt-1.5 text-xs">{captions[i]}</figcaption>
          {mode === 'flip' && (
            <button type="button" className="btn btn-xs mt-1" onClick={() => setSecond(!second)}>
              Flip
            </button>
          )}
        </figure>
      ))}
    </div>
  )
}

/** The pictures at some moments of the seam, or what differs between the first two of them. */
function useMoments(
  clients: React.RefObject<{ render: Client<RenderService>; seam: Client<SeamService> } | null>,
  loop: Loop,
  moments: readonly Moment[],
  gain: number | null,
  width: number,
  height: number,
): readonly (ImageBitmap | null)[] {
  const [bitmaps, setBitmaps] = useState<readonly (ImageBitmap | null)[]>([])
  const wanted = moments.join()
  useEffect(() => {
    if (width < 2 || height < 2 || !clients.current) return
    let current = true
    const { render, seam } = clients.current
    const list = wanted.split(',') as Moment[]
    const draw = async () => {
      const [a = 'last', b = 'first'] = list
      if (gain !== null)
        return [await seam.service.difference(loop, frameOf(a, loop), frameOf(b, loop), gain, width, height)]
      await render.service.setLoop(loop)
      return Promise.all(list.map((moment) => render.service.frame(frameOf(moment, loop), width, height)))
    }
    void draw().then((drawn) => {
      if (current) setBitmaps(drawn)
      else for (const bitmap of drawn) bitmap.close()
    })
    return () => {
      current = false
    }
  }, [clients, loop, wanted, gain, width, height])
  return bitmaps
}

/** Bitmaps on a canvas: one, or two half and half. */
function BitmapCanvas({
  bitmaps,
  width,
  height,
  label,
}: {
  bitmaps: readonly (ImageBitmap | null)[]
  width: number
  height: number
  label: string
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    context.clearRect(0, 0, width, height)
    for (const [i, bitmap] of bitmaps.entries()) {
      if (!bitmap || bitmap.width === 0) continue
      context.globalAlpha = i === 0 ? 1 : 0.5
      context.drawImage(bitmap, 0, 0, width, height)
    }
    context.globalAlpha = 1
  }, [bitmaps, width, height])
  return <canvas ref={canvas} width={width} height={height} role="img" aria-label={label} />
}
