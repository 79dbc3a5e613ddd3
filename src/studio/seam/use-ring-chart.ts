'use client'

import { BarChart, HeatmapChart } from 'echarts/charts'
import { GridComponent, TooltipComponent, VisualMapComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import { endChart, themeColour, useShownTheme } from '../parts'
import { greatestOf, ringColumns } from './ring-columns'

echarts.use([BarChart, HeatmapChart, GridComponent, TooltipComponent, VisualMapComponent, CanvasRenderer])

/** What a chart is drawn with: steps from half-way round, over the seam in the middle, to half-way round again. */
export interface Ring {
  readonly N: number
  /** Of each column, the step that it shows. */
  readonly order: readonly number[]
  readonly ink: string
  readonly colour: (name: string) => string
  /** The axis of steps, in that order. */
  readonly xAxis: object
  readonly tooltip: object
}

export interface PointedFrames {
  /** A step is pressed: its first frame. */
  readonly onFrame: (frame: number) => void
  /** A step is pointed at; null when the pointer leaves. */
  readonly onPoint: (frame: number | null) => void
}

/** A chart round the ring; pointing at a step shows its frames, pressing it stays there. `option` must not change with every drawing; about so many steps are labelled. */
export function useRingChart(
  steps: readonly number[],
  option: (ring: Ring) => object,
  { onFrame, onPoint }: PointedFrames,
  labels = 12,
) {
  const box = useRef<HTMLDivElement>(null)
  const N = steps.length
  const theme = useShownTheme()
  const told = useRef({ onFrame, onPoint })
  told.current = { onFrame, onPoint }
  useEffect(() => {
    const element = box.current
    if (!element || !theme) return
    const chart = echarts.init(element)
    const order = ringColumns(N).map((column) => greatestOf(column, steps))
    const colour = (name: string) => themeColour(element, name)
    const ink = colour('base-content')
    const every = Math.max(1, Math.round(N / labels))
    // The word at the seam needs room.
    const together = Math.max(1, Math.round(N / order.length))
    const isLabelled = (n: number) => n % every < together && n > every / 2 && n < N - 1 - every / 2
    chart.setOption({
      animation: false,
      textStyle: { fontFamily: 'JetBrains Mono Variable, monospace', color: ink },
      ...option({
        N,
        order,
        ink,
        colour,
        xAxis: {
          type: 'category',
          data: order.map((n) => (n === N - 1 ? 'seam' : String(n))),
          axisLine: { lineStyle: { color: ink, opacity: 0.4 } },
          axisTick: { show: false },
          axisLabel: {
            color: ink,
            fontSize: 10,
            interval: (i: number) => order[i] === N - 1 || isLabelled(order[i] as number),
          },
        },
        tooltip: {
          backgroundColor: colour('base-100'),
          borderColor: colour('base-300'),
          textStyle: { color: ink, fontSize: 12 },
          confine: true,
        },
      }),
    })
    const stepAt = ({ offsetX, offsetY }: { offsetX: number; offsetY: number }) =>
      chart.containPixel('grid', [offsetX, offsetY])
        ? (order[Number(chart.convertFromPixel({ xAxisIndex: 0 }, offsetX))] ?? null)
        : null
    let pointed: number | null = null
    const point = (n: number | null) => {
      if (n === pointed) return
      pointed = n
      told.current.onPoint(n)
    }
    const surface = chart.getZr()
    surface.on('click', (event: { offsetX: number; offsetY: number }) => {
      const n = stepAt(event)
      if (n !== null) told.current.onFrame(n)
    })
    surface.on('mousemove', (event: { offsetX: number; offsetY: number }) => point(stepAt(event)))
    surface.on('globalout', () => point(null))
    const observer = new ResizeObserver(() => chart.resize())
    observer.observe(element)
    return () => {
      observer.disconnect()
      endChart(chart)
      if (pointed !== null) told.current.onPoint(null)
    }
  }, [N, steps, option, theme, labels])
  return box
}

/** A step in words: between which frames, and across the seam. */
export const stepWords = (n: number, N: number): string => `${n === N - 1 ? 'seam: ' : ''}${n} → ${(n + 1) % N}`
