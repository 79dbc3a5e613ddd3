import sharp from 'sharp'
import { expect, openLibrary, storedLoop, test, verdict } from './app'

type Stored = {
  kind: string
  layers: { kind: string; values: Record<string, number>; motions: Record<string, unknown> }[]
}

test('a moving background that tiles: three actions from the brief, then a proven file', async ({ page }) => {
  test.slow()
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
  await page.getByRole('button', { name: 'Bands', exact: true }).click()
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
  await expect(page.getByText(/0\.5 tiles away/).first()).toBeVisible()
})

test('spray over a still, from the brief: the loop has the size of the picture, and half a tile is refused in words', async ({
  page,
}) => {
  test.slow()
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByLabel(/^cinemagraph/).check()
  const create = { width: 320, height: 180, channels: 3, background: '#33505c' } as const
  const still = await sharp({ create }).png().toBuffer()
  await page.getByLabel(/^its still/).setInputFiles({ name: 'breakwater.png', mimeType: 'image/png', buffer: still })
  await page.getByRole('button', { name: 'Flakes' }).click()
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await expect(verdict(page)).toContainText('closes')
  const made = (await storedLoop(page)) as unknown as Stored & { width: number; height: number }
  expect([made.width, made.height, ...made.layers.map(({ kind }) => kind)]).toEqual([320, 180, 'picture', 'group'])
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Flakes', exact: true }).click()
  const panel = page.getByRole('region', { name: 'Properties' })
  await panel.getByLabel('drift across', { exact: true }).fill('0.5')
  await panel.getByLabel('drift across', { exact: true }).press('Enter')
  await expect(panel.getByText('“0.5” is no whole number of tiles')).toBeVisible()
  await panel.getByLabel('drift across', { exact: true }).fill('2')
  await panel.getByLabel('drift across', { exact: true }).press('Enter')
  await expect(panel.getByText(/px in a cycle, .* px\/s/)).toBeVisible()
  await expect(verdict(page)).toContainText('closes')
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: /^Write the GIF/ }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
})

test('what is drawn becomes a pattern that moves on by one tile a loop: draw, pattern, move', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await page.getByTestId('stage').waitFor()
  await page.keyboard.press('Shift+E')
  await page.keyboard.press('Shift+Q')
  const panel = page.getByRole('region', { name: 'Properties' })
  await expect(panel.getByText(/One tile is .* px here/)).toBeVisible()
  await panel.getByRole('button', { name: 'Move moved across' }).click()
  await expect(verdict(page)).toContainText('closes')
  const loop = (await storedLoop(page)) as unknown as Stored
  expect(loop.layers.map(({ kind }) => kind)).toEqual(['pattern'])
  expect(Object.keys(loop.layers[0]?.motions ?? {})).toEqual(['offsetX'])
})

test('a texture is seen beside itself, three by three', async ({ page }) => {
  await openLibrary(page, 'Chart-paper clouds')
  await page.getByRole('link', { name: 'Chart-paper clouds' }).click()
  const frame = page.getByRole('img', { name: 'The frame under the playhead' })
  const before = await frame.boundingBox()
  await page.getByRole('button', { name: 'The frame beside itself, as a tile' }).click()
  const nine = page.getByRole('img', { name: 'The frame laid beside itself, three by three' })
  await expect(nine).toBeVisible()
  const own = await frame.boundingBox()
  const all = await nine.boundingBox()
  expect((all?.width ?? 0) / (own?.width ?? 1)).toBeCloseTo(3, 1)
  expect((before?.width ?? 0) / (own?.width ?? 1)).toBeCloseTo(3, 1)
  // The picture beside it is the frame itself.
  await expect
    .poll(() =>
      nine.evaluate((element) => {
        const canvas = element as HTMLCanvasElement
        const context = canvas.getContext('2d')
        const w = canvas.width / 3
        const h = canvas.height / 3
        const at = (x: number, y: number) => context?.getImageData(x, y, 1, 1).data.join() ?? ''
        return [at(w / 2, h / 2) !== '0,0,0,0', at(5, 5) === at(w + 5, h + 5), at(w - 3, 9) === at(3 * w - 3, 9)]
      }),
    )
    .toEqual([true, true, true])
  await page.keyboard.press('Shift+Z')
  await expect(nine).toHaveCount(0)
})

test('tiles of a lattice rise with a swell that comes home', async ({ page }) => {
  await openLibrary(page, 'Harbour swell')
  await page.getByRole('link', { name: 'Harbour swell' }).click()
  await expect(verdict(page)).toContainText('closes')
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Tiles', exact: true }).click()
  const panel = page.getByRole('region', { name: 'Properties' })
  await expect(panel.getByText(/cells; from above it tiles/)).toBeVisible()
  await panel.getByLabel('view', { exact: true }).selectOption('from above')
  await expect(panel.getByText(/it tiles in x, y and time/)).toBeVisible()
  await expect(verdict(page)).toContainText('closes')
})

test('a lattice with a swell, four actions from the brief: it tiles, and comes home', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByLabel(/^texture/).check()
  await page.getByRole('button', { name: 'Tiles with a swell' }).click()
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await expect(verdict(page)).toContainText('closes')
  const [lattice] = ((await storedLoop(page)) as unknown as Stored).layers
  expect(lattice?.kind).toBe('lattice')
  expect(Object.keys(lattice?.motions ?? {})).toEqual(['time'])
  await page.getByRole('link', { name: 'Seam' }).click()
  for (const direction of ['across', 'down']) {
    await page.getByRole('button', { name: direction, exact: true }).click()
    await expect(page.getByText(`Laid beside itself ${direction}, the frame goes on`)).toBeVisible()
  }
})
