import { readFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { drawnPixels, expect, openDemo, openFileView, openLibrary, PLAYING, setField, test, verdict } from './app'
import { drop, fixture } from './clips'

test.use(PLAYING)

/** Violations of a page against some rules, or all. */
async function broken(page: Page, rules?: string[]): Promise<string[]> {
  const builder = new AxeBuilder({ page })
  const { violations, passes, incomplete } = await (rules ? builder.withRules(rules) : builder).analyze()
  expect(passes.length + incomplete.length).toBeGreaterThan(0)
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(' | ')}`)
}

/** All rules in the night theme; then, on the same page, those of colour in the day theme, since nothing else differs. */
const scan = async (page: Page) => {
  const wear = (theme: string) =>
    page.evaluate(async (name) => {
      document.documentElement.setAttribute('data-theme', name)
      // Colours go over into each other; between the two they are of neither theme.
      await new Promise(requestAnimationFrame)
      await Promise.allSettled(document.getAnimations().map(({ finished }) => finished))
    }, theme)
  expect(await broken(page), 'in the night theme').toEqual([])
  await wear('day')
  expect(await broken(page, ['color-contrast']), 'in the day theme').toEqual([])
  await wear('night')
}

/** A GIF that does not ask to be repeated: one whose application extension has another name. */
function playsOnce(): Buffer {
  const file = readFileSync(new URL('fixtures/lamp.gif', import.meta.url))
  file.write('NOTHING', file.indexOf('NETSCAPE2.0'), 'latin1')
  return file
}

test.describe('axe finds nothing, by night and by day,', () => {
  test.beforeEach(({ page }) => page.addInitScript(() => localStorage.setItem('theme', 'night')))

  test('in the library and the brief', async ({ page }) => {
    await openLibrary(page, 'Tide gauge', 'Capstan', 'Spindrift')
    await page.getByRole('button', { name: 'Delete Tide gauge' }).click()
    await page.getByRole('button', { name: 'Trash, 1' }).click()
    await expect(page.getByRole('region', { name: 'Trash' })).toBeVisible()
    await page.getByLabel('Choose Beacon loader').check()
    await scan(page)
    await page.getByRole('button', { name: 'Name and note of Beacon loader' }).click()
    await expect(page.getByRole('dialog')).toBeVisible()
    await scan(page)
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'New loop' }).click()
    await expect(page.getByRole('dialog')).toBeVisible()
    await scan(page)
  })
  test('in Compose, with a motion at fault', async ({ page }) => {
    await openDemo(page)
    await page.getByRole('button', { name: 'Arc', exact: true }).click()
    await scan(page)
    await setField(page.getByRole('region', { name: 'Motion' }).getByLabel('travel'), '350')
    await expect(verdict(page)).toContainText('jumps')
    await scan(page)
    await page.getByRole('button', { name: /of 4 home/ }).click()
    await scan(page)
  })
  test('in Fit, with a count that breaks, and in the making of a variant', async ({ page }) => {
    await openDemo(page, 'Lens sweep')
    await page.getByRole('link', { name: 'Fit' }).click()
    await setField(page.getByLabel('Cycles of Slow cloud, moved along by'), '2.5')
    await expect(page.getByRole('alert').filter({ hasText: 'in mid-cycle' })).toBeVisible()
    await scan(page)
    await page.getByRole('button', { name: 'Make a variant' }).click()
    await expect(page.getByRole('dialog', { name: 'A variant of Lens sweep' })).toBeVisible()
    await scan(page)
  })
  test('in Seam', async ({ page }) => {
    await openDemo(page)
    await page.getByRole('link', { name: 'Seam' }).click()
    await page.getByRole('button', { name: 'difference' }).click()
    await expect(page.getByTestId('compare')).toHaveAttribute('data-mode', 'difference')
    await scan(page)
  })
  test('in Export, with a proof', async ({ page }) => {
    await openDemo(page)
    await page.getByRole('link', { name: 'Export' }).click()
    await scan(page)
    await setField(page.getByLabel('size', { exact: true }), '0.25')
    await page.getByRole('button', { name: 'Write the GIF and prove it' }).click()
    await expect(page.getByTestId('proof')).toBeVisible()
    await scan(page)
  })
  test('in Footage, empty and with loops, ways, camera and pace of a clip', async ({ page }) => {
    await openFileView(page)
    await scan(page)
    await drop(page, 'lamp.gif', fixture('lamp.gif'), 'image/gif')
    await expect(page.getByRole('heading', { name: 'lamp.gif' })).toBeVisible()
    for (const name of ['Camera and light', 'Loops in it', 'Ways to close it', 'Pace'])
      await page.locator('summary', { hasText: name }).click()
    await expect(page.getByTestId('cut-map')).toBeVisible()
    const ways = page.getByRole('list', { name: 'Ways to close it' })
    await expect(ways).not.toContainText('looking')
    await page.getByRole('button', { name: 'Even out its light' }).click()
    await expect(page.getByRole('button', { name: 'Start afresh' })).toBeVisible()
    await expect(ways).not.toContainText('looking')
    await scan(page)
  })

  test('in the seam of a file, with findings and a mend', async ({ page }) => {
    await openFileView(page)
    await scan(page)
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Open a file' }).click()
    await (await chooser).setFiles({ name: 'lamp.gif', mimeType: 'image/gif', buffer: playsOnce() })
    await page.getByRole('button', { name: 'Repeat for ever' }).click()
    await expect(page.getByText('set to repeat for ever')).toBeVisible()
    await scan(page)
  })
  test('in the command list and the shortcut sheet', async ({ page }) => {
    await openDemo(page)
    await page.keyboard.press('Control+k')
    await scan(page)
    await page.keyboard.press('Escape')
    await page.keyboard.press('Shift+?')
    await expect(page.getByRole('dialog', { name: 'Shortcuts' })).toBeVisible()
    await scan(page)
  })
})

test('from 1024 to 2560 px nothing scrolls sideways, and nothing is cut off', async ({ page }) => {
  await openDemo(page)
  for (const [width, height] of [
    [1024, 700],
    [1920, 1080],
    [2560, 1440],
  ] as const) {
    await page.setViewportSize({ width, height })
    for (const view of ['Compose', 'Fit', 'Seam', 'Export']) {
      await page.getByRole('link', { name: view, exact: true }).click()
      await expect(page.getByRole('link', { name: view, exact: true })).toHaveAttribute('aria-current', 'page')
      const beyond = await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('button, input, select, h1, h2, p, label')]
          .filter((each) => each.checkVisibility() && each.closest('.overflow-x-auto') === null)
          .filter((each) => {
            const { left, right, width: wide } = each.getBoundingClientRect()
            return wide > 0 && !each.classList.contains('sr-only') && (right > innerWidth + 1 || left < -1)
          })
          .map((each) => each.textContent || each.getAttribute('aria-label')),
      )
      expect(beyond, `${view} at ${width}`).toEqual([])
    }
  }
})

test('at twice the size everything is still reached: a value is changed and a file is written', async ({ page }) => {
  // 200 % of a window of 1280 × 800.
  await page.setViewportSize({ width: 640, height: 400 })
  await openDemo(page)
  await page
    .getByRole('list', { name: 'Layers, front to back' })
    .getByRole('button', { name: 'Arc', exact: true })
    .click()
  await setField(page.getByRole('region', { name: 'Properties' }).getByLabel('opacity', { exact: true }), '50')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('region', { name: 'Properties' }).getByLabel('opacity', { exact: true })).toHaveValue(
    '100',
  )
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size'), '0.25')
  await page.getByRole('button', { name: 'Write the GIF and prove it' }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  await page.getByRole('button', { name: 'Save the GIF' }).click()
})

test('nothing plays by itself where less motion is asked for', async ({ page }) => {
  const looks = new Set<string>()
  const card = page.getByRole('listitem').filter({ hasText: 'Beacon loader' }).first().locator('canvas')
  /** Number of different pictures that a card has shown. */
  const pictures = async () => {
    looks.add((await card.screenshot({ animations: 'allow' })).toString('base64'))
    return looks.size
  }
  await openLibrary(page)
  await expect.poll(pictures).toBeGreaterThanOrEqual(4)
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await openLibrary(page)
  // It is drawn, and two looks in turn see the same: it has the size that it keeps.
  await expect.poll(() => card.evaluate(drawnPixels)).toBeGreaterThan(0)
  await expect
    .poll(async () => {
      looks.clear()
      await pictures()
      return pictures()
    })
    .toBe(1)
  for (let n = 0; n < 20; n++) expect(await pictures()).toBe(1)
})
