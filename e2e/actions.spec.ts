import type { Locator, Page } from '@playwright/test'
import { expect, makeLoop, openLibrary, setField, storedLoop, test, verdict } from './app'

/**
 * Tasks that must not take more than so many actions: a press, a typed value, a drag or a shortcut is one. What comes
 * before an action is counted only sets the scene.
 */
class Actions {
  count = 0
  constructor(private readonly page: Page) {}
  async press(what: Locator) {
    this.count++
    await what.click()
  }
  async key(key: string) {
    this.count++
    await this.page.keyboard.press(key)
  }
  async type(field: Locator, value: string) {
    this.count++
    await setField(field, value)
  }
  async drag(from: readonly [number, number], to: readonly [number, number]) {
    this.count++
    await drag(this.page, from, to)
  }
}

async function drag(page: Page, from: readonly [number, number], to: readonly [number, number]) {
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 3 })
  await page.mouse.move(...to, { steps: 3 })
  await page.mouse.up()
}

type Stored = {
  length: number
  layers: { id: string; name: string; kind: string; values: Record<string, number>; motions: Record<string, never> }[]
}
const stored = async (page: Page) => (await storedLoop(page)) as unknown as Stored
const motionsOf = (loop: Stored, name: string) =>
  (loop.layers.find((layer) => layer.name === name)?.motions ?? {}) as unknown as Record<
    string,
    { keys: { at: number; value: number; ease: string }[]; period: { cycles: number }; phase: number; after: string }
  >

const properties = (page: Page) => page.getByRole('region', { name: 'Properties' })
const motion = (page: Page) => page.getByRole('region', { name: 'Motion' })
const layer = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Layers' }).getByRole('button', { name, exact: true })

/** A loop with one layer that is selected, from an empty page. */
async function withOne(page: Page, kind: string, length = 48) {
  await openLibrary(page)
  await makeLoop(page, 'Quay', length)
  await page.getByRole('button', { name: `Draw: ${kind}` }).focus()
  await page.keyboard.press('Enter')
  await expect(properties(page).getByRole('heading')).toHaveText(kind)
  await page.mouse.click(5, 400)
}

test('a placed loop of five frames fills ten seconds in three actions', async ({ page }) => {
  await withOne(page, 'Ellipse', 5)
  await properties(page).getByRole('button', { name: 'Move y', exact: true }).click()
  await expect(verdict(page)).toContainText('closes')
  await storedLoop(page)
  await openLibrary(page)
  await makeLoop(page, 'Sheet', 5)
  await page.keyboard.press('i')
  await page.getByRole('dialog').getByRole('button', { name: /^Quay/ }).click()
  await expect(verdict(page)).toContainText('closes')

  const actions = new Actions(page)
  await actions.press(page.getByRole('link', { name: 'Fit' }))
  await actions.type(page.getByLabel('to fill'), '10')
  await actions.press(page.getByRole('button', { name: /48 × 5 f = 10.00 s/ }))
  expect(actions.count).toBeLessThanOrEqual(3)

  const loop = await stored(page)
  expect(loop.length).toBe(240)
  expect(motionsOf(loop, 'Quay').time?.period.cycles).toBe(48)
  await expect(verdict(page)).toContainText('closes')
})

test('five staggered dots out of one in four actions', async ({ page }) => {
  await withOne(page, 'Ellipse')
  await properties(page).getByRole('button', { name: 'Move y', exact: true }).click()
  await page.keyboard.press('Escape')

  const actions = new Actions(page)
  await actions.press(layer(page, 'Ellipse'))
  await actions.key('y')
  await actions.type(properties(page).getByLabel('stagger'), '10')
  expect(actions.count).toBeLessThanOrEqual(4)

  const [copies] = (await stored(page)).layers
  expect(copies).toMatchObject({ kind: 'copies', values: { count: 5, stagger: 0.1 } })
  await expect(verdict(page)).toContainText('closes')
})

test('an eased rotation is even in two actions', async ({ page }) => {
  await withOne(page, 'Rounded rectangle')
  await properties(page).getByRole('button', { name: 'Move rotation' }).click()
  await motion(page).getByLabel('ease of all').selectOption('ease-in-out')
  await expect(verdict(page)).toContainText('hesitates')
  await page.keyboard.press('Escape')

  const actions = new Actions(page)
  await actions.press(layer(page, 'Rounded rectangle'))
  await actions.press(motion(page).getByRole('button', { name: 'Make the speed even', exact: true }))
  expect(actions.count).toBeLessThanOrEqual(2)

  await expect(motion(page).getByTestId('homecoming')).toContainText('at an even speed')
  await expect(verdict(page)).toContainText('closes')
})

test('one motion has half its speed, the loop still closing, in two actions', async ({ page }) => {
  await withOne(page, 'Rounded rectangle')
  await properties(page).getByRole('button', { name: 'Move rotation' }).click()
  await properties(page).getByRole('button', { name: 'Move opacity' }).click()
  await page.keyboard.press('Escape')

  const actions = new Actions(page)
  await actions.press(layer(page, 'Rounded rectangle'))
  await actions.press(motion(page).getByRole('button', { name: 'Half the speed, still closing' }))
  expect(actions.count).toBeLessThanOrEqual(2)

  const loop = await stored(page)
  const { rotation, opacity } = motionsOf(loop, 'Rounded rectangle')
  expect(loop.length).toBe(96)
  expect([rotation?.period.cycles, opacity?.period.cycles].sort()).toEqual([1, 2])
  await expect(verdict(page)).toContainText('closes')
})

test('a whole recorded path is shifted to meet a point in two actions', async ({ page }) => {
  await withOne(page, 'Ellipse')
  const surface = page.getByTestId('stage').locator('svg')
  const box = await surface.boundingBox()
  if (!box) throw new Error('the stage is not there')
  const scale = box.width / 480
  const at = (x: number, y: number) => [box.x + x * scale, box.y + y * scale] as const
  await setField(properties(page).getByLabel('width', { exact: true }).first(), '20')
  await setField(properties(page).getByLabel('height', { exact: true }), '20')
  await page.getByRole('button', { name: 'Record a motion by dragging' }).click()
  await page.mouse.move(...at(240, 240))
  await page.mouse.down()
  for (let i = 0; i <= 30; i++) {
    await page.mouse.move(...at(240 + 4 * i, 240 + 40 * Math.sin(i / 5)))
    await page.waitForTimeout(30)
  }
  await page.mouse.up()
  await expect(motion(page).getByRole('heading')).toHaveText('Motion of Ellipse')
  await page.keyboard.press('Escape')
  await expect.poll(async () => motionsOf(await stored(page), 'Ellipse').x?.keys.length ?? 0).toBeGreaterThan(5)
  const before = motionsOf(await stored(page), 'Ellipse')
  const first = { x: before.x?.keys[0]?.value ?? 0, y: before.y?.keys[0]?.value ?? 0 }
  const target = { x: 100, y: 120 }

  const actions = new Actions(page)
  await actions.press(layer(page, 'Ellipse'))
  await actions.drag(at(first.x + 0.1, first.y), at(target.x, target.y))
  expect(actions.count).toBeLessThanOrEqual(2)

  const after = motionsOf(await stored(page), 'Ellipse')
  expect(Math.hypot((after.x?.keys[0]?.value ?? 0) - target.x, (after.y?.keys[0]?.value ?? 0) - target.y)).toBeLessThan(
    1.5,
  )
  expect(after.x?.keys.length).toBe(before.x?.keys.length)
  const shape = (keys: typeof before) =>
    keys.x?.keys.map(({ value }) => (value - (keys.x?.keys[0]?.value ?? 0)).toFixed(1))
  expect(shape(after)).toEqual(shape(before))
})

test('a chain round two drums closes after six actions', async ({ page }) => {
  await openLibrary(page)
  await makeLoop(page, 'Winch', 48)
  const box = await page.getByTestId('stage').locator('svg').boundingBox()
  if (!box) throw new Error('the stage is not there')
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const

  const actions = new Actions(page)
  await actions.press(page.getByRole('button', { name: 'Draw: Ellipse' }))
  await actions.drag(at(0.1, 0.35), at(0.35, 0.6))
  await actions.press(page.getByRole('button', { name: 'Draw: Ellipse' }))
  await actions.drag(at(0.65, 0.35), at(0.9, 0.6))
  await actions.key('Control+a')
  await actions.press(page.getByRole('button', { name: 'Chain round the selected layers' }))
  expect(actions.count).toBeLessThanOrEqual(6)

  await expect(motion(page).getByTestId('homecoming')).toContainText('comes home')
  await expect(verdict(page)).toContainText('closes')
  const chain = (await stored(page)).layers.at(-1)
  expect(chain).toMatchObject({ kind: 'copies', values: { arrangement: 'path' } })
})
