import type { Page } from '@playwright/test'
import type { Loop } from '../src/core/document'
import { busyLoop } from './drawing'

/** A frame of the display, ms. */
const DISPLAY_MS = 1000 / 60
/** Number of steps of a value, and the pause after each, ms. */
const STEPS = 20
const PAUSE_MS = 600

/** Three hundred layers of two motions each. */
export function manyLoop(): Loop {
  const loop = busyLoop(300)
  return {
    ...loop,
    layers: loop.layers.map((layer, i) =>
      Object.keys(layer.motions).length > 1
        ? layer
        : {
            ...layer,
            motions: {
              ...layer.motions,
              opacity: {
                keys: [
                  { at: 0, value: 1, ease: 'ease-in-out' },
                  { at: 0.5, value: 0.5, ease: 'ease-in-out' },
                ],
                after: 'repeat' as const,
                period: { cycles: 1 + (i % 4) },
                phase: (i * 0.13) % 1,
              },
            },
          },
    ),
  }
}

/** Time that the page's own thread has been at work, s. */
async function taskClock(page: Page): Promise<() => Promise<number>> {
  const session = await page.context().newCDPSession(page)
  await session.send('Performance.enable')
  return async () => {
    const { metrics } = await session.send('Performance.getMetrics')
    return metrics.find(({ name }) => name === 'TaskDuration')?.value ?? Number.NaN
  }
}

const median = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1] as number

interface Traced {
  readonly name: string
  readonly ph: string
  readonly tid: number
  readonly pid: number
  readonly dur?: number
  readonly args?: { readonly name?: string }
}

/** The longest task of the page's own thread while something is done, ms. */
async function longestTask(page: Page, work: () => Promise<void>): Promise<number> {
  const session = await page.context().newCDPSession(page)
  const events: Traced[] = []
  session.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as Traced[])))
  await session.send('Tracing.start', { categories: 'toplevel', transferMode: 'ReportEvents' })
  await work()
  const complete = new Promise((resolve) => session.once('Tracing.tracingComplete', resolve))
  await session.send('Tracing.end')
  await complete
  await session.detach()
  const main = events.find(({ name, args }) => name === 'thread_name' && args?.name === 'CrRendererMain')
  const own = events.filter(({ ph, tid, pid }) => ph === 'X' && tid === main?.tid && pid === main?.pid)
  return Math.max(...own.map(({ dur = 0 }) => dur)) / 1000
}

/** The page's time for one step of a value, its longest task, and the time from it to the new frame on the stage; medians, ms. */
async function steps(page: Page, field: string): Promise<{ own: number; longest: number; shown: number }> {
  const clock = await taskClock(page)
  const input = page.getByRole('region', { name: 'Properties' }).getByLabel(field, { exact: true })
  await input.focus()
  const own: number[] = []
  const shown: number[] = []
  // The page's own idle work is subtracted.
  const idle = await clock()
  await page.waitForTimeout(PAUSE_MS * 4)
  const each = ((await clock()) - idle) / 4
  for (let i = 0; i < STEPS; i++) {
    const before = await clock()
    const took = page.evaluate(
      (patience) =>
        new Promise<number>((resolve, reject) => {
          const canvas = document.querySelector('[data-testid=stage] canvas')
          const late = setTimeout(() => reject(new Error('no new frame')), patience)
          let pressed = 0
          addEventListener('keydown', ({ timeStamp }) => (pressed = performance.timeOrigin + timeStamp), {
            once: true,
            capture: true,
          })
          canvas?.addEventListener(
            'shown',
            (event) => {
              clearTimeout(late)
              resolve((event as CustomEvent<number>).detail - pressed)
            },
            { once: true },
          )
        }),
      10_000,
    )
    await page.waitForTimeout(30)
    await page.keyboard.press('ArrowUp')
    shown.push(await took)
    await page.waitForTimeout(PAUSE_MS)
    own.push(((await clock()) - before - each) * 1000)
  }
  const longest: number[] = []
  for (let i = 0; i < STEPS; i++)
    longest.push(
      await longestTask(page, async () => {
        await page.keyboard.press('ArrowUp')
        await page.waitForTimeout(PAUSE_MS)
      }),
    )
  return { own: median(own), longest: median(longest), shown: median(shown) }
}

/** From a press on a motion to take, to the first frame that shows it, ms. */
async function motionPreview(page: Page): Promise<number> {
  const moves = page.getByRole('group', { name: 'Motions to take' })
  if (!(await moves.isVisible())) await page.getByText('Motions to take', { exact: true }).click()
  const times: number[] = []
  for (const name of ['Sway', 'Breathe', 'Bounce', 'Swing', 'Pulse']) {
    const button = moves.getByRole('button', { name, exact: true })
    await page.mouse.move(4, 4)
    await page.waitForTimeout(PAUSE_MS)
    const took = page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const canvas = document.querySelector('[data-testid=stage] canvas')
          let entered = 0
          addEventListener(
            'pointerover',
            ({ timeStamp, target }) => {
              if (entered === 0 && target instanceof Element && target.closest('[aria-label="Motions to take"] button'))
                entered = performance.timeOrigin + timeStamp
            },
            { capture: true },
          )
          canvas?.addEventListener('shown', (event) => {
            if (entered > 0) resolve((event as CustomEvent<number>).detail - entered)
          })
        }),
    )
    await page.waitForTimeout(30)
    await button.hover()
    times.push(await took)
  }
  await page.mouse.move(4, 4)
  return median(times)
}

/** The page's share of time while the loop plays. */
async function playingShare(page: Page): Promise<number> {
  const clock = await taskClock(page)
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await page.waitForTimeout(1500)
  const shares: number[] = []
  for (let i = 0; i < 5; i++) {
    const start = [await clock(), performance.now()] as const
    await page.waitForTimeout(2000)
    shares.push((((await clock()) - start[0]) * 1000) / (performance.now() - start[1]))
  }
  await page.getByRole('button', { name: 'Stop' }).click()
  return median(shares)
}

/** Response times: from a value or a press to the picture, with many layers. */
export async function manyRows(page: Page, open: (loop: Loop) => Promise<void>): Promise<string[]> {
  const row = (what: string, against: string, value: number, of: number, goal: string) =>
    `| ${what} | ${against} | ${value.toFixed(1)} ms | ${(value / of).toFixed(2)} | ${goal} |`
  const rows: string[] = []
  for (const loop of [busyLoop(48), manyLoop()]) {
    const motions = loop.layers.reduce((sum, { motions }) => sum + Object.keys(motions).length, 0)
    const many = `${loop.layers.length} layers, ${motions} motions`
    await open(loop)
    await page.getByRole('button', { name: 'Go to the seam' }).click()
    await page
      .getByRole('list', { name: 'Layers, front to back' })
      .getByRole('button', { name: /^(Arc|Dot|Star) \d+$/ })
      .first()
      .click()
    await page.waitForTimeout(1000)
    const { own, longest, shown } = await steps(page, 'x')
    const preview = await motionPreview(page)
    const share = await playingShare(page)
    const goal = loop.layers.length === 48 ? '≤ 2' : ''
    rows.push(
      row(`a typed step → its frame on the stage, ${many}`, 'a frame of the display', shown, DISPLAY_MS, goal),
      row(`a motion pointed at → its first frame, ${many}`, 'a frame of the display', preview, DISPLAY_MS, goal),
      row(`the longest task of the page for a typed step, ${many}`, '16 ms', longest, 16, '< 1'),
      row(`all that the page does for it within ${PAUSE_MS} ms, saving too, ${many}`, 'that time', own, PAUSE_MS, ''),
      `| playing, ${many}: main-thread time | the time that passes | ${(share * 100).toFixed(1)} % | ${share.toFixed(3)} | < 0.15 |`,
    )
  }
  return rows
}
