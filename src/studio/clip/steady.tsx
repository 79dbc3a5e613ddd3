'use client'

import { useState } from 'react'
import { CAMERA_MODELS, CAMERA_WORDS, type CameraModel, type Steadied } from '@/core/footage'
import { takeMend, useClip } from '@/store/clip'
import { ChoiceField } from '../parts'
import { Take } from './by-hand'

const MODEL_OF = new Map<string, CameraModel>(CAMERA_MODELS.map((model) => [CAMERA_WORDS[model], model]))
const WORDS = [...MODEL_OF.keys()]

/** Removes shake and flicker; shows how much there was. */
export function SteadyAndLight() {
  const { mended, mends, working } = useClip()
  const [words, setWords] = useState<string>(CAMERA_WORDS.similarity)
  const count = mended?.plan.frames.length ?? 0
  const [open, setOpen] = useState(mends.some(({ kind }) => kind === 'steady'))
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-xs font-semibold">Camera and light</summary>
      <div className="mt-1 space-y-1">
        <ChoiceField label="the camera’s" options={WORDS} value={words} onChange={setWords} />
        <div className="flex flex-wrap gap-1">
          <button
            type="button"
            className="btn btn-accent btn-outline btn-xs font-normal"
            disabled={working !== null || count < 3}
            title="What the camera did of itself is taken out; so much is cut off at the edges that all frames show the same"
            onClick={() => void takeMend({ kind: 'steady', model: MODEL_OF.get(words) ?? 'similarity' })}
          >
            Steady it
          </button>
          <Take mend={{ kind: 'even-light' }} disabled={count < 3}>
            Even out its light
          </Take>
        </div>
        {mended?.steadied.map((steadied, n) => (
          <SteadiedFacts key={n} steadied={steadied} />
        ))}
      </div>
    </details>
  )
}

/** How far the scene moved and still does, and what is shown of the picture. */
function SteadiedFacts({ steadied }: { readonly steadied: Steadied }) {
  const { facts } = useClip()
  if (!facts) return null
  const { before, after, shown, lost } = steadied
  const { width, height } = facts.claims
  const px = (widths: number) => (widths * width).toFixed(2)
  const w = 96
  const h = (96 * height) / width
  const cut = 100 * (1 - shown.scale)
  return (
    <div className="flex items-center gap-3" data-testid="steadied">
      <svg width={w} height={h} aria-hidden="true" className="shrink-0 rounded bg-base-300">
        <rect
          x={w * (0.5 + shown.x - shown.scale / 2)}
          y={h * (0.5 + (shown.y * width) / height - shown.scale / 2)}
          width={w * shown.scale}
          height={h * shown.scale}
          fill="var(--color-accent)"
          fillOpacity={0.25}
          stroke="var(--color-accent)"
        />
      </svg>
      <p className="figures dim text-xs">
        moved {px(before)} px, now {px(after)} px RMS; {cut < 0.05 ? 'nothing' : `${cut.toFixed(1)} %`} of its width cut
        off
        {lost.length > 0 && `; not found in ${lost.length} frames`}
      </p>
    </div>
  )
}
