import type { Page } from '@playwright/test'
import { expect, frameReadout, openDemo, PLAYING, setField, test, verdict } from './app'

test.use(PLAYING)

/** The greatest channel of any pixel of the compared picture, and how much of it is not black. */
const seen = (page: Page) =>
  page
    .getByTestId('compare')
    .locator('canvas')
    .first()
    .evaluate((canvas) => {
      const { width, height } = canvas as HTMLCanvasElement
      const data = (canvas as HTMLCanvasElement).getContext('2d')?.getImageData(0, 0, width, height).data ?? []
      let greatest = 0
      let lit = 0
      for (let i = 0; i < data.length; i += 4) {
        const most = Math.max(data[i] ?? 0, data[i + 1] ?? 0, data[i + 2] ?? 0)
        greatest = Math.max(greatest, most)
        if (most > 0) lit++
      }
      return { greatest, share: lit / (width * height) }
    })

test('the difference of closing and first frame is black where the loop closes, and shows the jump where not', async ({
  page,
}) => {
  await openDemo(page)
  await page.getByRole('link', { name: 'Seam' }).click()
  await page.getByRole('button', { name: 'difference' }).click()
  await expect.poll(() => seen(page).then(({ greatest }) => greatest)).toBe(0)
  await page.getByRole('button', { name: 'last | first' }).click()
  await expect.poll(() => seen(page).then(({ greatest }) => greatest)).toBeGreaterThan(50)

  await page.getByRole('link', { name: 'Compose' }).click()
  await page.getByRole('button', { name: 'Arc', exact: true }).click()
  await setField(page.getByRole('region', { name: 'Motion' }).getByLabel('travel'), '350')
  await expect(verdict(page)).toContainText('jumps')
  await page.getByRole('link', { name: 'Seam' }).click()
  await page.getByRole('button', { name: 'difference' }).click()
  await page.getByRole('button', { name: 'closing | first' }).click()
  await expect.poll(() => seen(page).then(({ greatest }) => greatest)).toBeGreaterThan(200)
  const { share } = await seen(page)
  expect(share).toBeGreaterThan(0.002)
  expect(share).toBeLessThan(0.2)
  await expect(page.getByRole('complementary', { name: 'What is seen' })).toContainText('off by 10°')
})

test('flip shows the two frames in turn, onion skin both at once, side by side all three', async ({ page }) => {
  await openDemo(page)
  await page.getByRole('link', { name: 'Seam' }).click()
  const compare = page.getByTestId('compare')
  await expect(compare.locator('figcaption')).toHaveText([
    'last frame, 59',
    'closing frame, 60 (never written)',
    'first frame, 0',
  ])
  await page.getByRole('button', { name: 'flip', exact: true }).click()
  await setField(page.getByLabel('per second'), '0.25')
  const caption = await compare.locator('figcaption').textContent()
  await compare.getByRole('button', { name: 'Flip' }).click()
  await expect(compare.locator('figcaption')).not.toHaveText(caption ?? '')
  await page.getByRole('button', { name: 'onion skin' }).click()
  await expect(compare.locator('figcaption')).toHaveText('the closing frame and the first frame, half and half')
})

test('playing keeps the measured rate of the loop, slowly too, and only around the seam when told to', async ({
  page,
}) => {
  await openDemo(page)
  await expect(page.getByTestId('cached')).toHaveAttribute('data-count', '60')
  await page.getByRole('link', { name: 'Seam' }).click()
  await page.getByRole('button', { name: 'Play around the seam, quarter pace' }).click()
  await expect(page.getByRole('button', { name: 'Pace ¼' })).toHaveAttribute('aria-pressed', 'true')
  const rate = page.getByTestId('measured-rate')
  // A quarter of 30/s is 7.5/s.
  await expect(rate).toHaveText(/^\d\.\d\/s/)
  for (let i = 0; i < 5; i++) {
    const frame = Number(await frameReadout(page).textContent())
    expect(frame < 6 || frame >= 54, `frame ${frame} lies around the seam`).toBe(true)
    await page.waitForTimeout(150)
  }
  await page.keyboard.press('1')
  await expect(rate).toHaveText(/^\d\d\.\d\/s/)
  await page.getByRole('link', { name: 'Export' }).click()
  await expect(page.getByRole('button', { name: /GIF/ }).first()).toBeVisible()
  await page.getByRole('link', { name: 'Compose' }).click()
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
})
