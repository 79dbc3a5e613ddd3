'use client'

import { useRouter } from 'next/navigation'
import { useEffect, useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import type { Loop } from '@/core/document'
import { frameNow, showFrame } from '@/store/playback'
import { setSession, useShownLoop } from '@/store/session'
import { useSeam } from '@/store/verdict'
import { lastingService, renderClient, seamClient } from '@/workers/page/clients'
import { Choices, classNames, VerdictMark } from '../parts'
import { Charts } from './charts'
import { Compare, FIRST_WAY, type FrameSource, type FrameToCompare, type HowToCompare } from './compare'
import { CompareTools } from './compare-tools'
import { MaskEdges } from './mask-edges'
import { homeWord, isWellHome } from './motions-at-seam'
import { FramesAtSeam } from './strip'
import { Mendable, SeamDirections, Shifted, seamDirection, TileFindings, TileSeam, useTile } from './tile-seam'

type Moment = 'last' | 'closing' | 'first'

function momentOf(moment: Moment, { length }: Loop): FrameToCompare {
  const n = { last: length - 1, closing: length, first: 0 }[moment]
  return {
    n,
    name: `the ${moment} frame`,
    label: `${moment} frame, ${n}${moment === 'closing' ? ' (never written)' : ''}`,
  }
}

/** The frames of the shown loop, drawn by a worker of their own. */
function useLoopFrames(loop: Loop | null): FrameSource | null {
  const [drawing] = useState(() => lastingService(renderClient))
  useEffect(() => drawing.end, [drawing])
  return useMemo(
    () =>
      loop
        ? {
            width: loop.width,
            height: loop.height,
            transparent: loop.background === null,
            bitmap: (n, width, height) => drawing.ask(({ service }) => service.bitmap(loop, n, width, height)),
            difference: (a, b, how, width, height) =>
              drawing.ask(({ service }) => service.difference(loop, a, b, how, width, height)),
          }
        : null,
    [drawing, loop],
  )
}

/** Question for the tile edges of a loop's frames; null for no loop. */
function useTileLook(loop: Loop | null) {
  const [looking] = useState(() => lastingService(seamClient))
  useEffect(() => looking.end, [looking])
  return useMemo(() => loop && (() => looking.ask(async ({ service }) => service.tile(loop))), [looking, loop])
}

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
  const [how, setHow] = useState<HowToCompare>(FIRST_WAY)
  const [pair, setPair] = useState(0)
  const [frame, setFrame] = useState<number | null>(null)
  const [pointed, setPointed] = useState<number | null>(null)
  const source = useLoopFrames(loop)
  const [seam, setSeam] = useState(0)
  const [shifted, setShifted] = useState(true)
  const direction = seamDirection(seam)
  const tile = useTile(useTileLook(direction === null ? null : loop))
  const at = pointed ?? frame
  const length = loop?.length ?? 1
  const go = (n: number) => {
    setFrame(n)
    showFrame(n)
  }
  // The frame that the keys have gone to is looked at, once they have been dealt with.
  useHotkeys('left, right, shift+left, shift+right, home, end', () => void setTimeout(() => setFrame(frameNow())))
  if (!loop) return null
  const leap = pictures?.leap && pictures.leap.frame === (at ?? length - 1) % length ? pictures.leap : null
  const moments: readonly Moment[] =
    how.mode === 'side by side' ? ['last', 'closing', 'first'] : (PAIRS[pair] as readonly Moment[])
  const compared =
    at === null
      ? moments.map((moment) => momentOf(moment, loop))
      : [at % length, (at + 1) % length].map((n) => ({ n, name: `frame ${n}`, label: `frame ${n}` }))
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_20rem]">
      <div
        className={classNames(
          'grid min-h-0',
          direction ? 'grid-rows-[auto_minmax(0,1fr)_10rem]' : 'grid-rows-[auto_minmax(0,1fr)_5rem_10rem]',
        )}
      >
        <div className="hairline flex h-10 items-center gap-3 border-b bg-base-100 px-3">
          <SeamDirections seam={seam} onSeam={setSeam} />
          {direction ? (
            <Shifted shifted={shifted} onChange={setShifted} />
          ) : (
            <CompareTools how={how} onChange={setHow} clock={loop} transparent={loop.background === null}>
              {at !== null ? (
                <>
                  <span className="figures dim">
                    {at % length} → {(at + 1) % length}
                  </span>
                  <button type="button" className="btn btn-ghost btn-xs font-normal" onClick={() => setFrame(null)}>
                    Back to the seam
                  </button>
                </>
              ) : (
                how.mode !== 'side by side' && (
                  <Choices
                    label="Frames compared"
                    options={PAIRS.map(([a, b]) => `${a} | ${b}`)}
                    chosen={pair}
                    onChoose={setPair}
                  />
                )
              )}
            </CompareTools>
          )}
        </div>
        {direction && source ? (
          <TileSeam key={direction} source={source} direction={direction} found={tile} shifted={shifted} />
        ) : (
          <>
            {source ? (
              <Compare source={source} frames={compared} how={how} leap={leap} />
            ) : (
              <div className="bg-base-200" />
            )}
            <div className="hairline min-h-0 border-t bg-base-100">
              {source && (
                <FramesAtSeam
                  source={source}
                  length={length}
                  frames={at === null ? [length - 1, 0] : [at % length, (at + 1) % length]}
                  onFrame={go}
                />
              )}
            </div>
            <section className="hairline min-h-0 border-t bg-base-100" aria-label="Steps round the loop">
              {pictures ? (
                <Charts pictures={pictures} onFrame={go} onPoint={setPointed} />
              ) : (
                <p className="dim p-3">Looking at the pictures …</p>
              )}
            </section>
          </>
        )}
      </div>
      <aside className="hairline min-h-0 overflow-y-auto border-s bg-base-100 p-4" aria-label="What is seen">
        {direction && (
          <TileFindings direction={direction} found={tile}>
            <Mendable loop={loop} found={tile?.[direction]} />
          </TileFindings>
        )}
        {!direction && verdict && (
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
        {!direction && (
          <>
            <MaskEdges loop={loop} onSelect={() => router.push(`/loop/${loop.id}/compose`)} />
            <h2 className="mt-5 mb-1 text-xs font-semibold">Motions</h2>
            <ul className="space-y-1">
              {motions.length === 0 && <li className="dim">No property has a motion yet.</li>}
              {motions.map((report) => {
                const good = isWellHome(report)
                return (
                  <li key={`${report.layer.id} ${report.name}`} className="flex justify-between gap-2">
                    <span className="truncate">
                      {report.layer.name} · {report.property.label}
                    </span>
                    <span className={`figures shrink-0 ${good ? 'text-accent' : 'text-error'}`}>
                      {homeWord(report)}
                    </span>
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
          </>
        )}
      </aside>
    </div>
  )
}
