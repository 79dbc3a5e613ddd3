'use client'

import type { Leap } from '@/core/seam'

interface LeapMarksProps {
  readonly leap: Leap
  /** The places that are marked: those seen before the leap, after it, or both, with the way between them. */
  readonly side: 'before' | 'after' | 'both'
  /** px of the screen at which the frame begins, and its size there; the whole box around the marks where it is left out. */
  readonly at?: { readonly left: number; readonly top: number; readonly width: number; readonly height: number }
}

/** Room between what leaps and the line around it, px. */
const ROOM = 3

/** Marks where in the frame something leaps: a dashed frame around it, and an arrow from where it was to where it is. */
export function LeapMarks({ leap, side, at }: LeapMarksProps) {
  const { change, places } = leap
  const moves = change === 'moves'
  const [from, to] = places
  const shown = !moves || side === 'both' ? places : places.slice(side === 'before' ? 0 : 1, side === 'before' ? 1 : 2)
  const box = at ?? { left: 0, top: 0, width: 100, height: 100 }
  const x = (share: number) => box.left + share * box.width
  const y = (share: number) => box.top + share * box.height
  const middle = (place: Leap['places'][number]) => ({
    x: x(place.x + place.width / 2),
    y: y(place.y + place.height / 2),
  })
  const room = at ? ROOM : 0
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full overflow-visible"
      data-testid="leap"
      role="img"
      aria-label={`Marked: what leaps, at ${shown.length} ${shown.length === 1 ? 'place' : 'places'}`}
      {...(at ? {} : { viewBox: '0 0 100 100', preserveAspectRatio: 'none' })}
    >
      {shown.map((place) => (
        <rect
          key={`${place.x} ${place.y}`}
          x={x(place.x) - room}
          y={y(place.y) - room}
          width={place.width * box.width + 2 * room}
          height={place.height * box.height + 2 * room}
          rx={at ? 4 : 0}
          fill="none"
          className="stroke-error"
          strokeWidth="2"
          strokeDasharray="5 3"
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {moves && side === 'both' && from && to && (
        <line
          x1={middle(from).x}
          y1={middle(from).y}
          x2={middle(to).x}
          y2={middle(to).y}
          className="stroke-error"
          strokeWidth="1.5"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </svg>
  )
}
