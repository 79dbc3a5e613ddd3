'use client'

import { useEffect, useMemo, useState } from 'react'
import { type Layer, type Loop, MAX_SIZE } from '@/core/document'
import { type Brief, begunLoop, STARTS, type Start } from '@/core/edit'
import { layerKind } from '@/core/layers'
import { classNames } from '../parts'
import { Sample } from '../parts/sample'
import { Thumbnail } from '../playback/thumbnail'

/** px of a small picture of a start. */
const SIZE = { width: 112, height: 70 }
/** Typed text is applied once it has rested this long, ms. */
const STILL_MS = 300

interface StartsProps {
  readonly brief: Brief
  /** Loops of the library that new ones can begin with. */
  readonly own: readonly Loop[]
  readonly chosen: string | undefined
  readonly onChoose: (name: string) => void
}

/** Starts for a loop of the kind, playing in its size, rate and length; nothing if it begins empty. */
export function Starts({ brief, own, chosen, onChoose }: StartsProps) {
  const starts = STARTS[brief.kind] ?? []
  const others = own.filter(({ kind }) => kind === brief.kind)
  const shown = useStill(brief)
  if (starts.length + others.length === 0) return null
  const current = [...starts, ...others.map(({ id }) => ({ name: id }))].find(({ name }) => name === chosen)?.name
  const taken = current ?? starts[0]?.name
  return (
    <fieldset>
      <legend className="dim mb-1.5">begins with</legend>
      <div className="grid max-h-[min(18rem,33vh)] grid-cols-[repeat(auto-fill,minmax(7rem,1fr))] gap-2 overflow-y-auto p-0.5">
        {starts.map((each) => (
          <Choice key={each.name} label={each.label} chosen={each.name === taken} onChoose={() => onChoose(each.name)}>
            <Picture start={each} brief={shown} />
          </Choice>
        ))}
        {others.map((loop) => (
          <Choice key={loop.id} label={loop.name} chosen={loop.id === taken} onChoose={() => onChoose(loop.id)}>
            <Thumbnail loop={loop} className="h-full w-full" size={SIZE} />
          </Choice>
        ))}
      </div>
    </fieldset>
  )
}

interface ChoiceProps {
  readonly label: string
  readonly chosen: boolean
  readonly onChoose: () => void
  readonly children: React.ReactNode
}

const Choice = ({ label, chosen, onChoose, children }: ChoiceProps) => (
  <button
    type="button"
    aria-pressed={chosen}
    className={classNames(
      'hairline flex cursor-pointer flex-col rounded-box border p-1 text-left hover:border-accent',
      chosen && 'outline-2 outline-primary',
    )}
    onClick={onChoose}
  >
    <span className="flex h-[70px] w-full items-center justify-center overflow-hidden">{children}</span>
    <span className="mt-1 block px-1 text-2xs">{label}</span>
  </button>
)

/** The brief as it was when it was last left alone. */
function useStill(brief: Brief): Brief {
  const { kind, width, height, background, rate, length } = brief
  const now = useMemo<Brief>(
    () => ({ name: '', kind, width: inRange(width), height: inRange(height), background, rate, length }),
    [kind, width, height, background, rate, length],
  )
  const [still, setStill] = useState(now)
  useEffect(() => {
    const timer = setTimeout(() => setStill(now), STILL_MS)
    return () => clearTimeout(timer)
  }, [now])
  return still
}
/** A size that is being typed is none yet. */
const inRange = (side: number): number => {
  const whole = Math.round(Number(side))
  return whole >= 1 && whole <= MAX_SIZE ? whole : 480
}

const isSampled = ({ kind }: Layer) => layerKind(kind).sample !== undefined

/** A start as it will be: what is slow to draw as a picture of itself, all else playing. */
function Picture({ start, brief }: { readonly start: Start; readonly brief: Brief }) {
  const sample = useMemo(() => {
    const layers = start.layers({ width: 480, height: 270, seconds: 1 })
    const front = layers.at(-1)
    if (!front || !layers.every(isSampled)) return null
    return (width: number, height: number) =>
      layerKind(front.kind).sample?.(front.values, width, height) ?? {
        width,
        height,
        data: new Uint8ClampedArray(4 * width * height),
      }
  }, [start])
  const loop = useMemo(() => begunLoop(brief, start.name), [brief, start])
  return sample ? (
    <Sample width={SIZE.width} height={SIZE.height} draw={sample} />
  ) : (
    <Thumbnail loop={loop} className="h-full w-full" size={SIZE} />
  )
}
