'use client'

import { Redo2, Undo2 } from 'lucide-react'
import { mendsFor, mendWords, type OfferedMend } from '@/core/footage'
import type { Finding } from '@/core/seam'
import { redoMend, startAfresh, undoMend, useClip } from '@/store/clip'
import { IconButton } from '../parts'
import { Take } from './by-hand'

/** Findings in the clip, each with its reason and with the mends that answer it. */
export function Findings({ findings, count }: { findings: readonly Finding[]; count: number }) {
  return (
    <ul className="space-y-3" aria-label="Findings">
      {findings.length === 0 && <li className="dim">Nothing has to be mended.</li>}
      {findings.map((finding) => (
        <li key={`${finding.kind} ${finding.frame}`} data-testid="finding" data-kind={finding.kind}>
          <p className={`font-semibold ${finding.hint ? '' : 'text-error'}`}>
            {finding.kind.replaceAll('-', ' ')}
            {finding.frame !== null && <span className="figures dim font-normal"> · frame {finding.frame}</span>}
            {finding.hint && <span className="dim font-normal"> · worth knowing</span>}
          </p>
          <p className="text-xs">{finding.message}</p>
          <Mends offered={mendsFor(finding, count)} remedy={finding.remedy} />
        </li>
      ))}
    </ul>
  )
}

function Mends({ offered, remedy }: { offered: readonly OfferedMend[]; remedy: string }) {
  if (offered.length === 0) return <p className="dim text-xs">{remedy}</p>
  return (
    <div className="mt-1 flex flex-wrap gap-1">
      {offered.map(({ label, mend }) => (
        <Take key={label} mend={mend}>
          {label}
        </Take>
      ))}
    </div>
  )
}

/** Mends in order; the last one can be undone. */
export function MendHistory() {
  const { mends, undone, working } = useClip()
  return (
    <section aria-label="Mends">
      <div className="flex items-center">
        <h2 className="text-xs font-semibold">Mended</h2>
        <span className="ms-auto" />
        <IconButton
          icon={Undo2}
          label="Undo the last mend"
          disabled={mends.length === 0}
          onClick={() => void undoMend()}
        />
        <IconButton icon={Redo2} label="Redo the mend" disabled={undone.length === 0} onClick={() => void redoMend()} />
      </div>
      {mends.length === 0 ? (
        <p className="dim text-xs">Nothing yet. The file itself is never changed.</p>
      ) : (
        <>
          <ol className="list-inside list-decimal text-xs">
            {mends.map((mend, i) => (
              <li key={i}>{mendWords(mend)}</li>
            ))}
          </ol>
          <p className="dim mt-1 text-xs">
            They are kept with the file for the next time.{' '}
            <button type="button" className="link" disabled={working !== null} onClick={() => void startAfresh()}>
              Start afresh
            </button>
          </p>
        </>
      )}
    </section>
  )
}
