'use client'

import { CircleCheck, CircleX } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { WrittenClip } from '@/store/clip'
import { saveFile } from '../files'
import { LeapMarks } from '../parts'

interface WrittenFileProps {
  readonly written: WrittenClip
  readonly name: string
  /** True when something was mended since. */
  readonly stale: boolean
}

/** The file that was written, playing, with what was found when it was read back. */
export function WrittenFile({ written, name, stale }: WrittenFileProps) {
  const { bytes, proof } = written
  const [url, setUrl] = useState<string | null>(null)
  useEffect(() => {
    const made = URL.createObjectURL(new Blob([bytes], { type: 'image/gif' }))
    setUrl(made)
    return () => URL.revokeObjectURL(made)
  }, [bytes])
  const Mark = proof.holds ? CircleCheck : CircleX
  const called = `${name.replace(/\.[^.]+$/, '')}-mended.gif`
  return (
    <article className="hairline rounded-box border p-3" data-testid="proof" data-holds={proof.holds}>
      <p className="flex items-center gap-2 font-semibold">
        <Mark size={18} className={proof.holds ? 'text-accent' : 'text-error'} aria-hidden="true" />
        {proof.holds ? 'The file keeps its promise' : 'The file does not keep its promise'}
        <span className="figures dim ms-auto font-normal">{(bytes.length / 1000).toFixed(1)} kB</span>
      </p>
      {stale && <p className="text-primary text-xs">It was mended further since this file was written.</p>}
      <div className="relative mx-auto my-2 w-fit">
        {/* biome-ignore lint/performance/noImgElement: the written file itself, not a page asset */}
        {url && <img src={url} alt={`${called}, playing`} className="weave max-h-32 max-w-full" />}
        {proof.seam.leap && <LeapMarks leap={proof.seam.leap} side="both" />}
      </div>
      <ul className="figures text-xs">
        {proof.lines.map((line) => (
          <li key={line.what} className={line.holds ? 'dim' : 'text-error'}>
            {line.what}: {line.found}
            {line.holds ? '' : `, meant ${line.expected}`}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-neutral btn-sm mt-2 w-full"
        onClick={() => void saveFile(new Blob([bytes], { type: 'image/gif' }), called)}
      >
        Save the GIF
      </button>
    </article>
  )
}
