'use client'

import { BarChart, HeatmapChart } from 'echarts/charts'
import { GridComponent, TooltipComponent, VisualMapComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import { endChart, themeColour, useShownTheme } from '../parts'
import { greatestOf, ringColumns } from './ring-columns'

echarts.use([BarChart, HeatmapChart, GridComponent, TooltipComponent, VisualMapComponent, CanvasRenderer])

/** Data of a chart: steps from half-way round, over the seam in the middle, to half-way round again. */
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

type Chart = ReturnType<typeof echarts.init>

/** Charts are drawn one after the other, and each in steps, so that none holds up the page for as long as all of them take. */
let turn = Promise.resolve()
function inTurn(...steps: readonly (() => void)[]): () => void {
  let wanted = true
  turn = turn.then(async () => {
    for (const step of steps) {
      await new Promise((go) => setTimeout(go))
      if (!wanted) return
      try {
        step()
      } catch (error) {
        // The next one is drawn all the same.
        return reportError(error)
      }
    }
  })
  return () => {
    wanted = false
  }
}

/** State of the shown chart, for the pointer. */
interface Shown {
  readonly chart: Chart
  order: readonly number[]
  pointed: number | null
}

/**
 * A chart round the ring: hovering a step shows its frames, pressing keeps them. `option` must not change with every
 * drawing. A limited number of steps is labelled, and of columns shown: of several steps in one column the greatest is
 * shown, unless it is held.
 */
export function useRingChart(
  steps: readonly number[],
  option: (ring: Ring) => object,
  { onFrame, onPoint }: PointedFrames,
  { labels = 12, most = 360 }: { readonly labels?: number; readonly most?: number } = {},
) {
  const box = useRef<HTMLDivElement>(null)
  const shown = useRef<Shown | null>(null)
  const theme = useShownTheme()
  const told = useRef({ onFrame, onPoint })
  told.current = { onFrame, onPoint }
  // The chart is made once, and given other steps as they come.
  useEffect(() => {
    const element = box.current
    if (!element) return
    const end = { now: () => {} }
    const leave = inTurn(() => {
      const made: Shown = { chart: echarts.init(element), order: [], pointed: null }
      shown.current = made
      listen(made, told)
      const observer = new ResizeObserver(() => made.chart.resize())
      observer.observe(element)
      end.now = () => {
        observer.disconnect()
        endChart(made.chart)
        if (made.pointed !== null) told.current.onPoint(null)
        shown.current = null
      }
    })
    return () => {
      leave()
      end.now()
    }
  }, [])
  useEffect(() => {
    const element = box.current
    if (!element || !theme) return
    const give = () => {
      if (!shown.current) return
      const N = steps.length
      const order = ringColumns(N, most).map((column) => greatestOf(column, steps))
      shown.current.order = order
      // The hovered step may no longer exist.
      if (shown.current.pointed !== null) told.current.onPoint(null)
      shown.current.pointed = null
      const whole = wholeOption(element, N, order, labels, option)
      shown.current.chart.setOption(whole, { notMerge: true, lazyUpdate: true })
    }
    // Pending work is laid out when a size is set, and painted in the next frame: otherwise both would happen here.
    return inTurn(give, () => shown.current?.chart.resize())
  }, [steps, option, theme, labels, most])
  return box
}

/** Tells which steps are pressed and pointed at. */
function listen(shown: Shown, told: { readonly current: PointedFrames }): void {
  const { chart } = shown
  const stepAt = ({ offsetX, offsetY }: { offsetX: number; offsetY: number }) =>
    shown.order.length > 0 && chart.containPixel('grid', [offsetX, offsetY])
      ? (shown.order[Number(chart.convertFromPixel({ xAxisIndex: 0 }, offsetX))] ?? null)
      : null
  const point = (n: number | null) => {
    if (n === shown.pointed) return
    shown.pointed = n
    told.current.onPoint(n)
  }
  const surface = chart.getZr()
  surface.on('click', (event: { offsetX: number; offsetY: number }) => {
    const n = stepAt(event)
    if (n !== null) told.current.onFrame(n)
  })
  surface.on('mousemove', (event: { offsetX: number; offsetY: number }) => point(stepAt(event)))
  surface.on('globalout', () => point(null))
}

function wholeOption(
  element: HTMLElement,
  N: number,
  order: readonly number[],
  labels: number,
  option: (ring: Ring) => object,
): Record<string, unknown> {
  const colour = (name: string) => themeColour(element, name)
  const ink = colour('base-content')
  // Counted from the seam, which is always labelled; its word needs the room beside it.
  const every = Math.max(1, Math.round(order.length / labels))
  const seam = order.indexOf(N - 1)
  return {
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
          interval: (i: number) => (i - seam) % every === 0,
        },
      },
      tooltip: {
        backgroundColor: colour('base-100'),
        borderColor: colour('base-300'),
        textStyle: { color: ink, fontSize: 12 },
        confine: true,
      },
    }),
  }
}

/** A step in words: between which frames, and across the seam. */
export const stepWords = (n: number, N: number): string => `${n === N - 1 ? 'seam: ' : ''}${n} → ${(n + 1) % N}`
