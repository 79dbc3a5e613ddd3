'use client'

import { useEffect, useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import type { Mend } from '@/core/footage'
import { askClip, previewMend, redoMend, takeMend, undoMend, useClip } from '@/store/clip'
import { Choices, classNames } from '../parts'
import { Charts } from '../seam/charts'
import { Compare, FIRST_WAY, type FrameSource, type HowToCompare } from '../seam/compare'
import { CompareTools } from '../seam/compare-tools'
import { FramesAtSeam } from '../seam/strip'
import { SeamDirections, Shifted, seamDirection, TileFindings, TileSeam, useTile } from '../seam/tile-seam'
import { CLOCK } from './by-hand'
import { Player } from './player'
import { RangeStrip } from './range-strip'
import { SidePanel } from './side-panel'

/** The frames of the clip with some mends. */
function useClipFrames(mends: readonly Mend[]): FrameSource | null {
  const { facts } = useClip()
  return useMemo(() => {
    if (!facts) return null
    // The kept frames are smaller than the file if all would not fit in memory; for a close look they are read anew at
    // full size.
    const inFull = (width: number) => width > facts.width
    return {
      width: facts.claims.width,
      height: facts.claims.height,
      transparent: facts.transparent,
      bitmap: (n, width) => askClip((service) => service.bitmap(mends, n, inFull(width))),
      difference: (a, b, { gain, kind }, width) =>
        askClip((service) => service.difference(mends, a, b, { gain, kind }, inFull(width))),
    }
  }, [facts, mends])
}

const NO_MENDS: readonly Mend[] = []
/** The preview of a range being dragged is computed once it has rested this long, ms. */
const STILL_MS = 120

/** The pictures of the file that is open: compared, in a strip, in charts, playing; and what is found in it. */
export function Workbench() {
  const { facts, mended, preview, original, mends } = useClip()
  const [how, setHow] = useState<HowToCompare>(FIRST_WAY)
  const [frame, setFrame] = useState<number | null>(null)
  const [pointed, setPointed] = useState<number | null>(null)
  const [playing, setPlaying] = useState<'whole' | 'seam' | null>(null)
  const [asItCame, setAsItCame] = useState(false)
  const [pulling, setPulling] = useState<readonly [number, number] | 'seam'>('seam')
  const shownMends = useMemo(
    () => (asItCame ? NO_MENDS : preview ? [...mends, preview.mend] : mends),
    [asItCame, preview, mends],
  )
  const source = useClipFrames(shownMends)
  const [seam, setSeam] = useState(0)
  const [shifted, setShifted] = useState(true)
  const direction = seamDirection(seam)
  const look = useMemo(
    () => (direction ? () => askClip((service) => service.tile(shownMends)) : null),
    [direction, shownMends],
  )
  const tile = useTile(look)
  const whole = useClipFrames(mends)
  const shown = asItCame ? original : (preview ?? mended)
  const N = shown?.plan.frames.length ?? 0
  const count = mended?.plan.frames.length ?? 0
  // A file that jumps inside is looked at there first.
  const jump = shown?.report.seam.verdict === 'jumps' ? shown.report.seam.frame : null
  const at = Math.min(pointed ?? frame ?? jump ?? N - 1, Math.max(0, N - 1))
  const pair = useMemo(() => [at, N > 0 ? (at + 1) % N : 0] as const, [at, N])
  useEffect(() => {
    if (!facts) return
    setFrame(null)
    setPulling('seam')
    setAsItCame(false)
  }, [facts])
  const range =
    pulling === 'seam' ? null : ([Math.min(pulling[0], count - 2), Math.min(pulling[1], count - 1)] as const)
  const crops = range !== null && range[1] - range[0] + 1 < count
  const [from, to] = range ?? [0, 0]
  useEffect(() => {
    if (!crops) return
    const timer = setTimeout(() => {
      setFrame(null)
      void previewMend({ kind: 'crop', from, to })
    }, STILL_MS)
    return () => clearTimeout(timer)
  }, [crops, from, to])
  const goTo = (n: number) => {
    setPlaying(null)
    setFrame(n)
  }
  const scrub = (by: number) => setFrame((now) => (Math.min(now ?? N - 1, N - 1) + by + N) % N)
  useHotkeys('left', () => scrub(-1), { preventDefault: true })
  useHotkeys('right', () => scrub(1), { preventDefault: true })
  useHotkeys('space', () => setPlaying(playing ? null : 'whole'), { preventDefault: true })
  useHotkeys('mod+z', () => void undoMend(), { preventDefault: true })
  useHotkeys('mod+shift+z, mod+y', () => void redoMend(), { preventDefault: true })
  if (!facts || !shown || !source || !whole || !mended) return null
  const seamOfShown = shown.report.seam
  const label = (n: number) => `frame ${n}${n === N - 1 ? ', the last' : n === 0 ? ', the first' : ''}`
  const leave = () => {
    setPulling('seam')
    void previewMend(null)
  }
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_22rem]">
      <div
        className={classNames(
          'grid min-h-0',
          direction ? 'grid-rows-[auto_minmax(0,1fr)_10rem]' : 'grid-rows-[auto_minmax(0,1fr)_5.5rem_10rem]',
        )}
      >
        <div className="hairline flex h-10 items-center gap-3 border-b bg-base-100 px-3">
          <SeamDirections seam={seam} onSeam={setSeam} />
          {direction ? (
            <Shifted shifted={shifted} onChange={setShifted} />
          ) : (
            <CompareTools
              transparent={facts.transparent}
              how={how}
              playing={playing !== null}
              onChange={(next) => {
                setPlaying(null)
                setHow(next)
              }}
              clock={CLOCK}
            >
              <span className="figures dim whitespace-nowrap">
                {at} → {pair[1]}
              </span>
            </CompareTools>
          )}
          <span className="ms-auto" />
          <Choices
            label="Playing"
            options={['still', 'play', 'around the seam, ¼']}
            chosen={playing === null ? 0 : playing === 'whole' ? 1 : 2}
            onChoose={(i) => setPlaying(([null, 'whole', 'seam'] as const)[i] ?? null)}
          />
        </div>
        {direction ? (
          <TileSeam key={direction} source={source} direction={direction} found={tile} shifted={shifted} />
        ) : (
          <>
            {playing ? (
              <Player source={source} plan={shown.plan} around={playing === 'seam'} />
            ) : (
              <Compare
                source={source}
                frames={pair.map((n) => ({ n, name: `frame ${n}`, label: label(n) }))}
                how={how}
                leap={seamOfShown.leap?.frame === at ? seamOfShown.leap : null}
              />
            )}
            <div className="hairline grid min-h-0 grid-cols-[7.5rem_minmax(0,1fr)] border-t bg-base-100">
              <div className="flex flex-col justify-center gap-1 ps-3" role="group" aria-label="Strip">
                <button
                  type="button"
                  className={`btn btn-xs justify-start font-normal ${pulling === 'seam' ? 'bg-neutral text-primary' : 'btn-ghost'}`}
                  aria-pressed={pulling === 'seam'}
                  onClick={leave}
                >
                  At the seam
                </button>
                <button
                  type="button"
                  className={`btn btn-xs justify-start font-normal ${pulling === 'seam' ? 'btn-ghost' : 'bg-neutral text-primary'}`}
                  aria-pressed={pulling !== 'seam'}
                  disabled={count < 3}
                  onClick={() => setPulling([0, count - 1])}
                >
                  Choose a range
                </button>
                {range && (
                  <button
                    type="button"
                    className="btn btn-primary btn-xs figures px-1 font-normal"
                    disabled={!crops}
                    onClick={() => {
                      void takeMend({ kind: 'crop', from, to })
                      setPulling('seam')
                    }}
                  >
                    Crop to {to - from + 1} f
                  </button>
                )}
              </div>
              {range ? (
                <RangeStrip source={whole} length={count} range={range} onRange={setPulling} />
              ) : (
                <FramesAtSeam source={source} length={N} frames={pair} onFrame={goTo} />
              )}
            </div>
            <section className="hairline min-h-0 border-t bg-base-100" aria-label="Steps round the loop">
              <Charts pictures={shown.report.seam} onFrame={goTo} onPoint={setPointed} />
            </section>
          </>
        )}
      </div>
      {direction ? (
        <aside
          className="hairline min-h-0 overflow-y-auto border-s bg-base-100 p-4"
          aria-label="What is seen of its edges"
        >
          <TileFindings direction={direction} found={tile}>
            <p className="mt-3">Make a loop of it, in time, to heal the edges of all its frames alike.</p>
          </TileFindings>
        </aside>
      ) : (
        <SidePanel asItCame={asItCame} onAsItCame={setAsItCame} frame={at} />
      )}
    </main>
  )
}
