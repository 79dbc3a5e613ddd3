'use client'

import dynamic from 'next/dynamic'
import type { SeamReport } from '@/core/seam'
import type { PointedFrames } from './use-ring-chart'

/** They come when a seam is first shown. */
const StepChart = dynamic(() => import('./step-chart').then((module) => module.StepChart), { ssr: false })
const RegionChart = dynamic(() => import('./region-chart').then((module) => module.RegionChart), { ssr: false })

/** The steps round the loop, and where in the picture they are. */
export function Charts(props: { pictures: SeamReport } & PointedFrames) {
  const { steps, verdict, frame, seamStep, expected } = props.pictures
  const closes = verdict === 'closes' || verdict === 'still'
  return (
    <div className="grid h-full grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <StepChart
        steps={steps}
        fault={closes ? null : (frame ?? steps.length - 1)}
        label={`Steps of the loop: seam ${seamStep.toFixed(4)}, beside it ${expected.toFixed(4)}, ${steps.length} in all`}
        naming
        onFrame={props.onFrame}
        onPoint={props.onPoint}
      />
      <RegionChart {...props} />
    </div>
  )
}
