import type { Page } from '@playwright/test'
import { expect, frameReadout, openDemo, setField, test } from './app'

const layer = (page: Page, name: string) => page.getByRole('button', { name, exact: true })
const value = (page: Page, label: string) =>
  page.getByRole('region', { name: 'Properties' }).getByLabel(label, { exact: true })

async function stageBox(page: Page) {
  const box = await page.getByTestId('stage').locator('svg').boundingBox()
  if (!box) throw new Error('the stage is not there')
  return (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const
}

test('layers are selected by a box, moved with guides that show distances, and Esc takes a drag back', async ({
  page,
}) => {
  await openDemo(page, 'Boarding buoys')
  const at = await stageBox(page)
  await page.mouse.move(...at(0.02, 0.1))
  await page.mouse.down()
  await page.mouse.move(...at(0.3, 0.5))
  await page.mouse.move(...at(0.55, 0.72))
  await page.mouse.up()
  for (const name of ['Buoy 1', 'Buoy 2', 'Buoy 3'])
    await expect(layer(page, name)).toHaveAttribute('aria-pressed', 'true')
  await expect(layer(page, 'Buoy 5')).toHaveAttribute('aria-pressed', 'false')

  await layer(page, 'Waterline').click()
  await page.mouse.move(...at(0.5, 0.8))
  await page.mouse.down()
  await page.mouse.move(...at(0.5, 0.6))
  await page.mouse.move(...at(0.505, 0.504))
  await expect(value(page, 'y')).toHaveValue('120')
  await expect(page.getByTestId('stage').locator('text').first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expect(value(page, 'y')).toHaveValue('192')
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
})

test('a handle snaps to the edge of the frame while it scales', async ({ page }) => {
  await openDemo(page)
  await layer(page, 'Lamp').click()
  const handle = await page.getByTestId('stage').locator('[data-handle="scale 1 0"]').boundingBox()
  const at = await stageBox(page)
  if (!handle) throw new Error('no handle')
  await page.mouse.move(handle.x + 4, handle.y + 4)
  await page.mouse.down()
  await page.mouse.move(...at(0.9, 0.5))
  await page.mouse.move(at(1, 0.5)[0] + 3, at(1, 0.5)[1])
  await page.mouse.up()
  // 240 px from the pivot to the edge of the frame; half of the lamp's width is 42.
  await expect(value(page, 'scale x')).toHaveValue('5.714')
})

test('the frame is drawn larger about the pointer, and as a whole again', async ({ page }) => {
  await openDemo(page)
  const percent = page.getByTestId('stage').getByRole('button')
  const before = Number.parseInt((await percent.textContent()) ?? '', 10)
  const at = await stageBox(page)
  await page.mouse.move(...at(0.25, 0.25))
  await page.keyboard.down('Control')
  await page.mouse.wheel(0, -208)
  await page.keyboard.up('Control')
  await expect(percent).toHaveText(new RegExp(`${2 * before}|${2 * before + 1}|${2 * before - 1}`))
  const larger = await stageBox(page)
  // The wheel's place is told in whole pixels.
  for (const i of [0, 1] as const) expect(Math.abs(larger(0.25, 0.25)[i] - at(0.25, 0.25)[i])).toBeLessThan(1.5)
  await page.keyboard.press('0')
  await expect(percent).toHaveText(`${before} %`)
})

test('Space plays after a click on a button, and undo works from a field', async ({ page }) => {
  await openDemo(page)
  await layer(page, 'Lamp').click()
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await page.keyboard.press('Space')
  await page.keyboard.press('Home')
  await expect(frameReadout(page)).toHaveText('0')
  const opacity = value(page, 'opacity')
  await setField(value(page, 'y'), '200')
  await opacity.fill('5')
  await page.keyboard.press('Control+z')
  await expect(value(page, 'y')).toHaveValue('200')
  await opacity.press('Escape')
  await page.keyboard.press('Control+z')
  await expect(value(page, 'y')).toHaveValue('240')
})
