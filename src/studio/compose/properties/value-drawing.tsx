import { memo, useMemo } from 'react'
import type { Layer } from '@/core/document'
import { roundTheLoop } from '@/core/evaluate'

const SIZE = { width: 26, height: 14 }
const EDGE = 2

interface ValueDrawingProps {
  readonly layer: Layer
  readonly name: string
  readonly length: number
}

/** A small drawing of a property round the loop: a hairline where it rests, with the seam in its middle. */
export const ValueDrawing = memo(function ValueDrawing({ layer, name, length }: ValueDrawingProps) {
  const values = useMemo(() => roundTheLoop(layer, name, length), [layer, name, length])
  const { width, height } = SIZE
  const y = (value: number) => height - EDGE - value * (height - 2 * EDGE)
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      <line x1={width / 2} x2={width / 2} y1={0} y2={height} className="stroke-accent/60" strokeWidth={0.75} />
      {values ? (
        <polyline
          points={values
            .map((value, i) => `${((i / (values.length - 1)) * width).toFixed(1)},${y(value).toFixed(1)}`)
            .join(' ')}
          fill="none"
          className="stroke-primary"
          strokeWidth={1.25}
          strokeLinejoin="round"
        />
      ) : (
        <line x1={0} x2={width} y1={height / 2} y2={height / 2} stroke="currentColor" strokeWidth={0.75} />
      )}
    </svg>
  )
})
