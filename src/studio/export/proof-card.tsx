'use client'

import { CircleCheck, CircleX } from 'lucide-react'
import type { Proof } from '@/codecs'
import { LeapMarks, SeamStrip, VerdictMark } from '../parts'
import { weightText } from './formats'

interface ProofCardProps {
  readonly proof: Proof
  readonly name: string
  /** The file itself, to be shown playing where the browser can. */
  readonly file: { readonly url: string; readonly type: string }
  /** Whether what lies behind it is seen. */
  readonly clear: boolean
  /** Remark from writing. */
  readonly note: string | null
  /** True when the loop has been changed since. */
  readonly stale: boolean
}

/** Result of reading the file back, line by line, with its own seam. */
export function ProofCard({ proof, name, file, clear, note, stale }: ProofCardProps) {
  const failed = proof.lines.filter(({ holds }) => !holds).map(({ what }) => what)
  return (
    <article
      className="hairline overflow-hidden rounded-box border bg-base-100"
      data-testid="proof"
      data-holds={proof.holds}
    >
      <header className="hairline flex items-center gap-3 border-b px-4 py-2.5">
        {proof.holds ? (
          <CircleCheck className="text-accent" size={20} aria-hidden="true" />
        ) : (
          <CircleX className="text-error" size={20} aria-hidden="true" />
        )}
        <h2 className="text-base font-semibold">
          {proof.holds ? 'The file keeps its promise' : `The file does not keep its promise: ${failed.join(', ')}`}
        </h2>
        <span className="figures dim ms-auto">{weightText(proof.bytes)}</span>
      </header>
      {stale && <p className="px-4 pt-2 text-primary">The loop has been changed since this file was written.</p>}
      <div className="grid grid-cols-[15rem_minmax(0,1fr)] gap-5 p-4">
        <div className={`flex items-center justify-center self-start ${clear ? 'weave' : ''}`}>
          <div className="relative">
            <Playing {...file} name={name} />
            {proof.seam.leap && <LeapMarks leap={proof.seam.leap} side="both" />}
          </div>
        </div>
        <div>
          <table className="table table-xs [&_th]:text-base-content">
            <thead>
              <tr>
                <th scope="col">checked</th>
                <th scope="col">meant</th>
                <th scope="col">in the file</th>
                <th scope="col">
                  <span className="sr-only">holds</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {proof.lines.map((line) => (
                <tr key={line.what} className="hairline">
                  <th scope="row" className="font-normal">
                    {line.what}
                  </th>
                  <td className="figures">{line.expected}</td>
                  <td className="figures">{line.found}</td>
                  <td className={line.holds ? 'text-accent' : 'text-error'}>{line.holds ? 'holds' : 'fails'}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-3 flex items-end gap-4">
            <div>
              <VerdictMark verdict={proof.seam.verdict} />
              <p className="dim text-2xs">seam of the file</p>
            </div>
            <SeamStrip pictures={proof.seam} reach={8} width={190} height={40} />
            <p className="figures dim">
              error {proof.meanError.toFixed(2)} of 255
              <br />
              at most {proof.worstError}
            </p>
          </div>
          {note && <p className="dim mt-2 text-xs">{note}</p>}
        </div>
      </div>
    </article>
  )
}

/** The written file, playing; an archive only says what it is. */
function Playing({ url, type, name }: { url: string; type: string; name: string }) {
  const label = `${name}, the written file, playing`
  if (type.startsWith('video/'))
    return <video src={url} aria-label={label} className="max-h-60 max-w-full" autoPlay loop muted playsInline />
  if (!type.startsWith('image/'))
    return (
      <p className="dim py-10 text-center text-xs">
        {type === 'application/json' ? 'Vectors for a player.' : 'An archive of pictures.'}
      </p>
    )
  // biome-ignore lint/performance/noImgElement: the written file itself, not a page asset
  return <img src={url} alt={label} className="max-h-60 max-w-full" />
}
