import type { Page } from '@playwright/test'
import { dropFile, expect, openDemo, openLibrary, setField, storedLoop, test, verdict } from './app'

type Stored = {
  length: number
  rate: { num: number; den: number }
  layers: { name: string; motions: Record<string, { period: { cycles?: number; frames?: number } }> }[]
}
const stored = async (page: Page) => (await storedLoop(page)) as unknown as Stored
const cyclesOf = (loop: Stored) =>
  loop.layers.flatMap(({ motions }) => Object.values(motions).map(({ period }) => period.cycles))
const undo = (page: Page) => page.getByRole('button', { name: 'Undo' }).click()

test('Fit finds the lengths at which wanted periods come home; a dot of the chart shows and takes one', async ({
  page,
}) => {
  test.slow()
  await openDemo(page, 'Boarding buoys')
  await page.getByRole('link', { name: 'Fit' }).click()
  const wanted = (n: number) => page.getByLabel(`Wanted period of Buoy ${n}, y`)
  await setField(wanted(1), '1.5s')
  await setField(wanted(2), '20f')
  await setField(wanted(3), '35')
  await setField(wanted(4), '40')
  await setField(wanted(5), '360/9')
  await expect(wanted(1)).toHaveValue('37.5')
  await expect(page.getByText('Exactly home together only after 4,200 f.')).toBeVisible()

  // Pointing at a length shows what every motion becomes; leaving it takes that back.
  const lengths = page.getByRole('list', { name: 'Lengths of the front' })
  const [shortest] = await lengths.getByRole('button').all()
  await shortest?.hover()
  const words = await page.getByTestId('fitted').allTextContents()
  expect(words).toHaveLength(5)
  await expect(page.getByRole('img', { name: 'The loop as it would be' })).toBeVisible()
  await page.mouse.move(5, 300)
  await expect(page.getByRole('img', { name: 'The loop', exact: true })).toBeVisible()

  const entry = lengths.getByRole('button').last()
  const length = Number(/Take (\d+) frames/.exec((await entry.getAttribute('aria-label')) ?? '')?.[1])
  await entry.click()
  const fitted = await stored(page)
  expect(fitted.length).toBe(length)
  expect(new Set(cyclesOf(fitted)).size).toBeGreaterThan(2)
  await expect(verdict(page)).toContainText('closes')
  await undo(page)
  expect((await stored(page)).length).toBe(50)

  // The chart does the same under the pointer.
  const chart = await page.getByTestId('front-chart').boundingBox()
  if (!chart) throw new Error('the chart is not there')
  let found = false
  for (let y = 20; y < chart.height - 40 && !found; y += 6)
    for (let x = 56; x < chart.width - 20 && !found; x += 12) {
      await page.mouse.move(chart.x + x, chart.y + y)
      found = await page.getByRole('img', { name: 'The loop as it would be' }).isVisible()
      if (found) await page.mouse.click(chart.x + x, chart.y + y)
    }
  expect(found).toBe(true)
  expect((await stored(page)).length).not.toBe(50)
})

test('a broken count is taken only on purpose, and says what will be seen', async ({ page }) => {
  await openDemo(page, 'Lens sweep')
  await page.getByRole('link', { name: 'Fit' }).click()
  const cycles = page.getByLabel('Cycles of Slow cloud, moved along by')
  await setField(cycles, '2.5')
  const notice = page.getByRole('alert').filter({ hasText: 'in mid-cycle' })
  await expect(notice).toContainText(
    '2.5 cycles of Slow cloud, moved along by end in mid-cycle. At the seam it jumps by 0.5 places',
  )
  await expect(verdict(page)).toContainText('closes')
  await notice.getByRole('button', { name: 'Take 3 cycles' }).click()
  await expect(cycles).toHaveValue('3')
  await setField(cycles, '2.5')
  await notice.getByRole('button', { name: 'Break it on purpose' }).click()
  await expect(verdict(page)).toContainText('jumps')
  await undo(page)
  await expect(verdict(page)).toContainText('closes')
})

test('another rate or length has three meanings, each shown before it is taken', async ({ page }) => {
  await openDemo(page, 'Lens sweep')
  await page.getByRole('link', { name: 'Fit' }).click()
  const panel = page.getByRole('region', { name: 'Another rate or length' })
  await panel.getByLabel('rate').fill('50')
  await expect(panel.getByRole('button', { name: /Keep the seconds/ })).toContainText('200 f at 50/s · 4.000 s')
  await expect(panel.getByRole('button', { name: /Keep the cycles/ })).toContainText('100 f at 50/s · 2.000 s')
  await panel.getByRole('button', { name: /Keep the seconds/ }).click()
  expect(await stored(page)).toMatchObject({ length: 200, rate: { num: 50, den: 1 } })
  await undo(page)
  await panel.getByLabel('length').fill('250')
  await expect(panel.getByRole('button', { name: /Keep the frames/ })).toContainText('3 speeds bend by up to')
  await panel.getByRole('button', { name: /Keep the frames/ }).click()
  expect(await stored(page)).toMatchObject({ length: 250 })
  await expect(verdict(page)).toContainText('closes')
  await panel.getByLabel('length').fill('teapot')
  await expect(panel.getByText('is not a number or a sum')).toBeVisible()
})

test('like layers that change places make a shorter loop, which closes by exchange', async ({ page }) => {
  await openDemo(page, 'Boarding buoys')
  type Drawn = { kind: string; values: object; motions: object }
  const file = (await storedLoop(page)) as unknown as { layers: Drawn[] }
  const buoy = file.layers.find(({ kind }) => kind === 'ellipse') as Drawn
  const layers = [0, 120, 240].map((from) => ({
    ...buoy,
    id: `buoy-${from}`,
    name: `Buoy at ${from}`,
    values: { ...buoy.values, x: 240, y: 160, width: 30, height: 30, pivotX: 0, pivotY: 60, fill: '#f2b54a' },
    motions: {
      rotation: {
        keys: [0, 1].map((at) => ({ at, value: from + 360 * at, ease: 'linear' })),
        after: 'accumulate',
        period: { cycles: 1 },
        phase: 0,
      },
    },
  }))
  await dropFile(
    page,
    'ring.cyclon.json',
    JSON.stringify({ ...file, id: 'ring-of-buoys', name: 'Ring of buoys', length: 48, layers }),
  )
  await expect(page.getByText('Ring of buoys (3 layers) is in the library')).toBeVisible()
  await page.goto('/loop/ring-of-buoys/fit')
  await expect(page.getByText('Like layers stand in for one another at its end.').first()).toBeVisible()
  await page.getByRole('button', { name: /^16 f show the same/ }).click()
  await expect(verdict(page)).toContainText('closes')
  await expect(page.getByText('with like layers in each other’s places')).toBeVisible()
  expect(await storedLoop(page)).toMatchObject({ length: 16 })
})

test('a variant follows its source until it is parted', async ({ page }) => {
  test.slow()
  await openDemo(page, 'Bunting stripes')
  await page.getByRole('button', { name: 'Make a variant' }).click()
  const dialog = page.getByRole('dialog', { name: 'A variant of Bunting stripes' })
  await setField(dialog.getByLabel('sea', { exact: true }), '#79c9b4')
  await setField(dialog.getByLabel('faster'), '2')
  await dialog.getByLabel('backwards').check()
  await dialog.getByLabel('name').fill('Green bunting')
  await dialog.getByRole('button', { name: 'Make the variant' }).click()
  await expect(page.getByText('Green bunting is in the library')).toBeVisible()

  // The source changes; the variant with it.
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Bands', exact: true }).click()
  await setField(page.getByRole('region', { name: 'Properties' }).getByLabel('pitch', { exact: true }), '180')
  await storedLoop(page)
  await openLibrary(page)
  await page.getByRole('link', { name: /Green bunting/ }).click()
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Bands', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Properties' }).getByLabel('pitch', { exact: true })).toHaveValue('180')
  await expect(page.getByText('It follows its source until it is changed or parted')).toBeVisible()
  await expect(verdict(page)).toContainText('closes')
  await page.getByRole('button', { name: 'Part it from its source' }).click()
  await expect(page.getByText('until it is changed or parted')).toHaveCount(0)
  expect(await storedLoop(page)).not.toHaveProperty('variantOf')
})
