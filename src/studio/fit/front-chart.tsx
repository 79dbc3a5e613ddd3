'use client'

import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import type { FitPoint } from '@/core/fit'
import { endChart, themeColour, useShownTheme } from '../parts'

echarts.use([LineChart, GridComponent, MarkLineComponent, CanvasRenderer])

interface FrontChartProps {
  readonly front: readonly FitPoint[]
  /** The length as it is. */
  readonly current: number
  readonly pointed: FitPoint | null
  readonly onPoint: (point: FitPoint | null) => void
  readonly onTake: (point: FitPoint) => void
}

/** The pointer selects a dot within this distance, px. */
const REACH = 18

/** How much the speeds bend at each length of the front: pointing at a dot shows what it does, pressing takes it. */
export function FrontChart({ front, current, pointed, onPoint, onTake }: FrontChartProps) {
  const box = useRef<HTMLDivElement>(null)
  const chart = useRef<echarts.ECharts | null>(null)
  const theme = useShownTheme()
  const handlers = useRef({ onPoint, onTake })
  handlers.current = { onPoint, onTake }

  useEffect(() => {
    const element = box.current
    if (!element || !theme) return
    const made = echarts.init(element)
    chart.current = made
    const ink = themeColour(element, 'base-content')
    const axis = { color: ink, fontSize: 10 }
    made.setOption({
      animation: false,
      textStyle: { fontFamily: 'JetBrains Mono Variable, monospace', color: ink },
      grid: { left: 52, right: 24, top: 40, bottom: 34 },
      xAxis: {
        type: 'log',
        name: 'frames',
        nameLocation: 'middle',
        nameGap: 20,
        nameTextStyle: axis,
        axisLabel: axis,
        min: Math.max(1, Math.floor(Math.min(current, front[0]?.length ?? 1) * 0.85)),
        max: Math.ceil(Math.max(current, front.at(-1)?.length ?? 2) * 1.15) + 1,
        splitLine: { show: false },
        minorTick: { show: true },
      },
      yAxis: {
        type: 'value',
        name: 'worst bend of a speed, %',
        nameTextStyle: { ...axis, align: 'left', padding: [0, 0, 8, -40] },
        axisLabel: axis,
        splitNumber: 4,
        splitLine: { lineStyle: { color: ink, opacity: 0.12 } },
      },
      series: [
        {
          type: 'line',
          step: 'end',
          symbol: 'circle',
          symbolSize: 9,
          lineStyle: { color: ink, opacity: 0.35, width: 1 },
          data: front.map(({ length, worstError }) => ({
            value: [length, 100 * worstError],
            itemStyle: { color: themeColour(element, worstError === 0 ? 'accent' : 'primary') },
          })),
          markLine: {
            silent: true,
            symbol: 'none',
            lineStyle: { color: ink, opacity: 0.5, type: 'dashed' },
            label: { formatter: `now ${current}`, color: ink, fontSize: 10 },
            data: [{ xAxis: current }],
          },
        },
      ],
    })
    const nearest = (x: number, y: number): FitPoint | null => {
      const away = (point: FitPoint) => {
        const at = made.convertToPixel({ seriesIndex: 0 }, [point.length, 100 * point.worstError]) as
          | [number, number]
          | undefined
        return at ? Math.hypot(at[0] - x, at[1] - y) : Infinity
      }
      const [best] = [...front].sort((a, b) => away(a) - away(b))
      return best && away(best) < REACH ? best : null
    }
    let last: FitPoint | null = null
    const canvas = made.getZr()
    canvas.on('mousemove', ({ offsetX, offsetY }: { offsetX: number; offsetY: number }) => {
      const point = nearest(offsetX, offsetY)
      canvas.setCursorStyle(point ? 'pointer' : 'default')
      if (point === last) return
      last = point
      handlers.current.onPoint(point)
    })
    canvas.on('globalout', () => {
      if (last) handlers.current.onPoint(null)
      last = null
    })
    canvas.on('click', ({ offsetX, offsetY }: { offsetX: number; offsetY: number }) => {
      const point = nearest(offsetX, offsetY)
      if (point) handlers.current.onTake(point)
    })
    const observer = new ResizeObserver(() => made.resize())
    observer.observe(element)
    return () => {
      observer.disconnect()
      chart.current = null
      endChart(made)
    }
  }, [front, current, theme])

  useEffect(() => {
    const sizes = front.map((point) => (point.length === pointed?.length ? 15 : 9))
    chart.current?.setOption({
      series: [{ symbolSize: (_: unknown, { dataIndex }: { dataIndex: number }) => sizes[dataIndex] ?? 9 }],
    })
  }, [front, pointed])

  return (
    <div
      ref={box}
      className="h-full min-h-0 w-full"
      data-testid="front-chart"
      role="img"
      aria-label={`${front.length} lengths, from ${front[0]?.length} to ${front.at(-1)?.length} frames; the list beside says the same`}
    />
  )
}
