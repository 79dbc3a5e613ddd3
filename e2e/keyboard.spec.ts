import type { Locator, Page } from '@playwright/test'
import { GifReader } from 'omggif'
import {
  command,
  downloadBytes,
  expect,
  expectSame,
  frameReadout,
  openDemo,
  openLibrary,
  storedLoop,
  test,
  verdict,
} from './app'

/** Presses Tab, or Shift Tab where what is looked for stands before the focus, until something has the focus. */
async function tabTo(page: Page, target: Locator) {
  const element = await target.elementHandle()
  const place = () =>
    element?.evaluate((each) => {
      const focus = document.activeElement ?? document.body
      return each === focus ? 0 : each.compareDocumentPosition(focus) & Node.DOCUMENT_POSITION_FOLLOWING ? -1 : 1
    })
  for (let i = 0; i < 150; i++) {
    const side = await place()
    if (side === 0) return
    await page.keyboard.press(side === -1 ? 'Shift+Tab' : 'Tab')
  }
  throw new Error(`the keyboard does not reach ${target}`)
}
async function press(page: Page, target: Locator) {
  await tabTo(page, target)
  await page.keyboard.press('Enter')
}
async function type(page: Page, target: Locator, text: string) {
  await tabTo(page, target)
  await page.keyboard.press('Control+a')
  await page.keyboard.type(text)
  await page.keyboard.press('Enter')
}
test('from an empty page to a proven file, with the keyboard alone', async ({ page }) => {
  test.slow()
  await openLibrary(page)
  // 1. A brief.
  await press(page, page.getByRole('button', { name: 'New loop' }))
  const brief = page.getByRole('dialog', { name: 'New loop' })
  await tabTo(page, brief.getByLabel('name'))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Quay lamp')
  await tabTo(page, brief.getByLabel('rate', { exact: true }))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('25')
  await tabTo(page, brief.getByLabel('length', { exact: true }))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('50')
  await press(page, brief.getByRole('button', { name: 'Make the loop' }))
  await expect(verdict(page)).toContainText('still')

  // 2. Draw, place, scale; layers.
  const properties = page.getByRole('region', { name: 'Properties' })
  const property = (label: string) => properties.getByLabel(label, { exact: true })
  await press(page, page.getByRole('button', { name: 'Draw: Line' }))
  await command(page, 'add in the middle: ellipse', /add in the middle: ellipse/i)
  await expect(properties.getByRole('heading')).toHaveText('Ellipse')
  await page.keyboard.press('Alt+ArrowRight')
  await expect(property('x')).toHaveValue('241')
  await type(page, property('x'), '480/2')
  await expect(property('x')).toHaveValue('240')
  await type(page, property('stroke'), '#f2b54a')
  await type(page, property('end'), '70')
  await type(page, property('scale x'), '1.5')
  await type(page, property('scale y'), '1.5')

  // 3. A motion.
  await press(page, properties.getByRole('button', { name: 'Move rotation' }))
  await expect(verdict(page)).toContainText('closes')
  await press(page, properties.getByRole('button', { name: 'Move opacity' }))

  // 4. The dial: a bead and the hand.
  const bead = page.getByRole('slider', { name: 'Ellipse, opacity, key 2', exact: true })
  await tabTo(page, bead)
  await page.keyboard.press('ArrowLeft')
  await expect(bead).toHaveAttribute('aria-valuenow', '24')
  await tabTo(page, page.getByRole('slider', { name: 'Playhead' }))
  await page.keyboard.press('Home')
  await page.keyboard.press('ArrowLeft')
  await expect(frameReadout(page)).toHaveText('49')
  await page.keyboard.press('ArrowRight')
  await expect(frameReadout(page)).toHaveText('0')

  // 5. Play, slowly, around the seam.
  await command(page, 'quarter pace', /quarter pace/i)
  await command(page, 'play only around', /play only around/i)
  await command(page, 'play or stop', /play or stop/i)
  await expect(page.getByTestId('measured-rate')).toBeVisible()
  await command(page, 'play or stop', /play or stop/i)
  await expect(page.getByTestId('measured-rate')).toHaveCount(0)

  // 6. A fault, its remedy previewed and taken; the seam compared.
  const motion = page.getByRole('region', { name: 'Motion' })
  await press(page, motion.getByRole('button', { name: 'rotation', exact: true }))
  await type(page, motion.getByLabel('travel'), '350')
  await expect(verdict(page)).toContainText('jumps')
  const remedy = 'Travel 360° per cycle instead of 350°'
  await press(page, motion.getByRole('button', { name: `Preview: ${remedy}` }))
  await expect(verdict(page)).toContainText('in the preview')
  await press(page, motion.getByRole('button', { name: `Take: ${remedy}` }))
  await expect(verdict(page)).toContainText('closes')
  await page.keyboard.press('Control+z')
  await expect(verdict(page)).toContainText('jumps')
  await page.keyboard.press('Control+Shift+z')
  await expect(verdict(page)).toContainText('closes')
  await page.keyboard.press('Shift+s')
  for (const mode of ['flip', 'difference', 'onion skin']) {
    await press(page, page.getByRole('button', { name: mode, exact: true }))
    await expect(page.getByTestId('compare')).toHaveAttribute('data-mode', mode)
  }

  // 8. Back again: all is there; saved to a file.
  const stored = await storedLoop(page)
  await page.reload()
  await expect(verdict(page)).toContainText('closes')
  const [project] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Control+s')])
  expectSame((await downloadBytes(project)).toString('utf8'), stored)

  // 7. The file and its proof.
  await page.keyboard.press('Shift+x')
  await press(page, page.getByRole('button', { name: 'Write the GIF and prove it' }))
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  await tabTo(page, page.getByRole('button', { name: 'Save the GIF' }))
  const [gif] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Enter')])
  expect(new GifReader(await downloadBytes(gif)).numFrames()).toBe(50)
})

test('the shortcut sheet shows on ?', async ({ page }) => {
  await openLibrary(page)
  await press(page, page.getByRole('link', { name: 'Beacon loader' }))
  await expect(verdict(page)).toContainText('closes')
  await page.keyboard.press('Shift+?')
  const sheet = page.getByRole('dialog', { name: 'Shortcuts' })
  await expect(sheet).toContainText('Go to the seam (frame 0)')
  await page.keyboard.press('Escape')
  await expect(sheet).toBeHidden()
})

test('F6 walks from panel to panel, and back', async ({ page }) => {
  await openDemo(page, 'Beacon loader')
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Arc', exact: true }).click()
  const panels = async (keys: string, times: number) => {
    const seen: string[] = []
    for (let n = 0; n < times; n++) {
      await page.keyboard.press(keys)
      seen.push(
        await page.evaluate(
          () =>
            document.activeElement
              ?.closest('nav[aria-label], section[aria-label], aside[aria-label]')
              ?.getAttribute('aria-label') ?? '',
        ),
      )
    }
    return seen
  }
  const on = await panels('F6', 12)
  for (const name of ['Motion', 'Properties', 'Seam', 'Views', 'Layers']) expect(on).toContain(name)
  // As many steps back lead where they began.
  const at = on.at(-2)
  expect(await panels('Shift+F6', 1)).toEqual([at])
})
