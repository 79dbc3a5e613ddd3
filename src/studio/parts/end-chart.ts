import type { ECharts } from 'echarts/core'

/**
 * Lets go of a chart. What it has not painted yet would be painted in a later frame, on canvases that are gone by then: it
 * is given nothing to paint, at once, before it goes.
 */
export function endChart(chart: ECharts): void {
  chart.clear()
  chart.getZr().refreshImmediately()
  chart.dispose()
}
