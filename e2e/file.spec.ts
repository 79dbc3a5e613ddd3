import sharp from 'sharp'
import { encodeCase } from '../bench/corpus/encode'
import { decodeGif } from '../src/codecs/gif-decode'
import { expect, Hands, openDemo, openFileView, openLibrary, PLAYING, setField, storedLoop, test, verdict } from './app'
import { caseOf, drop, findings, fixture, found, written } from './clips'

test.use(PLAYING)

test('a blank last frame is named, dropped, and the written file is proven', async ({ page }) => {
  await openLibrary(page)
  await drop(
    page,
    'lamp.gif',
    await encodeCase(caseOf('turning', 'an empty frame after the last'), 'gif, one palette'),
    'image/gif',
  )
  await expect(findings(page)).toHaveCount(1)
  await expect(findings(page)).toHaveAttribute('data-kind', 'blank-frame')
  await expect(findings(page)).toContainText('frame 24')
  await expect(found(page)).toContainText('blank frame')

  // Pointing at the mend shows what it would do; leaving takes it back.
  await page.getByRole('button', { name: 'Drop frame 24' }).hover()
  await expect(found(page)).toContainText('if this is mended')
  await expect(found(page)).toContainText('closes')
  await page.getByRole('heading', { name: 'lamp.gif' }).hover()
  await expect(found(page)).not.toContainText('if this is mended')
  await page.getByRole('button', { name: 'Drop frame 24' }).click()
  await expect(findings(page)).toHaveCount(0)
  await expect(found(page)).toContainText('Before: blank frame.')
  await page.getByRole('button', { name: 'Undo the last mend' }).click()
  await expect(findings(page)).toHaveCount(1)
  await page.getByRole('button', { name: 'Redo the mend' }).click()
  await expect(findings(page)).toHaveCount(0)

  const gif = decodeGif(await written(page))
  expect(gif.delaysCs).toEqual(new Array(24).fill(4))
  expect(gif.playsForever).toBe(true)
})

test('a repeated frame is named and dropped', async ({ page }) => {
  await openLibrary(page)
  await drop(
    page,
    'sail.png',
    await encodeCase(caseOf('sliding', 'repeats its first frame at the end'), 'apng'),
    'image/png',
  )
  await expect(findings(page)).toContainText(['repeats a frame · frame 24'])
  await expect(findings(page)).toContainText(['the range is one frame too long'])
  await page.getByRole('button', { name: 'Drop frame 24' }).click()
  await expect(found(page)).toContainText('closes')
  expect(decodeGif(await written(page)).delaysCs).toHaveLength(24)
})

test('a jump is mended by overlapping the ends', async ({ page }) => {
  await openLibrary(page)
  await drop(page, 'swell.webp', await encodeCase(caseOf('drifting noise', 'its end is missing'), 'webp'), 'image/webp')
  await expect(findings(page).first()).toHaveAttribute('data-kind', 'jumps')
  for (const mode of ['flip', 'difference', 'onion skin', 'wipe', 'side by side']) {
    await page.getByRole('button', { name: mode, exact: true }).click()
    await expect(page.getByTestId('compare')).toHaveAttribute('data-mode', mode)
  }
  await expect(page.getByText('19 → 0')).toBeVisible()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByText('0 → 1')).toBeVisible()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByText('18 → 19')).toBeVisible()
  await page.getByRole('button', { name: 'Frame 19', exact: true }).click()
  await page.getByRole('button', { name: /^around the seam/ }).click()
  await expect(page.getByTestId('player')).toHaveAttribute('data-frame', /^(1[4-9]|[0-5])$/)
  await page.getByRole('button', { name: 'play', exact: true }).click()
  await expect(page.getByText('20 frames with their own delays')).toBeVisible()
  await page.getByRole('button', { name: 'still', exact: true }).click()
  await page.getByRole('button', { name: 'Overlap the ends by 5 frames' }).click()
  await expect(found(page)).toContainText('Before: jumps.')
  await expect(page.locator('[data-kind=jumps]')).toHaveCount(0)
  expect(decodeGif(await written(page)).delaysCs).toHaveLength(15)
})

test('mends are chosen by hand: a range, how far the ends overlap, there and back', async ({ page }) => {
  await openFileView(page)
  await drop(page, 'lamp.gif', fixture('lamp.gif'), 'image/gif')
  await page.getByText('Mend by hand').click()
  const frames = found(page).getByRole('row', { name: /^frames/ })
  await setField(page.getByLabel('from frame'), '6')
  await setField(page.getByLabel('to frame'), '17')
  await page.getByRole('button', { name: 'Crop to 12 frames' }).click()
  await expect(frames).toContainText('2412')
  await expect(page.locator('[data-kind=jumps]')).toHaveCount(1)
  await page.getByRole('button', { name: 'Run it there and back: 22 frames' }).click()
  await expect(page.getByRole('list').getByText('there and back', { exact: true })).toBeVisible()
  await expect(frames).toContainText('2422')
  await expect(page.locator('[data-kind=there-and-back]')).toHaveCount(1)
  await expect(found(page)).toContainText('closes')
  await page.keyboard.press('Control+z')
  await expect(frames).toContainText('2412')
  await setField(page.getByLabel('overlap by'), '4')
  await page.getByLabel('by', { exact: true }).selectOption('a morph along the motion')
  // They overlap into what was cropped off, and the clip stays as long as it is.
  await page.getByRole('button', { name: 'Overlap the ends: 12 frames' }).click()
  await expect(frames).toContainText('2412')
  await expect(page.getByRole('list').getByText('ends overlapped by 4, morphed along their motion')).toBeVisible()
})

test('a loop that plays once is set to repeat for ever', async ({ page }) => {
  await openLibrary(page)
  await drop(page, 'buoy.gif', await encodeCase(caseOf('turning', 'plays once'), 'gif, one palette'), 'image/gif')
  await expect(findings(page)).toContainText(['viewers stop it'])
  await page.getByRole('button', { name: 'Repeat for ever' }).click()
  await expect(findings(page)).toHaveCount(0)
  expect(decodeGif(await written(page)).playsForever).toBe(true)
})

test('a broken file is said; the open clip, the open loop and the library stay as they were', async ({ page }) => {
  const sound = await encodeCase(caseOf('turning', 'plays once'), 'gif, one palette')
  await openDemo(page)
  await drop(page, 'buoy.gif', sound, 'image/gif')
  await expect(page.getByRole('heading', { name: 'buoy.gif' })).toBeVisible()
  await page.getByRole('button', { name: 'Repeat for ever' }).click()
  const huge = sound.slice()
  new DataView(huge.buffer).setUint16(6, 30_000, true)
  new DataView(huge.buffer).setUint16(8, 30_000, true)
  for (const [name, bytes, words] of [
    ['half.gif', sound.slice(0, 900), /breaks off after 900 bytes/],
    ['words.gif', new TextEncoder().encode('words'), /does not begin as any moving picture/],
    ['huge.gif', huge, /claims 30000 × 30000 px/],
    ['empty.gif', new Uint8Array(0), /The file is empty/],
  ] as const) {
    await drop(page, name, bytes, 'image/gif')
    await expect(page.getByTestId('file-view').getByRole('alert')).toContainText(words)
    await expect(page.getByRole('heading', { name: 'buoy.gif' })).toBeVisible()
    await expect(page.getByText('set to repeat for ever')).toBeVisible()
    await page.getByRole('button', { name: 'Close' }).click()
  }
  await page.goBack()
  await expect(page.getByTestId('stage')).toBeVisible()
})

const FIXTURES = [
  ['lamp.gif', 'image/gif', 'GIF'],
  ['local.gif', 'image/gif', 'GIF'],
  ['interlaced.gif', 'image/gif', 'GIF'],
  ['hd.mp4', 'video/mp4', 'MP4, H.264'],
  ['lamp.png', 'image/png', 'APNG'],
  ['clear.webp', 'image/webp', 'WebP'],
  ['lamp.avif', 'image/avif', 'AVIF'],
  ['lamp.mp4', 'video/mp4', 'MP4, H.264'],
  ['turned.mp4', 'video/mp4', 'MP4, H.264'],
  ['lamp.mov', 'video/quicktime', 'MOV, H.264'],
  ['lamp.webm', 'video/webm', 'WebM, VP9'],
  ['clear.webm', 'video/webm', 'WebM, VP9'],
] as const

test('files of a general-purpose encoder come in with all their frames and times, and close', async ({ page }) => {
  await openFileView(page)
  for (const [name, type, format] of FIXTURES) {
    await drop(page, name, fixture(name), type)
    await expect(page.getByRole('heading', { name })).toBeVisible()
    const file = found(page).getByRole('region', { name: 'The file' })
    await expect(file.getByRole('row', { name: /^format/ }), name).toContainText(format)
    await expect(file.getByRole('row', { name: /^frames/ }), name).toContainText('24')
    await expect(file.getByRole('row', { name: /^time/ }), name).toContainText('0.96 s')
    await expect(file.getByRole('row', { name: /^alpha/ }), name).toContainText(
      name.startsWith('clear') ? 'yes' : 'none',
    )
    await expect(found(page), name).toContainText('closes')
    await expect(findings(page), name).toHaveCount(0)
  }
  await expect(page.getByText('how often it is played')).toBeVisible()
})

test('a broken video and pictures of two sizes are said; numbered pictures come in as a sequence', async ({ page }) => {
  await openFileView(page)
  const alert = page.getByTestId('file-view').getByRole('alert')
  await drop(page, 'half.mp4', fixture('lamp.mp4').slice(0, 4000), 'video/mp4')
  await expect(alert).toContainText('half.mp4')
  await page.getByRole('button', { name: 'Close' }).click()
  const { pictures } = caseOf('turning', 'none')
  const stills = await Promise.all(
    pictures.map(({ data, width, height }) =>
      sharp(data, { raw: { width, height, channels: 4 } })
        .png()
        .toBuffer(),
    ),
  )
  const choose = async (files: { name: string; buffer: Buffer }[]) => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Open a file' }).click()
    await (await chooser).setFiles(files.map((file) => ({ ...file, mimeType: 'image/png' })))
  }
  const numbered = stills.map((buffer, n) => ({ name: `lamp_${n < 12 ? n + 1 : n + 3}.png`, buffer }))
  await choose([...numbered].reverse())
  await expect(found(page)).toContainText('24 pictures')
  await expect(found(page)).toContainText('numbers are missing: 13 to 14')
  await expect(found(page)).toContainText('closes')
  const small = await sharp(stills[0] as Buffer)
    .resize(40)
    .png()
    .toBuffer()
  await choose([...numbered, { name: 'lamp_99.png', buffer: small }])
  await expect(alert).toContainText('lamp_99.png has 40 × 40 px, the first picture 96 × 96')
  await expect(found(page)).toContainText('24 pictures')
})

test('loops that lie in a clip are found: pointed at on the map or in the list they are shown, pressed they are taken', async ({
  page,
}) => {
  const whole = caseOf('turning', 'none')
  // Twice round and a little more, from somewhere on the way.
  const order = Array.from({ length: 55 }, (_, n) => (n + 9) % whole.pictures.length)
  const pictures = order.map((n) => whole.pictures[n] as (typeof whole.pictures)[number])
  const clip = { ...whole, pictures, delaysMs: pictures.map(() => 40) }
  await openFileView(page)
  await drop(page, 'lamp.gif', await encodeCase(clip, 'gif, one palette'), 'image/gif')
  await expect(found(page)).toContainText('jumps')
  await found(page).getByText('Loops in it').click()
  await expect(found(page).getByTestId('period')).toHaveText('It comes back every 24 frames.')
  const loops = found(page).getByRole('list', { name: 'Loops in the clip' }).getByRole('button')
  await expect(loops.first()).toContainText('48 f')
  await loops.first().hover()
  await expect(found(page)).toContainText('if this is mended')
  await expect(found(page)).toContainText('closes')
  await page.getByRole('heading', { name: 'lamp.gif' }).hover()
  await expect(found(page)).not.toContainText('if this is mended')
  // No longer than once round, and the frame that is looked at in it.
  await setField(found(page).getByRole('textbox', { name: 'at most' }), '30')
  await expect(loops.first()).toContainText('24 f')
  await expect(loops.filter({ hasText: '48 f' })).toHaveCount(0)
  await found(page).getByLabel('holds the frame that is looked at').check()
  await expect(found(page).getByText('holds frame 54')).toBeVisible()
  const map = found(page).getByTestId('cut-map')
  await map.hover({ position: { x: 12, y: 10 } })
  await expect(found(page)).toContainText('if this is mended')
  await loops.first().click()
  await expect(found(page).getByRole('region', { name: 'Mends' })).toContainText(/crop/i)
  await expect(found(page)).toContainText('closes')
  await page.keyboard.press('Control+z')
  await expect(found(page)).toContainText('jumps')
})

test('a cinemagraph: a frame is held still in one press, what moves is painted in one stroke, and it closes', async ({
  page,
}) => {
  await openFileView(page)
  await drop(page, 'lamp.gif', await encodeCase(caseOf('turning', 'none'), 'gif, one palette'), 'image/gif')
  await expect(found(page)).toContainText('closes')
  const hands = new Hands(page)
  await hands.click(page.getByRole('button', { name: /^Hold frame \d+ still, paint what moves$/ }))
  await expect(page.getByTestId('stage')).toBeVisible()
  await expect
    .poll(async () => {
      const { layers } = await storedLoop(page)
      return (layers as { kind: string; layers?: { kind: string }[] }[]).map(({ kind, layers: held }) => [
        kind,
        held?.map((each) => each.kind),
      ])
    })
    .toEqual([
      ['picture', undefined],
      ['group', ['clip', 'brush']],
    ])
  await hands.drag(page.getByTestId('stage').locator('canvas'), [0.55, 0.5], [0.8, 0.5])
  const strokes = async () => {
    const { layers } = await storedLoop(page)
    const [, group] = layers as unknown as { layers: { values: { strokes: unknown[] } }[] }[]
    return group?.layers[1]?.values.strokes.length
  }
  await expect.poll(strokes).toBe(1)
  await expect(verdict(page)).toContainText('closes')
  // With the drop of the clip and the writing of its file: five.
  await hands.click(page.getByRole('link', { name: 'Export' }))
  await hands.click(page.getByRole('button', { name: /^Write the/ }))
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  expect(1 + hands.count).toBeLessThanOrEqual(5)

  // Motion is found: the arm goes round, the corners do not.
  await openFileView(page)
  await drop(page, 'lamp.gif', await encodeCase(caseOf('turning', 'none'), 'gif, one palette'), 'image/gif')
  await page.getByRole('button', { name: /^Hold frame \d+ still but for what moves$/ }).click()
  await expect(page.getByTestId('stage')).toBeVisible()
  await expect.poll(strokes).toBeGreaterThan(8)
  const { layers } = await storedLoop(page)
  const [, group] = layers as unknown as { layers: { values: { strokes: { points: number[] }[] } }[] }[]
  const points = group?.layers[1]?.values.strokes.flatMap((stroke) => stroke.points.filter((_, i) => i % 3 < 2)) ?? []
  expect(Math.max(...points.map(Math.abs))).toBeLessThan(48)
  await expect(verdict(page)).toContainText('closes')
})
