import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import { downloadBytes, expect, openDemo, setField, test } from './app'

const PLAYER = readFileSync(createRequire(import.meta.url).resolve('lottie-web/build/player/lottie.min.js'))
const TYPES: Readonly<Record<string, string>> = {
  gif: 'image/gif',
  png: 'image/png',
  webp: 'image/webp',
  svg: 'image/svg+xml',
  mp4: 'video/mp4',
  webm: 'video/webm',
  json: 'application/json',
}

/** Writes the open loop in a format, and takes the lines for a page that are offered first, with the file. */
async function linesFor(page: Page, format: string) {
  const panel = page.getByRole('region', { name: 'On a page' })
  await page.getByRole('button', { name: format, exact: true }).click()
  await page.getByRole('button', { name: `Write the ${format} and prove it` }).click()
  await expect(page.getByTestId('proof')).toHaveCount(0)
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /^Save the (GIF|file)$/ }).click(),
  ])
  const lines = (await panel.getByTestId('page-lines').textContent()) ?? ''
  return { name: file.suggestedFilename(), bytes: await downloadBytes(file), lines }
}

/** Opens a page that has the lines in it, with the file beside it. */
async function pageWith(page: Page, { name, bytes, lines }: Awaited<ReturnType<typeof linesFor>>) {
  const other = await page.context().newPage()
  await other.route('**/beside/**', (route) => {
    const asked = decodeURIComponent(new URL(route.request().url()).pathname.split('/').at(-1) ?? '')
    const body = `<!doctype html><meta charset="utf-8"><style>body{margin:0;background:#fff}</style>${lines}`
    if (asked === 'index.html') return route.fulfill({ contentType: 'text/html', body })
    if (asked === 'lottie.min.js') return route.fulfill({ contentType: 'text/javascript', body: PLAYER })
    return asked === name
      ? route.fulfill({ contentType: TYPES[name.split('.').at(-1) ?? ''] ?? '', body: bytes })
      : route.fulfill({ status: 404, body: '' })
  })
  await other.goto('/beside/index.html')
  return other
}

/** Looks at a page until it has shown something else than at first, and that again, twice. */
async function comesBackTwice(other: Page): Promise<void> {
  const look = async () =>
    (await other.screenshot({ clip: { x: 0, y: 0, width: 240, height: 240 } })).toString('base64')
  const first = await look()
  const seen = new Map<string, number>()
  let changes = 0
  let last = first
  await expect
    .poll(
      async () => {
        const now = await look()
        if (now !== last) {
          changes++
          seen.set(now, (seen.get(now) ?? 0) + 1)
        }
        last = now
        return changes > 4 && [...seen.values()].some((times) => times >= 2)
      },
      { intervals: [10] },
    )
    .toBe(true)
}

test('the lines for a page play pictures and vectors that come again', async ({ page }) => {
  test.slow()
  await openDemo(page, 'Bunting stripes')
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size'), '0.5')
  for (const format of ['GIF', 'SVG', 'Lottie']) {
    const other = await pageWith(page, await linesFor(page, format))
    await comesBackTwice(other)
    await other.close()
  }
})

test('the lines for a page play a video twice by itself, muted, without an end', async ({ page }) => {
  test.slow()
  await openDemo(page, 'Beacon loader')
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size'), '0.5')
  for (const format of ['MP4', 'WebM']) {
    const other = await pageWith(page, await linesFor(page, format))
    const played = await other.evaluate(
      () =>
        new Promise<{ wraps: number; ended: boolean; muted: boolean; frames: number }>((resolve, reject) => {
          const video = document.querySelector('video')
          if (!video) return reject(new Error('there is no video'))
          let last = -1
          let wraps = 0
          let frames = 0
          let ended = false
          video.addEventListener('ended', () => {
            ended = true
          })
          video.addEventListener('pause', () => {
            ended = true
          })
          const next = (_: number, { mediaTime }: { mediaTime: number }) => {
            frames++
            if (mediaTime < last) wraps++
            last = mediaTime
            if (wraps === 2) resolve({ wraps, ended, muted: video.muted, frames })
            else video.requestVideoFrameCallback(next)
          }
          video.requestVideoFrameCallback(next)
        }),
    )
    expect(played).toMatchObject({ wraps: 2, ended: false, muted: true })
    // Of sixty frames a round some are not shown where the machine is slow.
    expect(played.frames).toBeGreaterThan(10)
    await other.close()
  }
})
