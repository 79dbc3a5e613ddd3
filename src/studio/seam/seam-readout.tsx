'use client'

import { ArrowRight } from 'lucide-react'
import { type Meant, withMeant } from '@/core/closing'
import type { Verdict } from '@/core/seam'
import { changeLoop } from '@/store/document'
import { showFrame } from '@/store/playback'
import { setSession, useSession } from '@/store/session'
import { useSeam } from '@/store/verdict'
import type { View } from '../commands'
import { SeamStrip, VerdictMark } from '../parts'
import { MotionsAtSeam } from './motions-at-seam'

/** How much the picture changes over the seam, against the steps beside it. */
function stepWords(step: number, expected: number): string {
  if (step < 1e-6 && expected < 1e-6) return 'nothing changes, at the seam or beside it'
  if (expected < 1e-6) return 'it changes at the seam, and not beside it'
  const times = step / expected
  if (times < 0.05) return 'all but nothing changes at the seam'
  const much = Math.abs(times - 1) < 0.1 ? 'as much' : `${times.toFixed(times < 10 ? 1 : 0)} times as much`
  return `changes ${much} as beside it`
}

/** Faults that an artist may call meant, by verdict. */
const MEANT_BY: Partial<Record<Verdict, Meant>> = { hesitates: 'rest', jumps: 'cut' }

/** The seam at all times: verdict, seam step beside its neighbours, what is seen and why, and the motions. */
export function SeamReadout({ go }: { go: (view: View) => void }) {
  const { verdict, pictures, fresh, motions } = useSeam()
  const preview = useSession((session) => session.preview)
  if (!verdict) return <section className="hairline h-14 border-t bg-base-100" aria-label="Seam" />
  const visible = motions.filter((motion) => motion.visible)
  const home = visible.filter((motion) => motion.home && !motion.repeatsFrame).length
  const { fault } = verdict
  const meant = MEANT_BY[verdict.verdict]
  return (
    <section className="hairline flex h-14 items-center gap-4 border-t bg-base-100 px-3" aria-label="Seam">
      <div className="w-36 shrink-0" aria-live="polite" aria-atomic="true" data-testid="verdict" data-fresh={fresh}>
        <div className="dim text-2xs">{preview ? 'seam, in the preview' : 'seam'}</div>
        <VerdictMark verdict={verdict.verdict} />
      </div>
      <div className={`shrink-0 ${fresh ? '' : 'opacity-50'}`}>
        {pictures ? (
          <SeamStrip pictures={pictures} reach={8} width={170} height={40} />
        ) : (
          <div className="h-10 w-[170px]" />
        )}
      </div>
      {pictures && (
        <div
          className="dim w-32 shrink-0 text-xs leading-4"
          title={`The picture changes by ${(1000 * pictures.seamStep).toFixed(1)} ‰ over the seam (the dot), where the steps beside it let expect ${(1000 * pictures.expected).toFixed(1)} ‰, in OKLab.`}
        >
          {stepWords(pictures.seamStep, pictures.expected)}
        </div>
      )}
      <p className="line-clamp-2 min-w-0 flex-1 text-xs leading-4">{verdict.sentence}</p>
      {fault && meant && !fault.inside && (
        <button
          type="button"
          className="btn btn-ghost btn-xs shrink-0"
          title="It is kept with the motion, and the proof of the file expects it"
          onClick={() => changeLoop((loop) => withMeant(loop, fault.layer.id, fault.name, meant, true))}
        >
          {meant === 'rest' ? 'The rest is meant' : 'The cut is meant'}
        </button>
      )}
      {pictures &&
        pictures.frame !== null &&
        pictures.verdict === 'jumps' &&
        pictures.frame < pictures.steps.length - 1 && (
          <button
            type="button"
            className="btn btn-ghost btn-xs shrink-0"
            onClick={() => {
              showFrame(pictures.frame ?? 0)
              go('seam')
            }}
          >
            Frame {pictures.frame}
          </button>
        )}
      {fault && (
        <button
          type="button"
          className="btn btn-error btn-outline btn-xs shrink-0"
          onClick={() => {
            setSession({ selection: [fault.layer.id], property: fault.name })
            go('compose')
          }}
        >
          Show the motion <ArrowRight size={13} aria-hidden="true" />
        </button>
      )}
      <MotionsAtSeam motions={visible} home={home} go={go} />
    </section>
  )
}
