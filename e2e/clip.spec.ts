import { zipSync } from 'fflate'
import sharp from 'sharp'
import { encodeCase } from '../bench/corpus/encode'
import { oddGif } from '../bench/corpus/odd-gif'
import { decodeGif } from '../src/codecs/gif-decode'
import { GIFEncoder } from '../src/codecs/gifenc'
import { downloadBytes, expect, openDemo, openFileView, setField, test, verdict } from './app'
import { caseOf, drop, findings, fixture, found } from './clips'

const pngOf = ({ data, width, height }: { data: Uint8ClampedArray; width: number; height: number }) =>
  sharp(data, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer()

test('a mended clip becomes a layer: whole cycles, start, backwards, frozen; exported, no frame of it is missing', async ({
  page,
}) => {
  await openFileView(page)
  await drop(page, 'swell.webp', await encodeCase(caseOf('drifting noise', 'its end is missing'), 'webp'), 'image/webp')
  await page.getByRole('button', { name: 'Overlap the ends by 5 frames' }).click()
  await expect(page.getByRole('list').getByText('ends overlapped by 5')).toBeVisible()
  await page.getByRole('button', { name: 'Make a loop of it' }).click()
  await expect(verdict(page)).toContainText('closes')
  await expect(page.getByText('Its frames are kept without loss, and the file with them.')).toBeVisible()
  // Fifteen frames of 40 ms, and no sixteenth.
  await expect(page.getByText('15 f · 25/s · 0.60 s')).toBeVisible()
  const panel = page.getByRole('region', { name: 'Properties' })
  await expect(panel.getByLabel('whole cycles')).toHaveValue('1')
  await expect(panel.getByLabel('pace')).toHaveValue('100')
  await setField(panel.getByLabel('pace'), '210')
  await expect(panel.getByLabel('whole cycles')).toHaveValue('2')
  await setField(panel.getByLabel('whole cycles'), '1')
  await setField(panel.getByLabel('first frame'), '4')
  await expect(panel.getByLabel('first frame')).toHaveValue('4')
  await panel.getByRole('button', { name: 'Backwards' }).click()
  await expect(panel.getByText(/backwards/)).toBeVisible()
  await expect(verdict(page)).toContainText('closes')
  await panel.getByRole('button', { name: 'Freeze' }).click()
  await expect(verdict(page)).toContainText('still')
  await panel.getByRole('button', { name: 'Run' }).click()
  await setField(panel.getByRole('textbox', { name: 'rotation' }), '20')
  await expect(verdict(page)).toContainText('closes')

  // It is there again after a reload, with its undo history.
  await expect(page.getByText('saved in this browser')).toBeVisible()
  await page.reload()
  await expect(verdict(page)).toContainText('closes')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(verdict(page)).toContainText('closes')

  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: /^Write the GIF/ }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save the GIF' }).click()
  const gif = decodeGif(new Uint8Array(await downloadBytes(await coming)))
  expect(gif.delaysCs).toHaveLength(15)
  for (const frame of gif.frames()) expect(frame.data.some((value, i) => i % 4 === 2 && value > 60)).toBe(true)

  // The file that it was cut from is still there as it came, without its mends.
  await page.getByRole('link', { name: 'Compose' }).click()
  await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'swell', exact: true }).click()
  await panel.getByRole('button', { name: 'Open its file' }).click()
  await expect(page.getByTestId('file-view')).toContainText('swell.webp')
  await expect(found(page)).toContainText('jumps')
})

test('a clip that jumps is named where it is placed, in the loop that is open; undo takes it away', async ({
  page,
}) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await expect(verdict(page)).toContainText('closes')
  const clip = await encodeCase(caseOf('turning', 'its end is missing'), 'gif, one palette')
  await drop(page, 'lamp.gif', clip, 'image/gif')
  await expect(findings(page).first()).toHaveAttribute('data-kind', 'jumps')
  await page.getByRole('button', { name: 'Place it in “Beacon loader”' }).click()
  await expect(verdict(page)).toContainText('jumps')
  await expect(page.getByText('The clip “lamp” jumps at its own seam')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(verdict(page)).toContainText('closes')
})

test('a sprite sheet is found, and cut as it is told; a ZIP of numbered pictures is a sequence', async ({ page }) => {
  await openFileView(page)
  const { pictures } = caseOf('turning', 'none')
  const tiles = await Promise.all(pictures.map(pngOf))
  const sheet = await sharp({ create: { width: 576, height: 384, channels: 4, background: '#0b2230' } })
    .composite(tiles.map((input, n) => ({ input, left: 96 * (n % 6), top: 96 * Math.floor(n / 6) })))
    .png()
    .toBuffer()
  await drop(page, 'lamp-sheet.png', sheet, 'image/png')
  const frames = found(page).getByRole('row', { name: /^frames/ })
  await expect(frames).toContainText('24')
  await expect(found(page)).toContainText('a sprite sheet of 6 × 4, as was found')
  await expect(found(page)).toContainText('closes')
  await setField(page.getByLabel('frames', { exact: true }), '12')
  await page.getByRole('button', { name: 'Cut it into 12 frames' }).click()
  await expect(frames).toContainText('12')
  await expect(findings(page).first()).toHaveAttribute('data-kind', 'jumps')

  const files = Object.fromEntries(tiles.map((bytes, n) => [`lamp/lamp_${n + (n < 10 ? 0 : 1)}.png`, bytes]))
  await drop(page, 'lamp.zip', zipSync({ ...files, 'lamp/notes.txt': new Uint8Array([1]) }), 'application/zip')
  await expect(found(page)).toContainText('24 pictures')
  await expect(found(page)).toContainText('numbers are missing: 10')
  await page.getByText('Mend by hand').click()
  await setField(page.getByLabel('lasts, in s'), '0.8')
  await page.getByRole('button', { name: 'Let it last 0.8 s: 30 frames a second' }).click()
  await expect(found(page).getByRole('row', { name: /^time/ })).toContainText('0.80 s')

  const alert = page.getByTestId('file-view').getByRole('alert')
  for (const [name, bytes, words] of [
    ['half.zip', zipSync(files).slice(0, 2000), 'is damaged or breaks off'],
    ['notes.zip', zipSync({ 'notes.txt': new Uint8Array([1]) }), 'holds no pictures'],
    ['pier.zip', zipSync({ 'loop.cyclon.json': new Uint8Array([1]) }), 'is a Cyclon loop'],
  ] as const) {
    await drop(page, name, bytes, 'application/zip')
    await expect(alert).toContainText(words)
    await expect(found(page)).toContainText('24 pictures')
    await page.getByRole('button', { name: 'Close' }).click()
  }
})

test('a range is pulled on the strip: its seam is seen while it is, and cropping takes it', async ({ page }) => {
  await openFileView(page)
  await drop(page, 'lamp.gif', fixture('lamp.gif'), 'image/gif')
  await page.getByRole('button', { name: 'Choose a range' }).click()
  const last = page.getByRole('slider', { name: 'Last frame of the range' })
  const box = await last.boundingBox()
  const strip = await page.getByRole('group', { name: 'The whole clip' }).boundingBox()
  if (!box || !strip) throw new Error('no strip')
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(strip.x + strip.width / 2, box.y + 10, { steps: 5 })
  await expect(last).toHaveAttribute('aria-valuenow', '11')
  await expect(page.getByText('11 → 0')).toBeVisible()
  await expect(found(page)).toContainText('if this is mended')
  await expect(found(page)).toContainText('jumps')
  await page.mouse.up()
  await last.press('ArrowRight')
  await expect(last).toHaveAttribute('aria-valuenow', '12')
  await page.getByRole('button', { name: 'Crop to 13 f' }).click()
  await expect(page.getByRole('list').getByText('cropped to frames 0 to 12')).toBeVisible()
  await page.getByText('show and play it without the mends').click()
  await expect(found(page)).toContainText('as it came')
  await expect(page.getByText('23 → 0')).toBeVisible()
})

test('frames are looked at closely: zoomed in lockstep, with a loupe, a grid and guides, in every way', async ({
  page,
}) => {
  await openFileView(page)
  await drop(page, 'lamp.gif', fixture('lamp.gif'), 'image/gif')
  const picture = page.locator('[data-picture]').first()
  await expect(picture).toBeVisible()
  const zoom = page.getByTestId('zoom')
  const fit = await zoom.textContent()
  await page.keyboard.press('+')
  await expect(zoom).not.toHaveText(fit ?? '')
  await picture.hover()
  await page.mouse.wheel(0, -400)
  await page.keyboard.press('d')
  const loupe = page.getByTestId('loupe')
  const middle = await picture.boundingBox()
  await page.mouse.move((middle?.x ?? 0) + 60, (middle?.y ?? 0) + 60)
  await expect(loupe).toContainText(/x \d+, y \d+/)
  await expect(loupe).toContainText(/#[0-9a-f]{8}/)
  await expect(loupe).toContainText(/alike|apart by/)
  await page.keyboard.press('g')
  await setField(page.getByLabel('every'), '8')
  await page.getByRole('button', { name: 'Add an upright guide' }).click()
  const guide = page.getByRole('slider', { name: 'Upright guide' })
  await expect(guide).toHaveCount(2)
  const at = Number(await guide.first().getAttribute('aria-valuenow'))
  await guide.first().focus()
  await page.keyboard.press('ArrowRight')
  await expect(guide.last()).toHaveAttribute('aria-valuenow', String(at + 1))
  await page.keyboard.press('Delete')
  await expect(guide).toHaveCount(0)
  await page.getByRole('button', { name: 'difference' }).click()
  for (const kind of ['heat', 'signed', 'channels']) {
    await page.getByLabel('Painted as').selectOption(kind)
    await expect(
      page.getByRole('img', {
        name: { heat: /how much/, signed: /lighter or darker/, channels: /what differs/ }[kind] as RegExp,
      }),
    ).toBeVisible()
  }
  await page.keyboard.press('0')
  await expect(zoom).toHaveText(fit ?? '')
  // Pointing at a step shows its two frames; the seam comes back when the pointer leaves.
  const steps = page.getByRole('img', { name: /^Steps of the loop/ })
  const chart = await steps.boundingBox()
  await page.mouse.move((chart?.x ?? 0) + 70, (chart?.y ?? 0) + 90)
  await expect(page.getByText(/^1[23] → 1[34]$/)).toBeVisible()
  await page.mouse.move(20, 20)
  await expect(page.getByText('23 → 0')).toBeVisible()
})

test('the seam of an open loop has the same strip, and keys scrub it', async ({ page }) => {
  await openDemo(page, 'Lens sweep')
  await page.getByRole('link', { name: 'Seam' }).click()
  await expect(page.getByRole('group', { name: 'Frames at the seam' })).toBeVisible()
  await page.getByRole('button', { name: 'Frame 2', exact: true }).click()
  await expect(page.getByText('2 → 3')).toBeVisible()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByText('3 → 4')).toBeVisible()
  await page.getByRole('button', { name: 'Back to the seam' }).click()
  await expect(page.getByText(/closing frame, \d+ \(never written\)/)).toBeVisible()
  await expect(page.getByRole('img', { name: /^Where each step is/ })).toBeVisible()
})

test('uneven times, codings of colour, and whatever else a GIF may do come in as they are', async ({ page }) => {
  await openFileView(page)
  const row = (name: RegExp) => found(page).getByRole('row', { name })
  await drop(page, 'uneven.mp4', fixture('uneven.mp4'), 'video/mp4')
  await expect(row(/^delays/)).toContainText('40, 80 ms')
  await expect(row(/^frames/)).toContainText('24')
  // The same colours, coded in two ways, each said in its file.
  await page.keyboard.press('d')
  const values: number[][] = []
  for (const name of ['hd.mp4', 'sd.mp4']) {
    await drop(page, name, fixture(name), 'video/mp4')
    await expect(page.getByRole('heading', { name })).toBeVisible()
    await expect(found(page)).toContainText('closes')
    const picture = await page.locator('[data-picture]').first().boundingBox()
    await page.mouse.move(20, 20)
    await page.mouse.move((picture?.x ?? 0) + (picture?.width ?? 0) / 2, (picture?.y ?? 0) + (picture?.height ?? 0) / 2)
    const text = await page
      .getByTestId('loupe')
      .getByText(/#[0-9a-f]{8}/)
      .first()
      .textContent()
    const hex = /#([0-9a-f]{6})/.exec(text ?? '')?.[1] ?? ''
    values.push([0, 2, 4].map((i) => Number.parseInt(hex.slice(i, i + 2), 16)))
  }
  for (const [c, value] of (values[0] ?? []).entries())
    expect(Math.abs(value - (values[1]?.[c] ?? -99))).toBeLessThan(6)
  const odd = oddGif(42)
  await drop(page, 'odd.gif', odd.bytes, 'image/gif')
  await expect(page.getByRole('heading', { name: 'odd.gif' })).toBeVisible()
  await expect(row(/^frames/)).toContainText(String(odd.frames.length))
  const total = odd.delaysCs.reduce((sum, delay) => sum + delay, 0) / 100
  await expect(row(/^time/)).toContainText(`${total.toFixed(2)} s`)
  await expect(row(/^alpha/)).toContainText('yes')

  // Two thousand frames, and a single pixel in a single frame.
  const many = GIFEncoder()
  for (let n = 0; n < 2000; n++)
    many.writeFrame(
      Uint8Array.from({ length: 64 }, (_, i) => Number(i === n % 50)),
      8,
      8,
      {
        palette: [
          [11, 34, 48],
          [242, 181, 74],
        ],
        delay: 40,
        repeat: 0,
      },
    )
  many.finish()
  await drop(page, 'many.gif', many.bytes(), 'image/gif')
  await expect(row(/^frames/)).toContainText('2000')
  await expect(page.locator('[data-kind=shorter-loop]')).toContainText('the loop is 50 frames long')
  const one = oddGif(3, { width: 1, height: 1, count: 1 })
  await drop(page, 'one.gif', one.bytes, 'image/gif')
  await expect(page.getByRole('heading', { name: 'one.gif' })).toBeVisible()
  await expect(found(page)).toContainText('still')
})
