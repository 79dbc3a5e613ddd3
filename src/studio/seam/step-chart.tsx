'use client'

import { useCallback } from 'react'
import { outlyingSteps } from '@/core/seam'
import { type PointedFrames, type Ring, stepWords, useRingChart } from './use-ring-chart'

interface StepChartProps extends PointedFrames {
  /** The last of them is the one across the seam. */
  readonly steps: readonly number[]
  /** The step at which the loop does not close; null where it does. */
  readonly fault: number | null
  /** Description of the chart for screen readers. */
  readonly label: string
  /** Whether steps that are out of family are named. */
  readonly naming: boolean
}

/** Words of steps take up such a share of the chart. */
const WORDS = 0.1

/** Which of the named steps are labelled: the greatest, and others that leave them room; the seam and those beside it always. */
function labelledOf(
  named: ReadonlySet<number>,
  steps: readonly number[],
  order: readonly number[],
): ReadonlySet<number> {
  const last = steps.length - 1
  const at = new Map(order.map((n, place) => [n, place]))
  const labelled = new Set([last, last - 1, 0].filter((n) => named.has(n)))
  for (const n of [...named].sort((a, b) => (steps[b] as number) - (steps[a] as number))) {
    const place = at.get(n)
    const apart = (other: number) => Math.abs((place ?? 0) - (at.get(other) ?? 0)) >= WORDS * order.length
    if (place !== undefined && [...labelled].every(apart)) labelled.add(n)
  }
  return labelled
}

/** Every step, the seam step in the middle; those that are out of family are named. */
export function StepChart({ steps, fault, label, naming, ...pointed }: StepChartProps) {
  const option = useCallback(
    ({ N, order, ink, colour, xAxis, tooltip }: Ring) => {
      const named = new Set(naming ? outlyingSteps(steps) : [N - 1])
      const labelled = labelledOf(named, steps, order)
      return {
        xAxis,
        grid: { left: 48, right: 12, top: 26, bottom: 22 },
        tooltip: {
          ...tooltip,
          trigger: 'axis',
          axisPointer: { type: 'shadow' },
          formatter: (points: unknown) => {
            const { dataIndex } = (points as { dataIndex: number }[])[0] as { dataIndex: number }
            const n = order[dataIndex] as number
            return `${stepWords(n, N)}: ${(steps[n] as number).toFixed(4)}${named.has(n) ? ', out of family' : ''}`
          },
        },
        yAxis: {
          type: 'value',
          name: 'step',
          nameTextStyle: { color: ink, fontSize: 10 },
          axisLabel: { color: ink, fontSize: 10 },
          splitLine: { lineStyle: { color: ink, opacity: 0.12 } },
          splitNumber: 3,
        },
        series: [
          {
            type: 'bar',
            emphasis: { disabled: true },
            barCategoryGap: '25%',
            itemStyle: { color: ink, opacity: 0.35 },
            // Most are plain numbers: what stands for itself takes its time.
            data: order.map((n) =>
              n !== N - 1 && n !== fault && !named.has(n)
                ? steps[n]
                : {
                    value: steps[n],
                    itemStyle: {
                      color: colour(n === fault ? 'error' : n === N - 1 ? 'accent' : 'warning'),
                      opacity: 1,
                    },
                    label: {
                      show: labelled.has(n),
                      position: 'top',
                      distance: 2,
                      // The word at the seam stands in the middle; its neighbours make room for it.
                      align: n === N - 2 ? 'right' : n === 0 ? 'left' : 'center',
                      offset: n === N - 2 ? [-4, 0] : n === 0 ? [4, 0] : [0, 0],
                      color: ink,
                      fontSize: 10,
                      formatter: n === N - 1 ? 'seam' : `${n} → ${(n + 1) % N}`,
                    },
                  },
            ),
          },
        ],
      }
    },
    [steps, fault, naming],
  )
  const box = useRingChart(steps, option, pointed)
  return <div ref={box} className="h-full w-full" role="img" aria-label={label} />
}
