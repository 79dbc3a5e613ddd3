'use client'

import type { SeamReport } from '@/core/seam'

interface SeamStripProps {
  readonly pictures: SeamReport
  /** Steps shown on each side of the seam step. */
  readonly reach: number
  readonly width: number
  readonly height: number
}

/** The seam step as a bar in the middle of its neighbours. The seam's bar has a dot on it, and the colour of its verdict. */
export function SeamStrip({ pictures, reach, width, height }: SeamStripProps) {
  const { steps, verdict, frame } = pictures
  const N = steps.length
  const count = Math.min(reach, Math.floor((N - 1) / 2))
  const around = Array.from({ length: 2 * count + 1 }, (_, i) => steps[(N - 1 + i - count + N) % N] as number)
  const most = Math.max(...around, 1e-6)
  const slot = width / around.length
  // A fault inside is not the seam's.
  const closes = verdict === 'closes' || verdict === 'still' || (frame !== null && frame !== N - 1)
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`Seam step ${pictures.seamStep.toFixed(4)}, its neighbours ${pictures.expected.toFixed(4)}`}
    >
      {around.map((step, i) => {
        const seam = i === count
        const tall = Math.max(1.5, (height - 9) * (step / most))
        return (
          <g key={i}>
            <rect
              x={i * slot + slot * 0.18}
              y={height - tall}
              width={slot * 0.64}
              height={tall}
              className={seam ? (closes ? 'fill-accent' : 'fill-error') : 'fill-base-content/35'}
            />
            {seam && (
              <circle
                cx={i * slot + slot / 2}
                cy={Math.max(3, height - tall - 5)}
                r={2.5}
                className={closes ? 'fill-accent' : 'fill-error'}
              />
            )}
          </g>
        )
      })}
    </svg>
  )
}
