'use client'

import type { SeamReport } from '@/core/seam'
import { RegionChart } from './region-chart'
import { StepChart } from './step-chart'
import type { PointedFrames } from './use-ring-chart'

/** The steps round the loop, and where in the picture they are. */
export function Charts(props: { pictures: SeamReport } & PointedFrames) {
  return (
    <div className="grid h-full grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <StepChart {...props} />
      <RegionChart {...props} />
    </div>
  )
}
