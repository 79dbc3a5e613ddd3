import type { Page } from '@playwright/test'
import { expect, makeLoop, openDemo, openLibrary, setField, storedLoop, test, verdict } from './app'

type Key = { at: number; value: number; ease: string }
type Stored = {
  length: number
  rate: { num: number; den: number }
  blur: { shutter: number }
  loops: { id: string; layers: { values: Record<string, unknown> }[] }[]
  media: { name: string; width: number }[]
  layers: {
    id: string
    name: string
    kind: string
    values: Record<string, unknown>
    motions: Record<string, { keys: Key[]; phase: number; after: string; period: { cycles?: number; frames?: number } }>
    trembles?: Record<string, { amount: number }>
    events?: Record<string, { frames: number }>
    layers?: { kind: string; name: string }[]
  }[]
}
const stored = async (page: Page) => (await storedLoop(page)) as unknown as Stored
const properties = (page: Page) => page.getByRole('region', { name: 'Properties' })
const motion = (page: Page) => page.getByRole('region', { name: 'Motion' })
const layer = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Layers' }).getByRole('button', { name, exact: true })
const keysOf = async (page: Page, index = 0, name = 'x') =>
  (await stored(page)).layers[index]?.motions[name]?.keys ?? []

async function newDot(page: Page, length = 48) {
  await openLibrary(page)
  await makeLoop(page, 'Quay', length)
  await page.getByRole('button', { name: 'Draw: Ellipse' }).focus()
  await page.keyboard.press('Enter')
  await expect(properties(page).getByRole('heading')).toHaveText('Ellipse')
}

async function centreOf(page: Page, testId: string, index = 0) {
  const box = await page.getByTestId(testId).nth(index).boundingBox()
  if (!box) throw new Error(`${testId} is not there`)
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}
async function dragBy(page: Page, from: { x: number; y: number }, dx: number, dy: number) {
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 3 })
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 3 })
  await page.mouse.up()
}

test('keys are set, chosen, dragged, stretched, reversed, copied and eased on the curve', {
  tag: '@clipboard',
}, async ({ page }) => {
  test.slow()
  await newDot(page)
  await properties(page).getByRole('button', { name: 'Move x', exact: true }).click()
  const curve = page.getByTestId('motion-curve')
  const box = await curve.boundingBox()
  if (!box) throw new Error('the curve is not there')
  const [first, second] = await keysOf(page)
  expect(first && second && second.value > first.value).toBe(true)

  // A double press sets a key on the curve, which stays as it is.
  await page.mouse.dblclick(box.x + box.width * 0.42, box.y + box.height * 0.5)
  const three = await keysOf(page)
  expect(three).toHaveLength(3)
  expect(three[1]?.value).toBeGreaterThan(first?.value ?? 0)
  expect(three[1]?.value).toBeLessThan(second?.value ?? 0)

  // A box chooses; several keys move as one, one frame at a time; undo is one step.
  const bead = (n: number) => page.getByRole('slider', { name: new RegExp(`^x, key ${n} of the curve`) })
  await page.keyboard.press('Control+Shift+a')
  await expect(bead(2)).toHaveAccessibleName(/chosen/)
  await page.keyboard.press('Escape')
  await layer(page, 'Ellipse').click()
  const two = await bead(2).boundingBox()
  const third = await bead(3).boundingBox()
  if (!two || !third) throw new Error('the keys are not on the curve')
  const boxed = { left: two.x - 8, top: Math.min(two.y, third.y) - 8, right: third.x + third.width + 8 }
  await dragBy(
    page,
    { x: boxed.left, y: boxed.top },
    boxed.right - boxed.left,
    Math.max(two.y, third.y) + third.height + 8 - boxed.top,
  )
  await expect(bead(2)).toHaveAccessibleName(/chosen/)
  await expect(bead(3)).toHaveAccessibleName(/chosen/)
  await expect(bead(1)).not.toHaveAccessibleName(/chosen/)
  await bead(3).click({ modifiers: ['Shift'] })
  await expect(bead(3)).not.toHaveAccessibleName(/chosen/)
  await bead(3).click({ modifiers: ['Shift'] })
  await page.keyboard.press('Shift+.')
  const later = await keysOf(page)
  expect((later[1]?.at ?? 0) * 48).toBeCloseTo((three[1]?.at ?? 0) * 48 + 1, 6)
  expect((later[2]?.at ?? 0) * 48).toBeCloseTo(25, 6)

  // Pulled by its end, the selection takes longer.
  await dragBy(page, await centreOf(page, 'stretch-end'), 60, 0)
  const slower = await keysOf(page)
  expect(slower[1]?.at).toBeCloseTo(later[1]?.at ?? 0, 6)
  expect(slower[2]?.at).toBeGreaterThan((later[2]?.at ?? 0) + 2 / 48)

  // Reversed, the values change places and keep their times' span.
  await page.keyboard.press('x')
  const turned = await keysOf(page)
  expect(turned[1]?.value).toBeCloseTo(slower[2]?.value ?? 0, 6)
  expect(turned[2]?.value).toBeCloseTo(slower[1]?.value ?? 0, 6)

  // One ease for the chosen keys; the handles of a single one bend it.
  await motion(page).getByLabel('ease of 2').selectOption('linear')
  expect((await keysOf(page)).map(({ ease }) => ease).slice(1)).toEqual(['linear', 'linear'])
  await page.mouse.click(box.x + box.width * 0.9, box.y + 40)
  await bead(2).click()
  await dragBy(page, await centreOf(page, 'ease-handle-1'), 8, 25)
  expect((await keysOf(page))[1]?.ease).toMatch(/^cubic-bezier/)

  // Copied to another property.
  await page.keyboard.press('Control+c')
  await properties(page).getByRole('button', { name: 'Move y', exact: true }).click()
  await page.keyboard.press('Home')
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Control+v')
  // The system gives what was copied when it is asked, a moment later.
  const isPasted = async () => (await keysOf(page, 0, 'y')).some(({ at }) => Math.abs(at - 10 / 48) < 1e-9)
  await expect.poll(isPasted).toBe(true)
  const pasted = await keysOf(page, 0, 'y')
  expect(pasted.map(({ value }) => value)).toContain((await keysOf(page))[1]?.value)
  await expect(verdict(page)).toContainText('closes')
})

test('a recording is thinned, bent, closed; its phase is turned on the dial; it starts when another ends', async ({
  page,
}) => {
  test.slow()
  await newDot(page, 120)
  const surface = await page.getByTestId('stage').locator('svg').boundingBox()
  if (!surface) throw new Error('the stage is not there')
  const at = (x: number, y: number) => [surface.x + surface.width * x, surface.y + surface.height * y] as const
  await page.getByRole('button', { name: 'Record a motion by dragging' }).click()
  await page.mouse.move(...at(0.5, 0.5))
  await page.mouse.down()
  // By the clock, as a hand moves: on a slow machine fewer moves come, along the same way.
  const began = Date.now()
  const recording = page.getByRole('button', { name: 'Record a motion by dragging', pressed: true })
  do {
    const turns = (Date.now() - began) / 300
    await page.mouse.move(...at(0.5 + 0.006 * turns + 0.1 * Math.sin(turns / 2.5), 0.5 + 0.15 * Math.sin(turns)))
    await page.waitForTimeout(20)
  } while ((await recording.count()) > 0)
  await page.mouse.up()
  await expect.poll(async () => (await keysOf(page)).length).toBeGreaterThan(60)
  const recorded = await keysOf(page)
  expect(await keysOf(page, 0, 'y')).toHaveLength(recorded.length)

  await motion(page)
    .getByRole('button', { name: /^Close it/ })
    .click()
  const closed = await keysOf(page)
  const last = (keys: readonly Key[]) => keys.at(-1)?.value ?? 0
  const gap = (keys: readonly Key[]) =>
    Math.abs(last(keys) + (last(keys) - (keys.at(-2)?.value ?? 0)) - (keys[0]?.value ?? 0))
  expect(gap(closed)).toBeLessThan(gap(recorded) / 4)

  await dragBy(page, await centreOf(page, 'bend-handle', 2), 0, -30)
  const bent = await keysOf(page)
  expect(bent).toHaveLength(closed.length)
  expect(bent.filter(({ value }, i) => value !== closed[i]?.value).length).toBeGreaterThan(5)
  expect(bent[0]?.value).toBe(closed[0]?.value)

  await setField(motion(page).getByLabel('within'), '4')
  await motion(page).getByRole('button', { name: 'Thin it' }).click()
  expect((await keysOf(page)).length).toBeLessThan(closed.length / 2)
  expect((await keysOf(page, 0, 'y')).length).toBe((await keysOf(page)).length)
  await expect(verdict(page)).toContainText('closes')

  // The ring of x dragged a quarter round: it happens a quarter later.
  const dial = await page.getByRole('group', { name: 'Dial' }).boundingBox()
  if (!dial) throw new Error('the dial is not there')
  const middle = { x: dial.x + dial.width / 2, y: dial.y + dial.height / 2 }
  const ring = await page.getByTestId('ring').first().boundingBox()
  if (!ring) throw new Error('there is no ring')
  const r = ring.width / 2 - 4
  // Away from the beads: in the middle of the widest gap between keys.
  const places = (await keysOf(page)).map(({ at }) => at).sort((a, b) => a - b)
  const gaps = places.map((at, i) => ({ at, wide: (places[i + 1] ?? 1 + (places[0] ?? 0)) - at }))
  const widest = gaps.reduce((a, b) => (b.wide > a.wide ? b : a))
  const from = 2 * Math.PI * (widest.at + widest.wide / 2)
  const onRing = (angle: number) => [middle.x + r * Math.sin(angle), middle.y - r * Math.cos(angle)] as const
  await page.mouse.move(...onRing(from))
  await page.mouse.down()
  await page.mouse.move(...onRing(from + 0.7), { steps: 4 })
  await page.mouse.move(...onRing(from + Math.PI / 2), { steps: 4 })
  await page.mouse.up()
  const phase = async () => (await stored(page)).layers[0]?.motions.x?.phase
  await expect.poll(async () => Math.abs(Number(await phase()) - 0.75)).toBeLessThan(0.05)
  await page.keyboard.press('Control+z')
  await expect.poll(phase).toBe(0)

  // A motion that starts when another ends.
  await properties(page).getByRole('button', { name: 'Move opacity' }).click()
  await motion(page).getByLabel('starts after').focus()
  await motion(page).getByLabel('starts after').selectOption({ label: 'Ellipse · x' })
  const { x, opacity } = (await stored(page)).layers[0]?.motions ?? {}
  // A motion that was thinned to a single key ends where it begins.
  const later = (opacity?.phase ?? Number.NaN) + (x?.keys.at(-1)?.at ?? Number.NaN)
  expect(Math.abs(later - Math.round(later))).toBeLessThan(1e-6)

  // Freed and tied again it shows at the playhead what it showed there.
  await page.keyboard.press('Home')
  await page.keyboard.press('Shift+ArrowRight')
  const before = await properties(page).getByLabel('opacity', { exact: true }).inputValue()
  await motion(page).getByRole('button', { name: 'free', exact: true }).click()
  await setField(motion(page).getByLabel('Frames of one cycle'), '20')
  await motion(page).getByRole('button', { name: 'tied', exact: true }).click()
  expect((await stored(page)).layers[0]?.motions.opacity?.period).toEqual({ cycles: 6 })
  expect(before).not.toBe('')
})

test('tremble, event, blur, mask, gradient and glow: each is set in its panel, and the loop still closes', async ({
  page,
}) => {
  test.slow()
  await newDot(page)
  await motion(page).getByRole('button', { name: 'Give it one' }).click()
  await motion(page).getByLabel('property').selectOption('x')
  await motion(page).getByRole('button', { name: 'a tremble' }).click()
  await setField(motion(page).getByLabel('amount'), '12')
  await motion(page)
    .getByRole('button', { name: /^A motion, tremble or event more/ })
    .click()
  await motion(page).getByLabel('property').selectOption('opacity')
  await motion(page).getByRole('button', { name: 'an event' }).click()
  await setField(motion(page).getByLabel('held for'), '4')
  const [dot] = (await stored(page)).layers
  expect(dot).toMatchObject({ trembles: { x: { amount: 12 } }, events: { opacity: { frames: 4 } } })
  await expect(verdict(page)).toContainText('closes')

  await properties(page).getByLabel('gradient').selectOption('radial')
  await setField(properties(page).getByLabel('to colour', { exact: true }), '#0a2231')
  await properties(page).getByText('Effects').click()
  await setField(properties(page).getByLabel('glow', { exact: true }), '#f6b84b')
  await setField(properties(page).getByLabel('blur', { exact: true }), '2')
  await page.getByRole('button', { name: 'Draw: Polygon or star' }).focus()
  await page.keyboard.press('Enter')
  await expect(properties(page).getByRole('heading')).toHaveText('Polygon or star')
  await page.getByRole('button', { name: 'Draw: Polygon or star' }).blur()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('m')
  const [group] = (await stored(page)).layers
  expect(group).toMatchObject({ kind: 'group', values: { mask: 'shape' } })
  expect(group?.layers?.map(({ kind }) => kind)).toEqual(['ellipse', 'polygon'])
  await properties(page).getByLabel('front masks').selectOption('inverse')

  await page.keyboard.press('Escape')
  await setField(properties(page).getByLabel('shutter'), '180')
  await expect(properties(page).getByLabel('samples')).toHaveValue('8')
  await properties(page).getByLabel('show it on the stage').uncheck()
  expect((await stored(page)).blur.shutter).toBe(180)
  await expect(verdict(page)).toContainText('closes')
})

test('a placed loop is edited inside, in all its places; a loop is never placed in itself', async ({ page }) => {
  test.slow()
  await openDemo(page, 'Pier sheet')
  await layer(page, 'Tide gauge').click()
  await properties(page).getByRole('button', { name: 'Edit Tide gauge' }).click()
  await expect(page.getByText('what you change here shows in its place')).toBeVisible()
  await layer(page, 'Pointer').click()
  await setField(properties(page).getByLabel('radius', { exact: true }), '30')
  await page.getByRole('button', { name: 'Back to Pier sheet' }).click()
  const tide = (await stored(page)).loops.find(({ id }) => id === 'tide-gauge')
  expect(tide?.layers.some(({ values }) => values.radius === 30)).toBe(true)

  await page.keyboard.press('i')
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Tide gauge/ })
    .click()
  expect((await stored(page)).layers.filter(({ values }) => values.loop === 'tide-gauge')).toHaveLength(2)
  await properties(page).getByRole('button', { name: 'Backwards' }).click()
  await expect(verdict(page)).toContainText('closes')
  await properties(page).getByRole('button', { name: 'Edit Tide gauge' }).click()
  await expect(page.getByText('all 2 places')).toBeVisible()
  await page.keyboard.press('i')
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Tide gauge/ })
    .first()
    .click()
  await expect(page.getByText('it would be placed in itself')).toBeVisible()
})

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><g id="Buoy"><circle cx="50" cy="50" r="30" fill="#ef7f5f"/><path d="M50 20V5" stroke="#123a4c" stroke-width="4"/></g><image href="x.png"/></svg>`

test('pictures and SVG files come in as layers; broken ones are said and change nothing', async ({ page }) => {
  await openLibrary(page)
  await makeLoop(page, 'Quay')
  const choose = async (name: string, mimeType: string, buffer: Buffer) => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Bring in pictures or SVG files' }).click()
    await (await chooser).setFiles({ name, mimeType, buffer })
  }
  await choose('buoy.svg', 'image/svg+xml', Buffer.from(SVG))
  await expect(page.getByText('Left out of buoy.svg: embedded pictures.')).toBeVisible()
  await expect(properties(page).getByRole('heading')).toHaveText('buoy')

  const png = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(30, 20)
    canvas.getContext('2d')?.fillRect(0, 0, 15, 20)
    const blob = await canvas.convertToBlob()
    return [...new Uint8Array(await blob.arrayBuffer())]
  })
  await choose('quay.png', 'image/png', Buffer.from(png))
  await expect(properties(page).getByRole('heading')).toHaveText('quay')
  const before = await stored(page)
  expect(before.media[0]).toMatchObject({ name: 'quay', width: 30 })

  await choose('broken.png', 'image/png', Buffer.from(png.slice(0, 40)))
  await expect(page.getByText('broken.png: The PNG file breaks off')).toBeVisible()
  await choose('broken.svg', 'image/svg+xml', Buffer.from('<svg'))
  await expect(page.getByText('broken is not an SVG file')).toBeVisible()
  expect(await stored(page)).toEqual(before)
})

test('paths are drawn with the pen and freehand, and edited by points', async ({ page }) => {
  await openLibrary(page)
  await makeLoop(page, 'Quay')
  const surface = await page.getByTestId('stage').locator('svg').boundingBox()
  if (!surface) throw new Error('the stage is not there')
  const at = (x: number, y: number) => [surface.x + surface.width * x, surface.y + surface.height * y] as const
  await page.keyboard.press('w')
  await page.mouse.click(...at(0.2, 0.3))
  await page.mouse.click(...at(0.5, 0.3))
  await page.mouse.move(...at(0.5, 0.7))
  await page.mouse.down()
  await page.mouse.move(...at(0.4, 0.8), { steps: 3 })
  await page.mouse.up()
  await page.mouse.click(...at(0.2, 0.3))
  const [pen] = (await stored(page)).layers
  expect(pen).toMatchObject({ kind: 'path', values: { path: expect.stringMatching(/^M.*L.*C.*Z$/) } })

  const box = await page.locator('[data-path-point=end]').first().boundingBox()
  if (!box) throw new Error('the path has no points')
  await dragBy(page, { x: box.x + box.width / 2, y: box.y + box.height / 2 }, -20, -20)
  expect((await stored(page)).layers[0]?.values.path).not.toBe(pen?.values.path)

  await page.keyboard.press('f')
  await page.mouse.move(...at(0.6, 0.6))
  await page.mouse.down()
  for (let i = 0; i <= 30; i++) await page.mouse.move(...at(0.6 + 0.01 * i, 0.6 + 0.1 * Math.sin(i / 4)))
  await page.mouse.up()
  const drawn = (await stored(page)).layers.at(-1)
  expect(drawn).toMatchObject({ kind: 'path', values: { fill: null, path: expect.stringMatching(/^M.*C/) } })
})
