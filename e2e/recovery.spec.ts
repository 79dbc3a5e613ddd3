import { expect, openDemo, test, verdict } from './app'

test('workers that die are started again, and the loop stays as it was', async ({ page }) => {
  await openDemo(page)
  const canvas = page.getByTestId('stage').locator('canvas')
  await expect(canvas).toHaveCount(1)
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

test('the view of a file has a way back, by a link and by a key', async ({ page }) => {
  await openDemo(page)
  await page.goto('/file')
  await page.getByRole('navigation', { name: 'Back' }).getByRole('link', { name: 'Library' }).click()
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible()
  await page.getByRole('link', { name: 'Any file’s seam' }).click()
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
