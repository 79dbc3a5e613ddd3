import { GifReader } from 'omggif'
import {
  downloadBytes,
  expect,
  expectSame,
  frameReadout,
  makeLoop,
  openLibrary,
  PLAYING,
  setField,
  storedLoop,
  test,
  verdict,
} from './app'

test.use(PLAYING)

test('from an empty page to a proven loop file, with mouse and keyboard', async ({ page }) => {
  // 1. The library plays the demo loops; a brief makes a new one, its clock exact and mutual.
  await openLibrary(page, 'Boarding buoys')
  await page.getByRole('button', { name: 'New loop' }).click()
  const brief = page.getByRole('dialog', { name: 'New loop' })
  const field = (label: string) => brief.getByLabel(label, { exact: true })
  await field('name').fill('Harbour lamp')
  await field('rate').fill('29.97')
  await expect(brief.getByText('60 f at 30000/1001/s')).toBeVisible()
  await field('rate').blur()
  await brief.getByRole('button', { name: 'Keep the time' }).click()
  await expect(field('time')).toHaveValue('2.002')
  await field('rate').fill('24')
  await expect(field('length')).toHaveValue('48')
  await brief.getByRole('button', { name: 'Keep the rate' }).click()
  await field('time').fill('1.5')
  await expect(field('length')).toHaveValue('36')
  await field('length').fill('48')
  await expect(brief.getByText('one frame is worth 7.5° of a full turn, 2.083 % of the loop')).toBeVisible()
  await brief.getByRole('button', { name: 'Make the loop' }).click()
  await expect(verdict(page)).toContainText('still')

  // 2. Draw with the mouse, then move, scale and turn with the handles.
  const stage = page.getByTestId('stage')
  const box = await stage.locator('svg').boundingBox()
  if (!box) throw new Error('the stage is not there')
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const
  const drag = async (from: readonly [number, number], to: readonly [number, number]) => {
    await page.mouse.move(...from)
    await page.mouse.down()
    await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2)
    await page.mouse.move(...to)
    await page.mouse.up()
  }
  await page.getByRole('button', { name: 'Draw: Polygon or star' }).click()
  await drag(at(0.3, 0.3), at(0.6, 0.6))
  const properties = page.getByRole('region', { name: 'Properties' })
  const property = (label: string) => properties.getByLabel(label, { exact: true })
  await expect(properties.getByRole('heading')).toHaveText('Polygon or star')
  await setField(property('corners'), '5')
  await setField(property('inner radius'), '50')
  const before = Number(await property('x').inputValue())
  await drag(at(0.45, 0.45), at(0.5, 0.5))
  expect(Number(await property('x').inputValue())).toBeCloseTo(240, 0)
  expect(before).toBeLessThan(230)
  const corner = await stage.locator('[data-handle="scale 1 1"]').boundingBox()
  if (!corner) throw new Error('no handle to scale by')
  await drag([corner.x + 4, corner.y + 4], [corner.x + 34, corner.y + 34])
  expect(Number(await property('scale x').inputValue())).toBeGreaterThan(1.1)
  const turn = await stage.locator('[data-handle=turn]').boundingBox()
  if (!turn) throw new Error('no handle to turn by')
  await drag([turn.x + 5, turn.y + 5], [turn.x + 65, turn.y + 25])
  expect(Math.abs(Number(await property('rotation').inputValue()))).toBeGreaterThan(5)
  await setField(property('rotation'), '0')

  await page.getByRole('button', { name: 'Draw: Ellipse' }).click()
  await drag(at(0.2, 0.2), at(0.8, 0.8))
  await page.getByRole('button', { name: 'fill: none' }).click()
  await setField(property('stroke'), '#f2b54a')
  await setField(property('stroke width'), '24')
  await property('caps').selectOption('round')
  // Rarely used properties are folded to their names.
  await expect(property('dash')).toHaveCount(0)
  await properties.getByRole('button', { name: 'joins, dash, dash offset' }).click()
  await setField(property('dash'), '60 20')
  await setField(property('end'), '75')
  await expect(property('end')).toHaveValue('75')
  await setField(property('dash'), '')

  // 3. Motion: an even turn, tied to the loop, that comes home by equivalence.
  await properties.getByRole('button', { name: 'Move rotation' }).click()
  const motion = page.getByRole('region', { name: 'Motion' })
  await expect(motion.getByTestId('homecoming')).toContainText('comes home')
  await expect(motion.getByLabel('after each')).toHaveValue('accumulate')
  await expect(motion.getByLabel('Ease of key 1')).toHaveValue('linear')
  await expect(verdict(page)).toContainText('closes')

  // 4. The dial: the hand is dragged, and a bead of the unrolled motion.
  await properties.getByRole('button', { name: 'Move opacity' }).click()
  const dial = page.getByRole('group', { name: 'Dial' })
  const bead = dial.getByRole('slider', { name: 'Ellipse, opacity, key 2' })
  await expect(bead).toHaveAttribute('aria-valuenow', '24')
  const ring = await dial.boundingBox()
  const grip = await bead.boundingBox()
  if (!ring || !grip) throw new Error('no dial')
  const centre = [ring.x + ring.width / 2, ring.y + ring.height / 2] as const
  await drag([grip.x + grip.width / 2, grip.y + grip.height / 2], [centre[0] + 60, centre[1]])
  await expect(bead).toHaveAttribute('aria-valuenow', '12')
  await page.mouse.click(centre[0] - ring.width * 0.46, centre[1])
  await expect(frameReadout(page)).toHaveText('36')

  // 5. Play from the cache at the true rate; step across the seam.
  await expect(page.getByTestId('cached')).toHaveAttribute('data-count', '48')
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect(page.getByTestId('measured-rate')).toContainText('/s')
  await page.getByRole('button', { name: 'Stop' }).click()
  await page.getByRole('button', { name: 'Go to the seam' }).click()
  await expect(frameReadout(page)).toHaveText('0')
  await page.keyboard.press('ArrowLeft')
  await expect(frameReadout(page)).toHaveText('47')
  await page.keyboard.press('ArrowRight')
  await expect(frameReadout(page)).toHaveText('0')

  // 6. A turn of 350° is named with its gap; a remedy is previewed, then taken.
  await motion.getByRole('button', { name: 'rotation' }).click()
  await setField(motion.getByLabel('travel'), '350')
  await expect(verdict(page)).toContainText('jumps')
  await expect(page.getByLabel('Seam', { exact: true })).toContainText('ends 10° away from where it starts')
  const remedy = 'Travel 360° per cycle instead of 350°'
  await motion.getByRole('button', { name: `Preview: ${remedy}` }).click()
  await expect(verdict(page)).toContainText('in the preview')
  await expect(verdict(page)).toContainText('closes')
  await motion.getByRole('button', { name: `Preview: ${remedy}` }).click()
  await expect(verdict(page)).toContainText('jumps')
  await page.getByRole('link', { name: 'Seam' }).click()
  const compare = page.getByTestId('compare')
  for (const mode of ['flip', 'difference', 'onion skin', 'side by side']) {
    await page.getByRole('button', { name: mode, exact: true }).click()
    await expect(compare).toHaveAttribute('data-mode', mode)
    await expect(compare.locator('canvas').first()).toBeVisible()
  }
  await page.getByRole('button', { name: 'Show the motion' }).click()
  await motion.getByRole('button', { name: `Take: ${remedy}` }).click()
  await expect(verdict(page)).toContainText('closes')

  // 8. Undo and redo; close the tab and come back.
  await page.keyboard.press('Control+z')
  await expect(verdict(page)).toContainText('jumps')
  await page.keyboard.press('Control+Shift+z')
  await expect(verdict(page)).toContainText('closes')
  const stored = await storedLoop(page)
  const address = page.url()
  const again = await page.context().newPage()
  await page.close()
  await again.addInitScript(() => {
    Reflect.deleteProperty(window, 'showOpenFilePicker')
    Reflect.deleteProperty(window, 'showSaveFilePicker')
  })
  await again.goto(address)
  await expect(verdict(again)).toContainText('closes')
  expect(await storedLoop(again)).toEqual(stored)
  await again.getByRole('button', { name: 'Undo' }).click()
  await expect(verdict(again)).toContainText('jumps')
  await again.getByRole('button', { name: 'Redo' }).click()
  await expect(verdict(again)).toContainText('closes')

  const [project] = await Promise.all([
    again.waitForEvent('download'),
    again.getByRole('button', { name: 'Save to a file' }).click(),
  ])
  expect(project.suggestedFilename()).toBe('harbour-lamp.cyclon.json')
  const saved = (await downloadBytes(project)).toString('utf8')
  expectSame(saved, stored)

  // 7. Export a GIF with its proof, and decode the download with a third decoder.
  await again.getByRole('link', { name: 'Export' }).click()
  await again.getByRole('button', { name: 'Write the GIF and prove it' }).click()
  await expect(again.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const [gif] = await Promise.all([
    again.waitForEvent('download'),
    again.getByRole('button', { name: 'Save the GIF' }).click(),
  ])
  const reader = new GifReader(await downloadBytes(gif))
  expect([reader.width, reader.height, reader.numFrames(), reader.loopCount()]).toEqual([480, 480, 48, 0])
  const delays = Array.from({ length: 48 }, (_, n) => reader.frameInfo(n).delay)
  expect(delays.reduce((a, b) => a + b, 0)).toBe(200)
  expect(new Set(delays)).toEqual(new Set([4, 5]))
  const canvas = new Uint8Array(480 * 480 * 4)
  const shown = delays.map((_, n) => {
    reader.decodeAndBlitFrameRGBA(n, canvas as unknown as number[])
    return Buffer.from(canvas)
  })
  for (const [a, b] of [
    [46, 47],
    [47, 0],
    [0, 1],
  ] as const)
    expect((shown[a] as Buffer).equals(shown[b] as Buffer), `frames ${a} and ${b} are equal`).toBe(false)

  const [png] = await Promise.all([
    again.waitForEvent('download'),
    again.getByRole('button', { name: /Save frame \d+ as PNG/ }).click(),
  ])
  expect((await downloadBytes(png)).subarray(1, 4).toString()).toBe('PNG')

  // 8. The file opens elsewhere to the last number: another browser, by dialog.
  const elsewhere = await (await again.context().browser()?.newContext())?.newPage()
  if (!elsewhere) throw new Error('no second browser')
  await elsewhere.addInitScript(() => Reflect.deleteProperty(window, 'showOpenFilePicker'))
  await openLibrary(elsewhere)
  const [chooser] = await Promise.all([
    elsewhere.waitForEvent('filechooser'),
    elsewhere.getByRole('button', { name: 'Open a file' }).click(),
  ])
  await chooser.setFiles({ name: 'harbour-lamp.cyclon.json', mimeType: 'application/json', buffer: Buffer.from(saved) })
  await expect(verdict(elsewhere)).toContainText('closes')
  expect(await storedLoop(elsewhere)).toEqual(stored)
})

test('both ends keyed alike in a free, unrepeated motion repeat a frame', async ({ page }) => {
  await openLibrary(page)
  await makeLoop(page, 'Pier post')
  await page.keyboard.press('Shift+r')
  await page.getByRole('button', { name: 'Move y' }).click()
  const motion = page.getByRole('region', { name: 'Motion' })
  await motion.getByLabel('after each').selectOption('once')
  await motion.getByRole('button', { name: 'free', exact: true }).click()
  await setField(motion.getByLabel('Frames of one cycle'), '47')
  await motion.getByLabel('ease of all').selectOption('linear')
  await setField(motion.getByLabel('Frame of key 2'), '20')
  await expect(verdict(page)).toContainText('repeats a frame')
  await expect(page.getByLabel('Seam', { exact: true })).toContainText('frame 47 already shows what frame 0 shows')
  const remedies = motion.getByRole('list', { name: 'Remedies' }).getByRole('listitem')
  await expect(remedies.first()).toContainText('Repeat, one cycle per loop')
  const take = motion.getByRole('button', { name: /^Take: Make the cycle 48 frames long/ })
  await take.click()
  await expect(verdict(page)).toContainText('closes')
})
