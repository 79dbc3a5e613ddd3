import type { Page } from '@playwright/test'
import sharp from 'sharp'
import { bringDemoLoops, drawnPixels, expect, openDemo, openFileView, PLAYING, storedLoop, test, verdict } from './app'
import { drop, fixture } from './clips'

test.use(PLAYING)

test('workers that die are started again, and the loop stays as it was', async ({ page }) => {
  await openDemo(page)
  const canvas = page.getByTestId('stage').locator('canvas')
  await expect(canvas).toHaveCount(1)
  // All of them are at work.
  await expect(page.getByTestId('cached')).toHaveAttribute('data-count', '60')
  // They end without a word, as they do when the browser runs out of memory.
  for (const worker of page.workers()) await worker.evaluate(() => self.close()).catch(() => {})
  await expect(page.getByText('The drawing of the loop broke down and was started again')).toBeVisible()
  await expect(canvas).toHaveCount(1)
  await page.getByRole('button', { name: 'Arc', exact: true }).click()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('button', { name: 'Arc', exact: true })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Arc', exact: true })).toBeVisible()
  // The pictures are judged by a new worker, too.
  await expect(verdict(page)).toContainText('closes')
})

test('thumbnails go on playing, and verdicts come, when the workers that draw and judge have died', async ({
  page,
}) => {
  // The stored verdicts are left out, so that the loops must be judged.
  test.setTimeout(400_000)
  await bringDemoLoops(page, ['Beacon loader', 'Boarding buoys', 'Lens sweep', 'Tide gauge', 'Winch chain'], {})
  await page.goto('/')
  const card = page.getByRole('link', { name: 'Beacon loader' })
  const canvas = card.locator('canvas')
  const judged = card.getByText('being judged')
  await expect(canvas).toHaveCount(1)
  // Both workers have started: one has drawn, the other has judged the first card.
  await expect.poll(() => canvas.evaluate(drawnPixels)).toBeGreaterThan(0)
  await expect(judged).toHaveCount(0)
  await canvas.evaluate((element) => element.setAttribute('data-old', 'true'))
  const waiting = page.getByRole('link').filter({ hasText: 'being judged' })
  const next = (await waiting.first().getByRole('heading').textContent()) ?? ''
  for (const worker of page.workers()) await worker.evaluate(() => self.close()).catch(() => {})
  await expect(canvas).not.toHaveAttribute('data-old')
  await expect(canvas).toHaveCount(1)
  // One that nobody had looked at is looked at by the next worker.
  await expect(waiting.filter({ hasText: next })).toHaveCount(0)
})

test('the view of a file has a way back, by a link and by a key', async ({ page }) => {
  await openDemo(page)
  await page.goto('/file')
  await page.getByRole('navigation', { name: 'Back' }).getByRole('link', { name: 'Library' }).click()
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible()
  await page.getByRole('link', { name: 'Footage' }).click()
  await expect(page.getByTestId('file-view')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible()
})

test('a field lets go of the keys after Enter, and says what it refuses', async ({ page }) => {
  await openDemo(page)
  await page.getByRole('button', { name: 'Arc', exact: true }).click()
  const width = page.getByRole('region', { name: 'Properties' }).getByLabel('width', { exact: true }).first()
  await width.fill('200')
  await width.press('Enter')
  await expect(width).not.toBeFocused()
  await expect(width).toHaveValue('200')
  await width.fill('-4')
  await width.press('Enter')
  await expect(page.getByText('“-4” is too little: at least 0')).toBeVisible()
  await expect(width).toHaveValue('-4')
  await width.press('Escape')
  await expect(width).toHaveValue('200')
})

/** Takes the pointer away in the middle of a drag, as the system does: told to what it lies on. */
const takePointerAway = (page: Page, x: number, y: number) =>
  page.evaluate(
    ([left, top]) => {
      const at = document.elementFromPoint(left ?? 0, top ?? 0)
      at?.dispatchEvent(new PointerEvent('pointercancel', { pointerId: 1, bubbles: true }))
    },
    [x, y],
  )

test('a drag that the system ends is as if it had not been, and undo goes on', async ({ page }) => {
  await openDemo(page)
  await page.getByRole('button', { name: 'Arc', exact: true }).click()
  const before = await storedLoop(page)
  const undo = page.getByRole('button', { name: 'Undo', exact: true })
  await expect(undo).toBeDisabled()
  const bead = page.locator('[aria-label=Dial]').getByRole('slider').nth(1)
  const canvas = page.getByTestId('stage')
  const label = page
    .getByRole('region', { name: 'Properties' })
    .locator('label', { hasText: /^width$/ })
    .first()
  for (const target of [bead, canvas, label]) {
    const box = await target.boundingBox()
    if (!box) throw new Error('it is not on the page')
    const x = box.x + box.width / 2
    const y = box.y + box.height / 2
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + 30, y + 40, { steps: 4 })
    await takePointerAway(page, x + 30, y + 40)
    await page.mouse.up()
    await expect(undo).toBeDisabled()
    expect(await storedLoop(page)).toEqual(before)
  }
  await page.getByRole('button', { name: 'Arc', exact: true }).click()
  await page.keyboard.press('Delete')
  await expect(undo).toBeEnabled()
  await undo.click()
  await expect(undo).toBeDisabled()
  expect(await storedLoop(page)).toEqual(before)
})

test('a view that goes away in the middle of a drag leaves undo as it was', async ({ page }) => {
  await openDemo(page)
  const before = await storedLoop(page)
  const bead = page.locator('[aria-label=Dial]').getByRole('slider').nth(1)
  const box = await bead.boundingBox()
  if (!box) throw new Error('it is not on the page')
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + 40, box.y + 30, { steps: 4 })
  await page.evaluate(() => document.querySelector<HTMLAnchorElement>('nav[aria-label=Views] a[href$="/fit"]')?.click())
  await expect(page).toHaveURL(/fit$/)
  await page.mouse.up()
  await page.keyboard.press('Control+z')
  await expect.poll(() => storedLoop(page)).toEqual(before)
  await page.keyboard.press('Control+Shift+z')
  await expect.poll(() => storedLoop(page)).not.toEqual(before)
})

test('media that have gone are named in the layers and on the stage, and no file with a hole is called proven', async ({
  page,
}) => {
  await openDemo(page)
  const create = { width: 40, height: 30, channels: 3, background: '#c8553d' } as const
  await drop(page, 'pier.png', await sharp({ create }).png().toBuffer(), 'image/png')
  await page.getByRole('region', { name: 'Layers' }).getByText('pier').first().waitFor()
  await storedLoop(page)
  // As when the browser has cleared its storage in part.
  await page.goto('/file')
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open('cyclon')
        open.onsuccess = () => {
          const clear = open.result.transaction('assets', 'readwrite').objectStore('assets').clear()
          clear.onsuccess = () => {
            open.result.close()
            resolve()
          }
        }
      }),
  )
  await page.goto('/')
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await expect(page.getByText('file missing')).toBeVisible()
  await expect(page.getByTestId('stage').getByText('pier')).toBeVisible()
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText(/“pier” is missing or cannot be decoded/).first()).toBeVisible()
  await expect(page.getByTestId('proof')).toHaveCount(0)
})

/** How many files the browser keeps beside its loops. */
const kept = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        const open = indexedDB.open('cyclon')
        open.onsuccess = () => {
          const count = open.result.transaction('assets').objectStore('assets').count()
          count.onsuccess = () => {
            open.result.close()
            resolve(count.result)
          }
        }
      }),
  )

test('a deleted loop comes back with its picture; deleted for good, its file is let go', async ({ page }) => {
  await openDemo(page, 'Beacon loader', 'Bunting stripes')
  const create = { width: 40, height: 30, channels: 3, background: '#c8553d' } as const
  await drop(page, 'pier.png', await sharp({ create }).png().toBuffer(), 'image/png')
  const shown = page.getByRole('region', { name: 'Layers' }).getByText('pier').first()
  await shown.waitFor()
  await storedLoop(page)
  await page.goto('/')
  const before = await kept(page)
  await page.getByRole('listitem').filter({ hasText: 'Beacon loader' }).hover()
  await page.getByRole('button', { name: 'Delete Beacon loader' }).click()
  await expect(page.getByRole('link', { name: 'Beacon loader' })).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('button', { name: 'Trash, 1' })).toBeVisible()
  expect(await kept(page)).toBe(before)
  await page.getByRole('button', { name: 'Trash, 1' }).click()
  await page.getByRole('button', { name: 'Bring back' }).click()
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await shown.waitFor()
  await page.reload()
  await shown.waitFor()
  await page.keyboard.press('Control+Enter')
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  await page.goto('/')
  await page.getByRole('button', { name: 'Delete Beacon loader' }).click()
  await page.getByRole('button', { name: 'Trash, 1' }).click()
  await page.getByRole('button', { name: 'Delete for good' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click()
  await expect(page.getByText('The trash is empty.')).toBeVisible()
  await page.reload()
  await expect(page.getByRole('link', { name: 'Bunting stripes' })).toBeVisible()
  await expect.poll(() => kept(page)).toBe(before - 1)
})

test('damaged videos are refused or shown, and what was open stays', async ({ page }) => {
  test.slow()
  await openFileView(page)
  const view = page.getByTestId('file-view')
  const sound = fixture('lamp.mp4')
  await drop(page, 'lamp.mp4', sound, 'video/mp4')
  await expect(view).toContainText('lamp.mp4')
  // The same faults in every run.
  let seed = 7
  const random = (below: number) => {
    seed = (seed * 1103515245 + 12345) % 2147483648
    return seed % below
  }
  let refused = 0
  for (let i = 0; i < 24; i++) {
    const name = i % 2 === 0 ? 'lamp.mp4' : 'lamp.webm'
    const bytes = new Uint8Array(fixture(name))
    const cut = i % 3 === 0 ? bytes.slice(0, 12 + random(bytes.length - 12)) : bytes
    if (i % 3 !== 0) for (let k = 0; k < 1 + random(30); k++) cut[12 + random(cut.length - 12)] = random(256)
    await drop(page, `torn-${i}.${name.slice(5)}`, cut, 'video/mp4')
    // It is open, or it is said why not.
    const refusal = view.getByRole('alert')
    const opened = view.getByRole('heading', { level: 1, name: `torn-${i}.` })
    await expect(opened.or(refusal)).toBeVisible()
    if (await refusal.isVisible()) {
      refused++
      expect(((await refusal.textContent()) ?? '').length).toBeGreaterThan(30)
      await refusal.getByRole('button', { name: 'Close' }).click()
      await expect(refusal).toHaveCount(0)
    }
  }
  expect(refused).toBeGreaterThan(4)
  await drop(page, 'whole.mp4', sound, 'video/mp4')
  await expect(view).toContainText('whole.mp4')
})

test('a video that has its reader go on without an end is refused, and what was open stays', async ({ page }) => {
  await page.clock.install()
  await openFileView(page)
  const view = page.getByTestId('file-view')
  await drop(page, 'lamp.mp4', fixture('lamp.mp4'), 'video/mp4')
  await expect(view.getByRole('heading', { level: 1, name: 'lamp.mp4' })).toBeVisible()
  // The list behind its pictures (RFC 9559, Cues) begins with no name that there is.
  const endless = new Uint8Array(fixture('lamp.webm'))
  endless.fill(0xff, endless.lastIndexOf(0x1c), endless.lastIndexOf(0x1c) + 4)
  await drop(page, 'wake.webm', endless, 'video/webm')
  await expect(view).toContainText('Reading wake.webm')
  // Given up by hand, or by itself after a minute without an answer: the clock of the page is put on.
  await view.getByRole('button', { name: 'Cancel' }).click()
  await expect(view.getByRole('alert')).toContainText('It was cancelled.')
  await drop(page, 'wake.webm', endless, 'video/webm')
  await expect(view).toContainText('Reading wake.webm')
  await expect(async () => {
    await page.clock.fastForward(5_001)
    await expect(view.getByRole('alert')).toContainText('wake.webm is damaged: reading', { timeout: 300 })
  }).toPass({ intervals: [50] })
  await expect(view.getByRole('heading', { level: 1, name: 'lamp.mp4' })).toBeVisible()
})
