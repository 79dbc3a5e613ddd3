import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Locator, Page } from '@playwright/test'
import { command, expect, Hands, openFileView, storedLoop, test } from './app'
import { drop, found, written } from './clips'

const summary = (page: Page, text: string): Locator => page.locator('summary', { hasText: text })

/** A short clip of a demo clip, smaller: made by an installed media program. */
function shortClip(
  name: string,
  from: number,
  frames: number,
  { size = '240:136', more = [] }: { readonly size?: string; readonly more?: readonly string[] } = {},
): Buffer {
  const path = join(mkdtempSync(join(tmpdir(), 'cyclon-')), 'short.webm')
  const { status, stderr } = spawnSync(
    'ffmpeg',
    [
      ...['-v', 'error', '-i', `demo/clips/${name}.webm`],
      ...['-vf', `trim=start_frame=${from}:end_frame=${from + frames},setpts=PTS-STARTPTS,scale=${size}`],
      ...['-c:v', 'libvpx-vp9', '-crf', '24', '-b:v', '0', '-deadline', 'realtime', ...more, path],
    ],
    { encoding: 'utf8' },
  )
  expect(stderr).toBe('')
  expect(status).toBe(0)
  return readFileSync(path)
}

test('a dropped clip is a proven loop in three actions; what was done comes back with the file', async ({ page }) => {
  await openFileView(page)
  const clip = shortClip('awning-and-gulls', 20, 125)
  await drop(page, 'awning.webm', clip, 'video/webm')
  const hands = new Hands(page)
  await hands.click(summary(page, 'Loops in it'))
  const best = page.getByRole('list', { name: 'Loops in the clip' }).getByRole('button').first()
  await expect(best).toContainText('closes')
  await expect(best).toContainText(/from \d+, (56|112) f/)
  await hands.click(best)
  await expect(page.getByRole('list').getByText(/^cropped to frames/)).toBeVisible()
  // Its weight is announced beforehand, within a third.
  await page.getByRole('button', { name: 'How large will it be?' }).click()
  const [, number, unit] = /about ([\d.]+) (kB|MB)/.exec((await page.getByTestId('weight').textContent()) ?? '') ?? []
  const said = Number(number) * (unit === 'MB' ? 1e6 : 1e3)
  const { length } = await written(page, hands)
  expect(length / said).toBeGreaterThan(2 / 3)
  expect(length / said).toBeLessThan(3 / 2)
  await expect(page.getByTestId('proof')).toContainText('closes')
  // The loops in it, the best of them, written and proven.
  expect(hands.count).toBe(3)

  // Another file, and then this one again: it is as it was left, and can be begun afresh.
  await drop(page, 'wake.webm', shortClip('ferry-wake', 0, 20), 'video/webm')
  await expect(page.getByRole('heading', { name: 'wake.webm' })).toBeVisible()
  await expect(page.getByRole('list').getByText(/^cropped to frames/)).toHaveCount(0)
  await drop(page, 'again.webm', clip, 'video/webm')
  await expect(page.getByRole('list').getByText(/^cropped to frames/)).toBeVisible()
  await page.getByRole('button', { name: 'Start afresh' }).click()
  await expect(page.getByRole('list').getByText(/^cropped to frames/)).toHaveCount(0)
})

test('a camera that shakes is taken out, and its light evened; both are said and can be undone', async ({ page }) => {
  await openFileView(page)
  await drop(page, 'awning.webm', shortClip('awning-and-gulls', 70, 40), 'video/webm')
  await summary(page, 'Camera and light').click()
  await page.getByRole('button', { name: 'Steady it' }).click()
  const steadied = page.getByTestId('steadied')
  await expect(steadied).toContainText(/moved [\d.]+ px, now [\d.]+ px RMS; [\d.]+ % of its width cut off/)
  const [, before, after] = /moved ([\d.]+) px, now ([\d.]+) px/.exec((await steadied.textContent()) ?? '') ?? []
  expect(Number(after)).toBeLessThan(0.3 * Number(before))
  await page.getByRole('button', { name: 'Even out its light' }).click()
  await expect(page.getByRole('list').getByText('light evened out')).toBeVisible()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(steadied).toHaveCount(0)
  // Where nothing stands still there is nothing to hold on to.
  await drop(page, 'grey.webm', plainClip(), 'video/webm')
  await expect(page.getByRole('heading', { name: 'grey.webm' })).toBeVisible()
  await page.getByRole('button', { name: 'Steady it' }).click()
  await expect(page.getByTestId('file-view').getByRole('alert')).toContainText('too plain')
})

/** A clip of one grey. */
function plainClip(): Buffer {
  const path = join(mkdtempSync(join(tmpdir(), 'cyclon-')), 'plain.webm')
  const made = spawnSync('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', 'color=c=gray:s=160x90:r=25:d=0.6'],
    ...['-c:v', 'libvpx-vp9', '-deadline', 'realtime', path],
  ])
  expect(made.status).toBe(0)
  return readFileSync(path)
}

test('ways to close it play beside each other with their verdicts; in parts, foam closes where it jumped', async ({
  page,
}) => {
  await openFileView(page)
  await drop(page, 'wake.webm', shortClip('ferry-wake', 0, 60), 'video/webm')
  await expect(found(page)).toContainText('jumps')
  await summary(page, 'Ways to close it').click()
  const ways = page.getByRole('list', { name: 'Ways to close it' }).getByRole('button')
  await expect(ways.nth(5)).toContainText('there and back')
  for (const n of [1, 2, 3, 4, 5]) await expect(ways.nth(n)).toContainText('closes')
  await expect(ways.nth(0)).toContainText('jumps')
  await expect(ways.nth(0)).toBeDisabled()
  // All stands still at one end of the slider.
  await page.getByLabel('How much of it moves, in parts').fill('0')
  await expect(ways.nth(4)).toContainText('still')
  await page.getByLabel('How much of it moves, in parts').fill('1')
  await expect(ways.nth(4)).toContainText('closes')
  await ways.nth(4).click()
  await expect(
    page.getByRole('list').getByText(/^\d+ regions?, each with its own loop, over \d+ frames$/),
  ).toBeVisible()
  await expect(found(page)).toContainText('Before: jumps.')
  expect((await written(page)).length).toBeGreaterThan(1000)
})

test('pace: in-betweens make it slower, and it still closes; reversed it closes, too', async ({ page }) => {
  await openFileView(page)
  await drop(page, 'awning.webm', shortClip('awning-and-gulls', 70, 56), 'video/webm')
  await summary(page, 'Pace').click()
  await page.getByRole('button', { name: 'Slower: 112 frames' }).click()
  const frames = found(page).getByRole('row', { name: /^frames/ })
  await expect(frames).toContainText('56112')
  await page.getByRole('button', { name: 'Reverse it' }).click()
  await expect(page.getByRole('list').getByText('reversed', { exact: true })).toBeVisible()
  await expect(page.getByRole('list').getByText('0.5 times as fast, along the motion')).toBeVisible()
  await expect(frames).toContainText('56112')
})

test('two regions with periods of their own are in one cinemagraph, and Fit knows both', async ({ page }) => {
  await openFileView(page)
  const hands = new Hands(page)
  await drop(page, 'awning.webm', shortClip('awning-and-gulls', 68, 56, { size: '320:180' }), 'video/webm')
  await hands.click(page.getByRole('button', { name: /^Hold frame \d+ still but for what moves$/ }))
  await expect(page.getByTestId('stage')).toBeVisible()
  await hands.say('Footage', /^Footage/)
  await expect(page.getByTestId('file-view')).toBeVisible()
  await drop(page, 'lamp.webm', shortClip('lamp-room-glass', 50, 72, { size: '320:180' }), 'video/webm')
  await hands.click(page.getByRole('button', { name: /^Add what moves to/ }))
  await expect(page.getByTestId('stage')).toBeVisible()
  await expect
    .poll(async () => ((await storedLoop(page)).layers as { kind: string }[]).map(({ kind }) => kind))
    .toEqual(['picture', 'group', 'group'])
  await hands.click(page.getByRole('link', { name: 'Fit' }))
  await expect(page.getByRole('main')).toContainText('lamp')
  // Each is wanted at its own pace, 56 and 72 frames; both come home after 504.
  await hands.click(page.getByRole('button', { name: /^Take 504 frames/ }))
  await expect.poll(async () => (await storedLoop(page)).length).toBe(504)
  const fits = page.getByTestId('fitted')
  await expect(fits.nth(0)).toContainText('9 × 56 f as wanted')
  await expect(fits.nth(1)).toContainText('7 × 72 f as wanted')
  // With the drops of both clips.
  expect(2 + hands.count).toBeLessThanOrEqual(8)
  // The same view, nearer, and from somewhere else: it is laid over the still.
  await command(page, 'Footage', /^Footage/)
  await expect(page.getByTestId('file-view')).toBeVisible()
  const crop = { x: 20, y: 10, width: 256, height: 144 }
  const nearer = shortClip('awning-and-gulls', 20, 40, {
    size: `320:180,crop=${crop.width}:${crop.height}:${crop.x}:${crop.y}`,
  })
  await drop(page, 'nearer.webm', nearer, 'video/webm')
  await page.getByRole('button', { name: /^Add what moves to/ }).click()
  await expect(page.getByText('It lies where it shows what the still shows.')).toBeVisible()
  type Nested = { kind: string; values: Record<string, number>; layers?: Nested[] }
  const layers = async () => (await storedLoop(page)).layers as Nested[]
  await expect.poll(async () => (await layers()).length).toBe(4)
  const [still, ...regions] = await layers()
  const laid = regions.at(-1)?.layers?.[0]?.values
  expect(still?.values.width).toBe(320)
  expect(Math.abs((laid?.width ?? 0) - crop.width)).toBeLessThan(2)
  expect(Math.abs((laid?.x ?? 0) - crop.x - crop.width / 2)).toBeLessThan(1)
  expect(Math.abs((laid?.y ?? 0) - crop.y - crop.height / 2)).toBeLessThan(1)
})

/** A clip repeated several times without encoding it anew. */
function repeated(clip: Buffer, times: number): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'cyclon-'))
  const once = join(folder, 'once.webm')
  const whole = join(folder, 'whole.webm')
  writeFileSync(once, clip)
  const made = spawnSync('ffmpeg', ['-v', 'error', '-stream_loop', String(times - 1), '-i', once, '-c', 'copy', whole])
  expect(made.status).toBe(0)
  return readFileSync(whole)
}

test('reading a long clip is cancelled at once, and leaves nothing behind', async ({ page }) => {
  const long = repeated(shortClip('ferry-wake', 0, 225, { size: '640:360', more: ['-cpu-used', '8'] }), 14)
  await openFileView(page)
  await drop(page, 'lamp.webm', shortClip('lamp-room-glass', 0, 12), 'video/webm')
  await expect(page.getByRole('heading', { name: 'lamp.webm' })).toBeVisible()
  await drop(page, 'long.webm', long, 'video/webm')
  await expect(page.getByRole('status')).toContainText('Reading long.webm')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Reading' })).toHaveCount(0)
  await expect(page.getByRole('heading', { name: 'lamp.webm' })).toBeVisible()
  await expect(found(page).getByRole('row', { name: /^frames/ })).toContainText('12')
})

/** A clip of a moving test picture, written as it is asked for. */
function madeClip(name: string, source: string, ...how: readonly string[]): Buffer {
  const path = join(mkdtempSync(join(tmpdir(), 'cyclon-')), name)
  const made = spawnSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', source, ...how, path], { encoding: 'utf8' })
  expect(made.stderr).toBe('')
  return readFileSync(path)
}

/** An MP4 file that says of its picture, `height` high, that it is to be shown turned to the right. */
function turned(file: Buffer, height: number): Buffer {
  const one = 0x10000
  const header = file.indexOf('tkhd')
  expect(header).toBeGreaterThan(0)
  // The matrix stands 40 bytes behind the name of a track header of version 0 (ISO/IEC 14496-12, 8.3.2).
  expect(file[header + 4]).toBe(0)
  for (const [i, value] of [0, one, 0, -one, 0, 0, height * one, 0, 0x40000000].entries())
    file.writeInt32BE(value, header + 44 + 4 * i)
  return file
}

/** Ten bits with the light of Rec. ITU-R BT.2100, perceptual quantizer. */
const HDR = [
  ...['-pix_fmt', 'yuv420p10le', '-color_primaries', 'bt2020'],
  ...['-color_trc', 'smpte2084', '-colorspace', 'bt2020nc'],
]

test('clips of all kinds are read as they are, or refused in words with the open one left', async ({ page }) => {
  await openFileView(page)
  const vp9 = ['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8']
  const plain = 'testsrc2=s=160x96:r=25:d=0.4'
  const sound = madeClip('whole.webm', 'testsrc2=s=160x96:r=25:d=1', ...vp9, '-g', '5')
  const kinds: readonly (readonly [string, Buffer, string, string])[] = [
    ['ten-bit.webm', madeClip('a.webm', plain, ...vp9, '-pix_fmt', 'yuv420p10le'), '160 × 96', '10'],
    ['one-a-second.webm', madeClip('b.webm', 'testsrc2=s=160x96:r=1:d=4', ...vp9), '160 × 96', '4'],
    ['two-hundred-and-forty.webm', madeClip('c.webm', 'testsrc2=s=160x96:r=240:d=0.25', ...vp9), '160 × 96', '60'],
    ['two-frames.webm', madeClip('d.webm', 'testsrc2=s=160x96:r=25:d=0.08', ...vp9), '160 × 96', '2'],
    [
      'interlaced.mp4',
      madeClip('e.mp4', plain, '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-flags', '+ilme+ildct'),
      '160 × 96',
      '10',
    ],
    ['turned.mp4', turned(madeClip('f.mp4', plain, '-c:v', 'libx264', '-pix_fmt', 'yuv420p'), 96), '96 × 160', '10'],
  ]
  const row = (name: string) => found(page).getByRole('row', { name: new RegExp(`^${name}`) })
  for (const [name, bytes, size, frames] of kinds) {
    await drop(page, name, bytes, name.endsWith('mp4') ? 'video/mp4' : 'video/webm')
    await expect(page.getByRole('heading', { name })).toBeVisible()
    await expect(row('size')).toContainText(size)
    await expect(row('frames')).toContainText(frames)
  }
  const refused: readonly (readonly [string, Buffer, RegExp])[] = [
    ['nothing.webm', Buffer.alloc(0), /is empty/],
    ['only-sound.webm', madeClip('g.webm', 'sine=d=0.4', '-c:a', 'libopus'), /holds no pictures/],
    ['words.mp4', Buffer.from('not a clip'), /does not begin as any moving picture/],
    ['bright.webm', madeClip('h.webm', plain, ...vp9, ...HDR), /is an HDR video/],
  ]
  for (const [name, bytes, words] of refused) {
    await drop(page, name, bytes, 'video/webm')
    await expect(page.getByTestId('file-view').getByRole('alert')).toContainText(words)
    await expect(page.getByRole('heading', { name: 'turned.mp4' })).toBeVisible()
    await page.getByRole('button', { name: 'Close', exact: true }).click()
  }
  // A truncated file is shown as far as it goes.
  await drop(page, 'half.webm', sound.subarray(0, sound.length >> 1), 'video/webm')
  await expect(page.getByRole('heading', { name: 'half.webm' })).toBeVisible()
  await expect(row('frames')).toContainText(/frames\d{1,2}/)
})
