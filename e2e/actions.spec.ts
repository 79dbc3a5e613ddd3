import type { Page } from '@playwright/test'
import { encodeCase } from '../bench/corpus/encode'
import { ALL_DEMO_LOOPS, command, expect, Hands, openLibrary, storedLoop, test, verdict } from './app'
import { caseOf, drop } from './clips'

type Stored = {
  length: number
  layers: Layer[]
}
type Layer = {
  id: string
  name: string
  kind: string
  values: Record<string, unknown>
  motions: Record<string, { period: { cycles?: number; frames?: number }; phase: number }>
  events?: Record<string, unknown>
  layers?: Layer[]
}
const stored = async (page: Page) => (await storedLoop(page)) as unknown as Stored
const closes = (page: Page) => expect(verdict(page)).toContainText('closes')

/** Begins with one of the loops that the brief offers. */
async function begin(hands: Hands, start: string | RegExp): Promise<void> {
  const { page } = hands
  await hands.click(page.getByRole('button', { name: 'New loop' }))
  const brief = page.getByRole('dialog', { name: 'New loop' })
  await hands.click(brief.getByRole('button', { name: start }))
  await hands.click(brief.getByRole('button', { name: 'Make the loop' }))
  await expect(page.getByRole('region', { name: 'Layers' })).toBeVisible()
  await closes(page)
}

for (const [task, start, goal] of [
  ['an arc loader: both ends of a round stroke chase each other while it turns, eased', /arc that chases/, 5],
  ['a blob on a ring: half a turn growing, half a turn shrinking', 'A blob on a ring', 6],
  ['upright bands over the whole frame, one pitch a second', 'Upright bands', 4],
  ['a gauge: one pointer that ticks, one with a slow period of its own', /^A gauge/, 6],
  ['bouncing dots with a second, smaller bounce, in turn, moved as one', 'Dots that bounce in turn', 5],
] as const)
  test(`${task}: in ${goal} actions at the most`, async ({ page }) => {
    await openLibrary(page)
    const hands = new Hands(page)
    await begin(hands, start)
    expect((await stored(page)).layers.length).toBeGreaterThan(0)
    expect(hands.count).toBeLessThanOrEqual(goal)
  })

test('a wind gauge of four vanes, and a warning when it seems to stand still: in 5 actions', async ({ page }) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await begin(hands, /^A wind gauge/)
  await page.getByRole('region', { name: 'Layers' }).getByText('Vanes', { exact: true }).click()
  hands.count++
  // One frame of two seconds at 30 a second, and a quarter turn each: nothing is seen to move.
  await hands.type(page.getByLabel('Cycles in the loop'), '60')
  await expect(page.getByRole('main')).toContainText(/stand still/)
  expect(hands.count).toBeLessThanOrEqual(5)
})

test('a belt round two drums, marks that meet, by whole links, at another speed: in 5 actions', async ({ page }) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await begin(hands, /^A belt/)
  await page.getByRole('region', { name: 'Layers' }).getByText('Belt', { exact: true }).click()
  hands.count++
  await hands.type(page.getByLabel('travel'), '6')
  await closes(page)
  expect(hands.count).toBeLessThanOrEqual(5)
})

test('loops of the library on one sheet, all closing at their own pace: in 4 actions', async ({ page }) => {
  await openLibrary(page, 'Lens sweep', 'Winch chain')
  const hands = new Hands(page)
  for (const name of ['Beacon loader', 'Lens sweep', 'Winch chain']) {
    await page.getByLabel(`Choose ${name}`).check()
    hands.count++
  }
  await hands.click(page.getByRole('button', { name: 'Place together' }))
  await expect(page.getByText('All run exactly at their own pace.')).toBeVisible()
  await closes(page)
  const { length, layers } = await stored(page)
  expect([length, layers.length]).toEqual([360, 3])
  expect(hands.count).toBeLessThanOrEqual(4)
})

test('a clip with a blank end is found, mended, and repeated for 10 s at its own pace: in 6 actions', async ({
  page,
}) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await drop(
    page,
    'blank.gif',
    await encodeCase(caseOf('turning', 'an empty frame after the last'), 'gif, one palette'),
    'image/gif',
  )
  hands.count++
  await hands.click(page.getByRole('button', { name: /^Drop / }))
  await hands.click(page.getByRole('button', { name: 'Make a loop of it' }))
  await closes(page)
  await hands.click(page.getByRole('link', { name: 'Fit' }))
  await hands.type(page.getByLabel('to fill'), '10s')
  await hands.click(page.getByRole('list', { name: 'Ways to fill' }).getByRole('button').first())
  await closes(page)
  expect(hands.count).toBeLessThanOrEqual(6)
})

test('twins five frames later, twice as fast, backwards, frozen: one shortcut each; out of step with a blink of its own', async ({
  page,
}) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await begin(hands, /arc that chases/)
  await page.getByRole('region', { name: 'Layers' }).getByText('Arc', { exact: true }).click()
  for (const keys of ['Alt+d', 'Alt+f', 'Alt+b', 'Alt+z']) {
    const before = (await stored(page)).layers.length
    hands.count = 0
    await hands.press(keys)
    await expect.poll(async () => (await stored(page)).layers.length).toBe(before + 1)
    expect(hands.count).toBe(1)
    await closes(page)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await stored(page)).layers.length).toBe(before)
    await page.getByRole('region', { name: 'Layers' }).getByText('Arc', { exact: true }).click()
  }
  hands.count = 0
  await hands.press('Alt+d')
  await hands.click(page.locator('summary', { hasText: 'Motions to take' }))
  await hands.click(page.getByRole('button', { name: 'Blink', exact: true }))
  await expect.poll(async () => Object.keys((await stored(page)).layers.at(-1)?.events ?? {})).toEqual(['opacity'])
  const [, arc, twin] = (await stored(page)).layers
  expect(arc?.motions.rotation?.phase).not.toBe(twin?.motions.rotation?.phase)
  expect(arc?.events ?? {}).toEqual({})
  await closes(page)
  expect(hands.count).toBeLessThanOrEqual(6)
})

test('two and a half cycles: seen, whole counts, then slower than once: in 4 actions', async ({ page }) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await begin(hands, /arc that chases/)
  await page.getByRole('region', { name: 'Layers' }).getByText('Arc', { exact: true }).click()
  await page.getByRole('region', { name: 'Motion' }).getByRole('button', { name: 'rotation', exact: true }).click()
  hands.count = 0
  await hands.type(page.getByLabel('Cycles in the loop'), '2.5')
  await expect(verdict(page)).toContainText('jumps')
  await hands.click(page.getByRole('button', { name: /^Take: .*[23] cycles/ }).first())
  await closes(page)
  await hands.type(page.getByLabel('Cycles in the loop'), '1/2')
  await closes(page)
  expect((await stored(page)).length).toBe(120)
  expect(hands.count).toBeLessThanOrEqual(4)
})

test('counts and speed of one motion by keyboard alone: in 25 keys', async ({ page }) => {
  await openLibrary(page)
  await begin(new Hands(page), /^A wind gauge/)
  let keys = 0
  const type = async (words: string, meant: RegExp | string) => {
    await command(page, words, meant)
    keys += words.length + 2
  }
  await type('vanes', 'Select “Vanes”')
  await type('cycles 3', /Cycles of the shown motion.*3/)
  const shown = () =>
    stored(page).then(({ layers }) => Object.values(layers[1]?.motions ?? {}).map(({ period }) => period.cycles))
  await expect.poll(shown).toEqual([3])
  await page.keyboard.press('.')
  keys++
  await expect.poll(shown).toEqual([6])
  await closes(page)
  expect(keys).toBeLessThanOrEqual(25)
})

test('a motion is seen while it is pointed at, taken by a press, on several layers one after the other', async ({
  page,
}) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByRole('dialog', { name: 'New loop' }).getByRole('button', { name: 'Make the loop' }).click()
  await expect(page.getByRole('region', { name: 'Layers' })).toBeVisible()
  for (const name of ['ellipse', 'rectangle', 'ellipse'])
    await hands.say(`add in the middle: ${name}`, new RegExp(name, 'i'))
  await page.keyboard.press('Control+a')
  const offered = page.getByRole('group', { name: 'Motions to take' })
  await offered.getByRole('button', { name: 'Bob' }).hover()
  await expect(page.getByText('seam, in the preview')).toBeVisible()
  expect((await stored(page)).layers.every(({ motions }) => Object.keys(motions).length === 0)).toBe(true)
  await hands.click(offered.getByRole('button', { name: 'Bob' }))
  await hands.type(page.getByLabel('each later by'), '5f')
  await expect
    .poll(async () =>
      (await stored(page)).layers.map(({ motions }) => Number((60 * (motions.y?.phase ?? -1)).toFixed(6))),
    )
    .toEqual([0, 55, 50])
  await closes(page)
  await hands.say('opacity 50', 'Set opacity to 50 %')
  await expect
    .poll(async () => (await stored(page)).layers.map(({ values }) => values.opacity))
    .toEqual([0.5, 0.5, 0.5])
})

test('several layers are edited at once, copied, and pasted into another loop', { tag: '@clipboard' }, async ({
  page,
}) => {
  await openLibrary(page)
  const hands = new Hands(page)
  await begin(hands, 'Three round a lamp')
  await page.keyboard.press('Control+a')
  const properties = page.getByRole('region', { name: 'Properties' })
  await expect(properties.getByRole('heading')).toHaveText('4 layers')
  const place = async (name: string) => (await stored(page)).layers.map(({ values }) => values[name])
  await hands.type(properties.getByLabel('x', { exact: true }), '+10')
  await expect.poll(() => place('x')).toEqual([250, 250, 250, 250])
  await hands.type(properties.getByLabel('opacity', { exact: true }), '50')
  await hands.type(properties.getByLabel('opacity', { exact: true }), '/2')
  // The lamp's light moves: it has a key here instead.
  await expect.poll(async () => (await place('opacity')).slice(0, 3)).toEqual([0.25, 0.25, 0.25])
  await hands.click(properties.getByRole('button', { name: 'Align top edges' }))
  await closes(page)
  await hands.press('Control+c')
  await expect(page.getByText('4 layers are copied.')).toBeVisible()
  await page.goto('/')
  await begin(new Hands(page), /^Bars/)
  await hands.press('Control+v')
  await expect.poll(async () => (await stored(page)).layers.length).toBe(5)
  await closes(page)
  await page.keyboard.press('Control+x')
  await expect.poll(async () => (await stored(page)).layers.length).toBe(1)
})

test('a drag is recorded, thinned, moved to a point, turned, bent and closed: in 8 actions', async ({ page }) => {
  test.slow()
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByRole('dialog', { name: 'New loop' }).getByRole('button', { name: 'Make the loop' }).click()
  await expect(page.getByRole('region', { name: 'Layers' })).toBeVisible()
  await page.keyboard.press('Shift+e')
  const hands = new Hands(page)
  const surface = await page.getByTestId('stage').locator('svg').boundingBox()
  if (!surface) throw new Error('the stage is not there')
  const at = (x: number, y: number) => [surface.x + surface.width * x, surface.y + surface.height * y] as const
  await hands.press('q')
  const tool = page.getByRole('button', { name: 'Record a motion by dragging' })
  await expect(tool).toHaveAttribute('aria-pressed', 'true')
  await page.evaluate(() =>
    addEventListener('pointerdown', (event) => Object.assign(window, { pressed: event }), {
      capture: true,
      once: true,
    }),
  )
  await page.mouse.move(...at(0.5, 0.5))
  await page.mouse.down()
  // Round a figure once a second, as an even hand does: each move says when it was, however late it comes.
  const moves = Array.from({ length: 200 }, (_, i) => {
    const ms = 16 * (i + 1)
    const turn = (2 * Math.PI * ms) / 1000
    return { ms, place: at(0.5 + 0.12 * Math.sin(turn), 0.5 + 0.1 * Math.sin(2 * turn)) }
  })
  await page.evaluate((all) => {
    const { pressed } = window as unknown as { pressed: PointerEvent }
    for (const { ms, place } of all) {
      const [clientX, clientY] = place
      const event = new PointerEvent('pointermove', {
        pointerId: pressed.pointerId,
        bubbles: true,
        buttons: 1,
        clientX,
        clientY,
      })
      Object.defineProperty(event, 'timeStamp', { value: pressed.timeStamp + ms })
      pressed.target?.dispatchEvent(event)
    }
  }, moves)
  await expect(tool).toHaveAttribute('aria-pressed', 'false')
  await page.mouse.up()
  hands.count++
  const keys = async () =>
    ((await stored(page)).layers[0]?.motions.x as unknown as { keys: { value: number }[] })?.keys ?? []
  await expect.poll(async () => (await keys()).length).toBeGreaterThan(40)
  const recorded = (await keys()).length
  const motion = page.getByRole('region', { name: 'Motion' })
  await hands.click(motion.getByRole('button', { name: /^Close it/ }))
  const bend = await motion.getByTestId('bend-handle').first().boundingBox()
  if (!bend) throw new Error('there is nothing to bend')
  const before = JSON.stringify(await keys())
  await page.mouse.move(bend.x + bend.width / 2, bend.y + bend.height / 2)
  await page.mouse.down()
  await page.mouse.move(bend.x + bend.width / 2, bend.y + bend.height / 2 - 25, { steps: 5 })
  await page.mouse.up()
  hands.count++
  await expect.poll(async () => JSON.stringify(await keys())).not.toBe(before)
  await hands.click(motion.getByRole('button', { name: 'Thin it' }))
  await expect.poll(async () => (await keys()).length).toBeLessThan(recorded)
  const dragPath = async (dx: number, dy: number) => {
    const before = await keys()
    const line = page.getByTestId('motion-path-line')
    const points = ((await line.getAttribute('points')) ?? '').split(' ').map((pair) => pair.split(',').map(Number))
    const [x = 0, y = 0] = points[Math.floor(points.length / 3)] ?? []
    const on = await line.evaluate(
      (element, [px, py]) => {
        const svg = (element as SVGPolylineElement).ownerSVGElement as SVGSVGElement
        const point = new DOMPoint(px, py).matrixTransform((element as SVGPolylineElement).getScreenCTM() as DOMMatrix)
        return svg && { x: point.x, y: point.y }
      },
      [x, y] as const,
    )
    await page.mouse.move(on.x, on.y)
    await page.mouse.down()
    await page.mouse.move(on.x + dx / 2, on.y + dy / 2, { steps: 3 })
    await page.mouse.move(on.x + dx, on.y + dy, { steps: 3 })
    await page.mouse.up()
    hands.count++
    await expect.poll(async () => JSON.stringify(await keys())).not.toBe(JSON.stringify(before))
  }
  await dragPath(30, 20)
  await page.keyboard.down('Shift')
  await dragPath(10, 25)
  await page.keyboard.up('Shift')
  await closes(page)
  expect(hands.count).toBeLessThanOrEqual(8)
})

test('the tour leads from the library to a proven file; it is left and taken up again', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'Tour', exact: true }).click()
  const stop = page.getByRole('dialog').filter({ hasText: /\d of 8/ })
  await expect(stop).toContainText('Your loop')
  await stop.getByRole('button', { name: 'Next' }).click()
  await expect(stop).toContainText('Time is a ring')
  await stop.getByRole('button', { name: 'Next' }).click()
  await expect(stop).toContainText('Choose a layer')
  // The highlighted element can be used.
  await page.getByRole('region', { name: 'Layers' }).getByText('Arc', { exact: true }).click()
  await expect(page.getByRole('region', { name: 'Properties' }).getByRole('heading')).toHaveText('Arc')
  await page.keyboard.press('Escape')
  await expect(stop).toBeHidden()
  await page.getByRole('button', { name: 'Take the tour, or go on with it' }).click()
  await expect(stop).toContainText('Choose a layer')
  for (const title of ['Give it a motion', 'The seam is always in sight', 'Look at the seam itself', 'Write a file']) {
    await stop.getByRole('button', { name: 'Next' }).click()
    await expect(stop).toContainText(title)
  }
  await expect(page).toHaveURL(/export$/)
  await page.getByRole('button', { name: 'Write the GIF and prove it' }).click()
  await stop.getByRole('button', { name: 'Next' }).click()
  await expect(stop).toContainText('See that it holds')
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  await stop.getByRole('button', { name: 'Done' }).click()
  await expect(stop).toBeHidden()
})

test('a rest at the seam is said to be meant, and the proof of the file expects it', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByRole('dialog', { name: 'New loop' }).getByRole('button', { name: 'Make the loop' }).click()
  await expect(page.getByRole('region', { name: 'Layers' })).toBeVisible()
  await page.keyboard.press('Shift+l')
  await page.getByRole('button', { name: 'Turn', exact: true }).click()
  const motion = page.getByRole('region', { name: 'Motion' })
  await motion.getByLabel('ease of all').selectOption('ease-in-out')
  await expect(verdict(page)).toContainText('hesitates')
  await page.getByRole('button', { name: 'The rest is meant' }).click()
  await closes(page)
  await expect(page.getByRole('region', { name: 'Seam' })).toContainText('Its rest is meant.')
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'Write the GIF and prove it' }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  await expect(page.getByTestId('proof')).toContainText('hesitates, which is meant')
})

test('a loop of one’s own is kept to begin with, and its parts are those of the new one', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('button', { name: 'Keep Beacon loader to begin with' }).click()
  await page.reload()
  await expect(page.getByRole('button', { name: 'No longer keep Beacon loader to begin with' })).toBeVisible()
  await begin(new Hands(page), 'Beacon loader')
  const { layers, length } = await stored(page)
  expect([layers.map(({ name }) => name), length]).toEqual([['Track', 'Arc', 'Lamp'], 60])
  await page.goto('/')
  await expect(page.getByRole('link', { name: /Beacon loader/ })).toHaveCount(1)
})

test('loops of the library are found, put in order, and several are deleted and brought back', async ({ page }) => {
  await openLibrary(page, ...ALL_DEMO_LOOPS)
  const names = () => page.getByRole('list', { name: 'Loops', exact: true }).getByRole('heading').allTextContents()
  await page.getByLabel('Find loops').fill('lamp')
  await expect.poll(names).toContain('Signal lamp')
  expect(await names()).not.toContain('Bunting stripes')
  await page.getByLabel('Find loops').fill('no such loop')
  await expect(page.getByText('No loop is called so, nor any of its layers.')).toBeVisible()
  await page.getByLabel('Find loops').fill('')
  await page.getByLabel('Order').selectOption('by name')
  await expect.poll(async () => (await names())[0]).toBe('Beacon loader')
  for (const name of ['Beacon loader', 'Boarding buoys']) await page.getByLabel(`Choose ${name}`).check()
  await page.getByRole('group', { name: 'Loops of the library' }).getByRole('button', { name: 'Delete' }).click()
  await expect.poll(async () => (await names()).length).toBe(ALL_DEMO_LOOPS.length - 2)
  await page.getByRole('button', { name: 'Bring them back' }).click()
  await expect.poll(async () => (await names()).length).toBe(ALL_DEMO_LOOPS.length)
  // The trash gives one back, and forgets the other.
  for (const name of ['Beacon loader', 'Boarding buoys']) {
    await page.getByRole('button', { name: `Delete ${name}` }).click()
    await expect.poll(names).not.toContain(name)
  }
  await page.getByRole('button', { name: 'Trash, 2' }).click()
  const trash = page.getByRole('region', { name: 'Trash' })
  await trash
    .getByRole('listitem')
    .filter({ hasText: 'Beacon loader' })
    .getByRole('button', { name: 'Bring back' })
    .click()
  await expect.poll(names).toContain('Beacon loader')
  await expect(trash.getByRole('listitem')).toHaveCount(1)
  await trash.getByRole('button', { name: 'Delete for good' }).click()
  const asked = page.getByRole('dialog', { name: /^Delete “.+” for good\?$/ })
  await asked.getByRole('button', { name: 'Keep' }).click()
  await expect(trash.getByRole('listitem')).toHaveCount(1)
  await trash.getByRole('button', { name: 'Empty the trash' }).click()
  await asked.getByRole('button', { name: 'Delete for good' }).click()
  await expect(page.getByText('The trash is empty.')).toBeVisible()
  expect((await names()).length).toBe(ALL_DEMO_LOOPS.length - 1)
  // As long as the page is open it can be taken back.
  const deleted = page.getByRole('status').filter({ hasText: 'for good' })
  await deleted.getByRole('button', { name: 'Bring it back' }).click()
  await expect(trash.getByRole('listitem')).toHaveCount(1)
})

test('loops of the library are named, noted, seen large and written several at once', async ({ page }) => {
  await openLibrary(page, 'Boarding buoys', 'Tide gauge')
  const card = (name: string) =>
    page.getByRole('list', { name: 'Loops', exact: true }).getByRole('listitem').filter({ hasText: name })
  await card('Beacon loader').hover()
  await page.getByRole('button', { name: 'Name and note of Beacon loader' }).click()
  const dialog = page.getByRole('dialog', { name: 'Name and note' })
  await dialog.getByLabel('name').fill('Harbour beacon')
  await dialog.getByLabel('note').fill('For the ferry’s waiting room.')
  await dialog.getByRole('button', { name: 'Keep' }).click()
  await expect(card('Harbour beacon')).toContainText('For the ferry’s waiting room.')
  await page.getByLabel('Find loops').fill('ferry waiting')
  await expect(page.getByRole('list', { name: 'Loops', exact: true }).getByRole('listitem')).toHaveCount(1)
  const width = async () => (await card('Harbour beacon').locator('canvas').boundingBox())?.width ?? 0
  // As high as the card lets it, once it is drawn: until then a canvas has another shape.
  await expect.poll(width).toBe(176)
  await page.getByRole('button', { name: 'Large previews' }).click()
  await expect.poll(width).toBeGreaterThan(300)
  await page.getByLabel('Find loops').fill('')
  for (const name of ['Harbour beacon', 'Boarding buoys', 'Tide gauge']) await page.getByLabel(`Choose ${name}`).check()
  await page.getByRole('button', { name: 'Write files' }).click()
  await expect(page.getByRole('button', { name: 'Write 3 files' })).toBeVisible()
  await expect(page.getByLabel('Tide gauge')).toBeChecked()
})

test('a loop says where it is used', async ({ page }) => {
  await openLibrary(page, 'Tide gauge')
  for (const name of ['Beacon loader', 'Tide gauge']) await page.getByLabel(`Choose ${name}`).check()
  await page.getByRole('button', { name: 'Place together' }).click()
  await expect(verdict(page)).toContainText('closes')
  await page.goto('/')
  const card = page
    .getByRole('list', { name: 'Loops', exact: true })
    .getByRole('listitem')
    .filter({ hasText: /^Tide gauge|Tide gauge/ })
  await expect(card.filter({ hasText: 'used in' }).first()).toContainText('used in Beacon loader and others')
})

test('a property is found by typing, and shows what it does round the loop', async ({ page }) => {
  await openLibrary(page)
  await begin(new Hands(page), /arc that chases/)
  await page.getByRole('region', { name: 'Layers' }).getByText('Arc', { exact: true }).click()
  const properties = page.getByRole('region', { name: 'Properties' })
  const drawn = (label: string) =>
    properties.getByRole('button', { name: new RegExp(`^(Move|Show the motion of) ${label}$`) }).locator('polyline')
  await expect(drawn('rotation')).toHaveCount(1)
  await expect(drawn('opacity')).toHaveCount(0)
  await properties.getByLabel('Find a property').fill('blur')
  await expect(properties.getByLabel('blur', { exact: true })).toBeVisible()
  await expect(properties.getByLabel('rotation', { exact: true })).toHaveCount(0)
  await properties.getByLabel('Find a property').fill('')
  await expect(properties.getByLabel('rotation', { exact: true })).toBeVisible()
})
