'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { showFrame } from '@/store/playback'
import { setSession, useShownLoop } from '@/store/session'
import { useSeam } from '@/store/verdict'
import { classNames, NumberField, VerdictMark } from '../parts'
import { Compare, MODES, type Mode, type Moment } from './compare'
import { homeWord, isWellHome } from './motions-at-seam'
import { StepChart } from './step-chart'

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
            const good = isWellHome(report)
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
