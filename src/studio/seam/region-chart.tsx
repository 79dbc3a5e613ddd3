'use client'

import { useCallback } from 'react'
import { toHex } from '@/core/colour'
import { REGIONS, type SeamReport } from '@/core/seam'
import { type PointedFrames, type Ring, stepWords, useRingChart } from './use-ring-chart'

/** It is narrow, and has nine cells in each column. */
const FEWER = { labels: 6, most: 60 }

/** Where in the picture each step is: nine regions, the seam step in the middle. */
export function RegionChart({ pictures, ...pointed }: { pictures: SeamReport } & PointedFrames) {
  const { regions, steps } = pictures
  const option = useCallback(
    ({ N, order, ink, colour, xAxis, tooltip }: Ring) => ({
      xAxis,
      grid: { left: 82, right: 12, top: 26, bottom: 22 },
      tooltip: {
        ...tooltip,
        formatter: ({ value }: { value: readonly [number, number, number] }) => {
          const [i, region, step] = value
          return `${stepWords(order[i] as number, N)}, ${REGIONS[region]}: ${step.toFixed(4)}`
        },
      },
      yAxis: {
        type: 'category',
        name: 'where',
        nameTextStyle: { color: ink, fontSize: 10 },
        inverse: true,
        nameLocation: 'start',
        data: REGIONS,
        axisLine: { show: false },
        axisTick: { show: false },
        axisLabel: { color: ink, fontSize: 9, interval: 0 },
      },
      visualMap: {
        show: false,
        min: 0,
        max: regions.reduce((most, each) => Math.max(most, ...each), 1e-6),
        inRange: { color: [toHex(colour('base-200')), toHex(colour('primary'))] },
      },
      series: [
        {
          type: 'heatmap',
          emphasis: { disabled: true },
          data: order.flatMap((n, i) => (regions[n] ?? []).map((step, region) => [i, region, step])),
        },
      ],
    }),
    [regions],
  )
  const box = useRingChart(steps, option, pointed, FEWER)
  const seam = regions.at(-1) ?? []
  const most = REGIONS[seam.indexOf(Math.max(...seam))]
  return (
    <div
      ref={box}
      className="h-full w-full"
      role="img"
      aria-label={`Where each step is: across the seam most in the region ${most}`}
    />
  )
}
