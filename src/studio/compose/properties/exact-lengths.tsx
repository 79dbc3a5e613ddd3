'use client'

import { toast } from 'sonner'
import type { Timed } from '@/core/closing'
import type { Layer, Loop } from '@/core/document'
import { atOwnPace, type ExactLength, exactLengths } from '@/core/edit'
import { changeLoop, currentLoop } from '@/store/document'

interface ExactLengthsProps {
  readonly clock: Pick<Loop, 'length' | 'rate'>
  readonly layer: Layer
  readonly property: string
  readonly what: Timed
  /** How long one cycle is to last. */
  readonly seconds: number
  /** Words for the pace at such a length, as in “exactly its own pace”. */
  readonly words: string
}

/** Lengths of the loop at which something runs exactly as it should, a press each. */
export function ExactLengths({ clock, layer, property, what, seconds, words }: ExactLengthsProps) {
  const lengths = exactLengths(clock, seconds)
  const take = (exact: ExactLength) => {
    const loop = currentLoop()
    if (!loop) return
    const { loop: made, bent } = atOwnPace(loop, layer.id, property, exact, what)
    if (!changeLoop(() => made)) return
    toast(`The loop is ${exact.length} frames long now: ${layer.name} has ${words}.`, {
      ...(bent.length > 0 && { description: `So that they come home, ${bent.join(', ')} run a little otherwise.` }),
    })
  }
  if (lengths.length === 0)
    return <p className="dim text-2xs">No length of whole frames at this rate gives it {words}.</p>
  return (
    <div role="group" aria-label={words} className="flex flex-wrap items-center gap-1">
      <span className="dim text-2xs">{words} in</span>
      {lengths.map((exact) => (
        <button
          key={exact.length}
          type="button"
          className="btn btn-neutral btn-xs figures font-normal"
          title={`${exact.cycles} whole cycles`}
          onClick={() => take(exact)}
        >
          {exact.length} f
        </button>
      ))}
    </div>
  )
}
