'use client'

import { BarChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import type { SeamReport } from '@/core/seam'
import { themeColour, useShownTheme } from '../parts'

echarts.use([BarChart, GridComponent, TooltipComponent, CanvasRenderer])

/** Every step of the loop, the seam step in the middle; pressing a bar goes to its frame. */
export function StepChart({ pictures, onFrame }: { pictures: SeamReport; onFrame: (frame: number) => void }) {
  const box = useRef<HTMLDivElement>(null)
  const theme = useShownTheme()
  const { steps, verdict } = pictures
  useEffect(() => {
    const element = box.current
    if (!element || !theme) return
    const chart = echarts.init(element)
    const N = steps.length
    const half = Math.floor(N / 2)
    // From half-way round, over the seam in the middle, to half-way round again.
    const order = Array.from({ length: N }, (_, i) => (half + i) % N)
    const closes = verdict === 'closes' || verdict === 'still'
    const ink = themeColour(element, 'base-content')
    const next = (n: number) => (n + 1) % N
    chart.setOption({
      animation: false,
      textStyle: { fontFamily: 'JetBrains Mono Variable, monospace', color: ink },
      grid: { left: 48, right: 16, top: 26, bottom: 26 },
      tooltip: {
        trigger: 'axis',
        axisPointer: { type: 'shadow' },
        backgroundColor: themeColour(element, 'base-100'),
        borderColor: themeColour(element, 'base-300'),
        textStyle: { color: ink, fontSize: 12 },
        formatter: (points: unknown) => {
          const { dataIndex } = (points as { dataIndex: number }[])[0] as { dataIndex: number }
          const n = order[dataIndex] as number
          return `${n === N - 1 ? 'seam: ' : ''}${n} → ${next(n)}: ${(steps[n] as number).toFixed(4)}`
        },
      },
      xAxis: {
        type: 'category',
        data: order.map((n) => (n === N - 1 ? 'seam' : String(n))),
        axisLine: { lineStyle: { color: ink, opacity: 0.4 } },
        axisTick: { show: false },
        axisLabel: {
          color: ink,
          fontSize: 10,
          interval: (i: number) =>
            order[i] === N - 1 ||
            ((order[i] as number) > N / 24 && (order[i] as number) % Math.max(1, Math.round(N / 12)) === 0),
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
          barCategoryGap: '25%',
          data: order.map((n) => ({
            value: steps[n],
            itemStyle: {
              color: n === N - 1 ? themeColour(element, closes ? 'accent' : 'error') : ink,
              opacity: n === N - 1 ? 1 : 0.35,
            },
          })),
        },
      ],
    })
    chart.getZr().on('click', ({ offsetX }: { offsetX: number }) => {
      const at = chart.convertFromPixel({ xAxisIndex: 0 }, offsetX)
      const n = order[Number(at)]
      if (n !== undefined) onFrame(n)
    })
    const observer = new ResizeObserver(() => chart.resize())
    observer.observe(element)
    return () => {
      observer.disconnect()
      chart.dispose()
    }
  }, [steps, verdict, onFrame, theme])
  return (
    <div
      ref={box}
      className="h-full w-full"
      role="img"
      aria-label={`Steps of the loop: seam ${pictures.seamStep.toFixed(4)}, beside it ${pictures.expected.toFixed(4)}, ${steps.length} in all`}
    />
  )
}
