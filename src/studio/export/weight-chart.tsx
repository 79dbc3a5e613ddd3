'use client'

import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import type { Weighed } from '@/core/output'
import { endChart, themeColour, useShownTheme } from '../parts'

echarts.use([LineChart, ScatterChart, GridComponent, MarkLineComponent, CanvasRenderer])

interface WeightChartProps {
  readonly points: readonly Weighed[]
  readonly front: readonly Weighed[]
  /** kB */
  readonly limit: number
}

/** Weighed settings: distance from the loop against weight; the front as a line, the limit as another. */
export function WeightChart({ points, front, limit }: WeightChartProps) {
  const box = useRef<HTMLDivElement>(null)
  const chart = useRef<echarts.ECharts | null>(null)
  const theme = useShownTheme()
  useEffect(() => {
    const element = box.current
    if (!element || !theme) return
    const made = echarts.init(element)
    chart.current = made
    const observer = new ResizeObserver(() => made.resize())
    observer.observe(element)
    return () => {
      observer.disconnect()
      chart.current = null
      endChart(made)
    }
  }, [theme])
  useEffect(() => {
    const element = box.current
    if (!element || !theme) return
    const ink = themeColour(element, 'base-content')
    const axis = { color: ink, fontSize: 10 }
    const at = ({ bytes, error }: Weighed) => [bytes / 1000, error]
    const name = { nameLocation: 'middle' as const, nameTextStyle: axis, axisLabel: axis }
    chart.current?.setOption({
      animation: false,
      textStyle: { fontFamily: 'JetBrains Mono Variable, monospace', color: ink },
      grid: { left: 50, right: 20, top: 16, bottom: 38 },
      xAxis: { type: 'log', name: 'weight, kB', nameGap: 22, ...name, splitLine: { show: false } },
      yAxis: {
        type: 'value',
        name: 'difference, of 255',
        nameGap: 32,
        ...name,
        splitLine: { lineStyle: { color: ink, opacity: 0.12 } },
      },
      series: [
        {
          type: 'scatter',
          symbolSize: 6,
          data: points.map(at),
          itemStyle: { color: ink, opacity: 0.35 },
          markLine: {
            silent: true,
            symbol: 'none',
            lineStyle: { color: themeColour(element, 'error'), type: 'dashed' },
            label: { formatter: `${limit} kB`, color: ink, fontSize: 10 },
            data: [{ xAxis: limit }],
          },
        },
        {
          type: 'line',
          step: 'start',
          symbol: 'circle',
          symbolSize: 9,
          lineStyle: { color: ink, opacity: 0.4, width: 1 },
          data: front.map((point) => ({
            value: at(point),
            itemStyle: { color: themeColour(element, point.bytes <= 1000 * limit ? 'accent' : 'primary') },
          })),
        },
      ],
    })
  }, [points, front, limit, theme])
  return <div ref={box} className="h-56 w-full" role="img" aria-label="Difference against weight" />
}
