import { readFile } from 'node:fs/promises'
import type { Browser, Page } from '@playwright/test'

/** Rounds that are watched. */
const ROUNDS = 12

interface Shown {
  /** When the frame was to be seen, ms. */
  readonly at: number
  /** Its place in the file, s. */
  readonly media: number
}

const median = (values: readonly number[]) => values.toSorted((a, b) => a - b)[values.length >> 1] as number

/** Plays a video again and again, by the lines that the application offers, and says how long its last frame is held in the middle, against the others. */
async function heldAtSeam(page: Page, bytes: Buffer, type: string): Promise<{ seam: number; frame: number }> {
  const shown = await page.evaluate(
    async ([base64, mime, rounds]) => {
      const file = await (await fetch(`data:${mime};base64,${base64}`)).blob()
      const video = Object.assign(document.createElement('video'), {
        loop: true,
        muted: true,
        autoplay: true,
        playsInline: true,
      })
      video.src = URL.createObjectURL(file)
      document.body.prepend(video)
      await video.play()
      const seen: Shown[] = []
      await new Promise<void>((resolve, reject) => {
        setTimeout(() => reject(new Error(`${seen.length} frames were shown`)), 60_000)
        let turns = 0
        const look: VideoFrameRequestCallback = (_, { expectedDisplayTime, mediaTime }) => {
          if (mediaTime < (seen.at(-1)?.media ?? 0)) turns++
          seen.push({ at: expectedDisplayTime, media: mediaTime })
          if (turns > (rounds as number)) resolve()
          else video.requestVideoFrameCallback(look)
        }
        video.requestVideoFrameCallback(look)
      })
      video.remove()
      return seen
    },
    [bytes.toString('base64'), type, ROUNDS] as const,
  )
  const steps = shown
    .slice(1)
    .map(({ at, media }, i) => ({ held: at - (shown[i] as Shown).at, seam: media < (shown[i] as Shown).media }))
  const of = (seam: boolean) => median(steps.filter((each) => each.seam === seam).map(({ held }) => held))
  return { seam: of(true), frame: of(false) }
}

/** How long videos hold between their rounds in this browser. */
export async function roundRows(page: Page, home: string): Promise<string[]> {
  const rows: string[] = []
  await page.goto(home)
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await page.getByRole('link', { name: 'Export' }).click()
  for (const [format, type] of [
    ['MP4', 'video/mp4'],
    ['WebM', 'video/webm'],
  ] as const) {
    await page.getByRole('button', { name: format, exact: true }).click()
    await page.getByRole('button', { name: `Write the ${format} and prove it` }).click()
    await page.locator('[data-testid=proof][data-holds=true]').waitFor({ timeout: 60_000 })
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save the file' }).click(),
    ])
    const other = await (page.context().browser() as Browser).newPage()
    // The page lacks the helper that tsx wraps around named functions.
    await other.addInitScript('globalThis.__name = (named) => named')
    await other.goto(home)
    const { seam, frame } = await heldAtSeam(other, await readFile(await file.path()), type)
    await other.close()
    rows.push(
      `| ${format} that repeats in this browser: its last frame is held, median of ${ROUNDS} rounds | its other frames | ${seam.toFixed(1)} ms against ${frame.toFixed(1)} ms | ${(seam / frame).toFixed(2)} | ≤ 2 |`,
    )
  }
  return rows
}
