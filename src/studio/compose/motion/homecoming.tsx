'use client'

import { useEffect } from 'react'
import { type LoopRemedy, type MotionReport, motionRemedies, motionReport, withMeant, withRemedy } from '@/core/closing'
import { findLayer, type Loop } from '@/core/document'
import { motionFault } from '@/core/seam'
import { changeLoop } from '@/store/document'
import { setSession, useSession } from '@/store/session'
import { StrobeNote } from '../../fit/strobe'
import { homeWord } from '../../seam/motions-at-seam'

interface HomecomingProps {
  /** The open loop, not a preview of it. */
  readonly loop: Loop
  readonly layerId: string
  readonly name: string
}

/** A change of speed at the seam smaller than this is not worth a word, as a share of the greatest speed. */
const SLIGHT_KINK = 0.1

/** How a motion that comes home does so. */
function manner({ evenness, kink, goesOn, exchanged }: MotionReport): string {
  const said: string[] = []
  if (evenness !== null)
    said.push(
      evenness > 0.999 ? 'at an even speed' : `slowest at ${Math.round(100 * evenness)} % of its greatest speed`,
    )
  if (kink > SLIGHT_KINK) said.push('its speed changes suddenly at the seam: a kink')
  if (exchanged) said.push('it ends in mid-cycle, where a like layer has taken its place')
  else if (!goesOn) said.push('does not go on as it began, it only happens to be back')
  return said.join('; ')
}

/** Speed over the whole loop, the seam in the middle: what is even is a level line. */
function SpeedGraph({ speeds }: { speeds: readonly number[] }) {
  const N = speeds.length
  const fastest = Math.max(...speeds)
  if (N < 3 || fastest === 0) return null
  const shown = Math.min(N, 240)
  const half = Math.floor(N / 2)
  const at = (i: number) => speeds[(half + Math.floor((i * N) / shown)) % N] as number
  const d = Array.from(
    { length: shown },
    (_, i) => `${i === 0 ? 'M' : 'L'}${(i / (shown - 1)) * 100} ${22 - (20 * at(i)) / fastest}`,
  ).join('')
  return (
    <svg
      viewBox="0 0 100 24"
      preserveAspectRatio="none"
      className="my-1 h-6 w-full"
      role="img"
      aria-label="Speed over the loop, the seam in the middle"
    >
      <line
        x1={50}
        x2={50}
        y1={0}
        y2={24}
        className="stroke-accent"
        strokeDasharray="2 2"
        vectorEffect="non-scaling-stroke"
      />
      <path d={d} fill="none" className="stroke-primary" vectorEffect="non-scaling-stroke" />
    </svg>
  )
}

interface SaidToBeMeantProps {
  readonly words: string
  readonly checked: boolean
  readonly onChange: (meant: boolean) => void
}

/** Lets the artist say that something a judge would name is wanted: the proof then expects it. */
const SaidToBeMeant = ({ words, checked, onChange }: SaidToBeMeantProps) => (
  <label className="flex items-center gap-2 text-xs">
    <input
      type="checkbox"
      className="toggle toggle-xs"
      checked={checked}
      onChange={(event) => onChange(event.target.checked)}
    />
    {words}
  </label>
)

/** Whether the motion comes home, by how far not, why, and what would bring it home: each can be seen before it is taken. */
export function Homecoming({ loop, layerId, name }: HomecomingProps) {
  const preview = useSession((session) => session.preview)
  const layer = findLayer(loop, layerId)
  useEffect(() => () => setSession({ preview: null }), [])
  const report = motionReport(loop, layerId, name)
  if (!layer || !report) return null
  const fault = motionFault(report, loop.length)
  const good = fault === null
  const apply = (remedy: LoopRemedy) => withRemedy(loop, layerId, name, remedy)
  const hide = () => setSession({ preview: null })
  const show = (remedy: LoopRemedy) => setSession({ preview: apply(remedy) })
  const take = (remedy: LoopRemedy) => changeLoop((current) => withRemedy(current, layerId, name, remedy))
  const shows = (remedy: LoopRemedy) => preview !== null && JSON.stringify(preview) === JSON.stringify(apply(remedy))
  return (
    <div data-testid="homecoming">
      <p className={`font-semibold ${good ? 'text-accent' : 'text-error'}`}>{homeWord(report)}</p>
      {good && <p className="dim text-xs">{manner(report)}</p>}
      {report.longWay && good && (
        <p className="text-xs leading-4 text-error">
          It turns back the long way at the end of each cycle instead of going on.
        </p>
      )}
      <div className="text-xs leading-4">
        <StrobeNote loop={loop} report={report} otherwise="nothing" />
      </div>
      {(report.hesitates || report.motion.restMeant) && (
        <SaidToBeMeant
          words="its rest is meant"
          checked={report.motion.restMeant ?? false}
          onChange={(meant) => changeLoop((current) => withMeant(current, layerId, name, 'rest', meant))}
        />
      )}
      {(!report.home || report.motion.cutMeant) && (
        <SaidToBeMeant
          words="its sudden step is meant"
          checked={report.motion.cutMeant ?? false}
          onChange={(meant) => changeLoop((current) => withMeant(current, layerId, name, 'cut', meant))}
        />
      )}
      <SpeedGraph speeds={report.speeds} />
      {(fault !== null || report.longWay) && (
        <>
          {fault && <p className="text-xs leading-4">{fault}</p>}
          <ul className="mt-1.5 space-y-1" aria-label="Remedies">
            {motionRemedies(loop, layerId, name).map((remedy) => (
              <li key={remedy.label} className="flex items-center gap-1">
                <span className="min-w-0 flex-1 text-xs leading-4">{remedy.label}</span>
                <button
                  type="button"
                  className={`btn btn-xs ${shows(remedy) ? 'bg-neutral text-primary' : 'btn-ghost'}`}
                  aria-pressed={shows(remedy)}
                  aria-label={`Preview: ${remedy.label}`}
                  onClick={() => (shows(remedy) ? hide() : show(remedy))}
                >
                  Preview
                </button>
                <button
                  type="button"
                  className="btn btn-accent btn-outline btn-xs"
                  aria-label={`Take: ${remedy.label}`}
                  onClick={() => take(remedy)}
                >
                  Take
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
