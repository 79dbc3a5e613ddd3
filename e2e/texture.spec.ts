import { expect, openLibrary, storedLoop, test, verdict } from './app'

type Stored = {
  kind: string
  layers: { kind: string; values: Record<string, number>; motions: Record<string, unknown> }[]
}

test('a moving background that tiles: three actions from the brief, then a proven file', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByLabel(/^texture/).check()
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await expect(verdict(page)).toContainText('closes')
  const loop = (await storedLoop(page)) as unknown as Stored
  expect(loop.kind).toBe('texture')
  expect(loop.layers.map(({ kind }) => kind)).toEqual(['texture'])
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: /^Write the GIF/ }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
})

test('what a value of a texture does is told by pictures, which take it; half a tile of drift is named', async ({
  page,
}) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByLabel(/^texture/).check()
  await page.getByRole('button', { name: 'Bands' }).click()
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Bands', exact: true }).click()
  const panel = page.getByRole('region', { name: 'Properties' })
  await expect(panel.getByText(/It tiles in x, y and time/)).toBeVisible()
  await panel.getByRole('button', { name: 'warp 200 %' }).click()
  await expect.poll(async () => ((await storedLoop(page)) as unknown as Stored).layers[0]?.values.warp).toBe(2)
  await panel.getByRole('button', { name: 'Show the motion of drift across' }).click()
  const travel = page.getByRole('region', { name: 'Motion' }).getByLabel('travel')
  await travel.fill('0.5')
  await travel.press('Enter')
  await expect(verdict(page)).toContainText('jumps')
  await expect(verdict(page)).toContainText('0.5 tiles')
})
