import { execFile } from 'node:child_process'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Page } from '@playwright/test'
import { unzipSync } from 'fflate'
import sharp from 'sharp'
import { readClaims } from '../src/codecs/claims'
import { readSheet } from '../src/codecs/sprite-sheet'
import { command, downloadBytes, expect, openDemo, setField, test } from './app'

const run = promisify(execFile)
const format = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click()
const toExport = async (page: Page, scale = '0.25') => {
  await openDemo(page)
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size'), scale)
}
async function proven(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: `Write the ${name} and prove it` }).click()
  const proof = page.getByTestId('proof')
  await expect(proof).toHaveCount(0)
  await expect(proof, name).toHaveAttribute('data-holds', 'true')
}
async function saved(page: Page, button: string | RegExp): Promise<{ name: string; bytes: Uint8Array }> {
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: button }).click()
  const download = await coming
  return { name: download.suggestedFilename(), bytes: new Uint8Array(await downloadBytes(download)) }
}

test('every format is written, read back, proven and downloaded', async ({ page }) => {
  test.setTimeout(400_000)
  await toExport(page)
  const files = new Map<string, Uint8Array>()
  for (const [name, ending] of [
    ['GIF', '.gif'],
    ['APNG', '.apng.png'],
    ['WebP', '.webp'],
    ['AVIF', '.avif'],
    ['MP4', '.mp4'],
    ['WebM', '.webm'],
    ['SVG', '.svg'],
    ['Lottie', '.json'],
    ['PNG sequence', '.zip'],
    ['sprite sheet', '.zip'],
  ] as const) {
    await format(page, name)
    if (name === 'PNG sequence') await setField(page.getByLabel('first is'), '101')
    if (name === 'sprite sheet') await page.getByLabel('sides').selectOption('powers of two')
    await proven(page, name)
    const file = await saved(page, /^Save the (GIF|file)$/)
    expect(file.name).toBe(`beacon-loader${ending}`)
    files.set(name, file.bytes)
  }
  const record = JSON.parse(new TextDecoder().decode((await saved(page, 'Save the proof')).bytes))
  expect(record).toMatchObject({ file: 'beacon-loader.zip', frames: 60, proof: { holds: true, seam: 'closes' } })

  for (const name of ['APNG', 'WebP']) {
    const { delaysMs, plays, width } = readClaims(files.get(name) as Uint8Array)
    expect([delaysMs.length, plays, width]).toEqual([60, 0, 120])
    expect(delaysMs.reduce((sum, delay) => sum + delay, 0)).toBeCloseTo(2000, 6)
  }
  const sequence = unzipSync(files.get('PNG sequence') as Uint8Array)
  expect(Object.keys(sequence)).toHaveLength(60)
  expect(Object.keys(sequence).slice(0, 2)).toEqual(['beacon-loader-0101.png', 'beacon-loader-0102.png'])
  const sheet = unzipSync(files.get('sprite sheet') as Uint8Array)
  const described = readSheet(new TextDecoder().decode(sheet['beacon-loader.json']))
  expect(described).toMatchObject({ image: 'beacon-loader.png', width: 1024, height: 1024, rate: { num: 30, den: 1 } })
  expect(described.frames).toHaveLength(60)

  const folder = await mkdtemp(join(tmpdir(), 'cyclon-export-'))
  try {
    // A media prober, which is nobody’s encoder here, counts frames, and reads their times.
    for (const [name, ending, tolerance] of [
      ['MP4', 'mp4', 1e-4],
      ['WebM', 'webm', 1.1e-3],
      ['AVIF', 'avif', 1e-4],
    ] as const) {
      const path = join(folder, `file.${ending}`)
      await writeFile(path, files.get(name) as Uint8Array)
      const { stdout } = await run('ffprobe', [
        ...['-v', 'error', '-count_frames', '-of', 'json', '-show_entries'],
        ...['stream=width,height,nb_read_frames:packet=pts_time,flags', path],
      ])
      const { streams, packets } = JSON.parse(stdout)
      expect(streams[0], name).toMatchObject({ width: 120, height: 120, nb_read_frames: '60' })
      expect(packets[0].flags).toContain('K')
      for (const [n, { pts_time }] of packets.entries())
        expect(Math.abs(Number(pts_time) - n / 30), `${name}, frame ${n}`).toBeLessThan(tolerance)
    }
    // The command line draws the same pixels, but for how edges are smoothed.
    const out = join(folder, 'node.zip')
    await run('node', [
      'bin/cyclon.mjs',
      'render',
      'demo/loops/beacon-loader.cyclon.json',
      '-o',
      out,
      '--scale',
      '0.25',
    ])
    const drawn = Object.values(unzipSync(new Uint8Array(await readFile(out))))
    for (const [n, png] of Object.values(sequence).entries()) {
      if (n % 7 > 0) continue
      const [here, there] = await Promise.all(
        [png, drawn[n] as Uint8Array].map((each) => sharp(each).ensureAlpha().raw().toBuffer()),
      )
      const off = (here as Buffer).reduce(
        (sum, value, i) => sum + Math.abs(value - ((there as Buffer)[i] as number)),
        0,
      )
      expect(off / (here as Buffer).length, `frame ${n}`).toBeLessThan(0.5)
    }
  } finally {
    await rm(folder, { recursive: true })
  }
  // A video is looked at as any other file: its seam closes, too.
  await page.goto('/file')
  await expect(page.locator('[data-testid=file-view][data-ready=true]')).toBeVisible()
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Open a file' }).click()
  await (await chooser).setFiles({
    name: 'beacon.webm',
    mimeType: 'video/webm',
    buffer: Buffer.from(files.get('WebM') as Uint8Array),
  })
  await expect(page.getByRole('complementary', { name: 'What is found' })).toContainText('closes')
})

test('a file is written by its key from any view, and the queue is found in the command list', async ({ page }) => {
  await openDemo(page)
  await page.keyboard.press('Control+Enter')
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  await page.getByRole('link', { name: 'Compose' }).click()
  await command(page, 'queue of', /queue of/i)
  await expect(page.getByRole('button', { name: 'Write 1 file' })).toBeVisible()
})

test('what cannot be written is said in words, and leaves no half file', async ({ page }) => {
  await toExport(page, '0.2604')
  await format(page, 'MP4')
  await expect(page.getByText('125 × 125 px')).toBeVisible()
  await page.getByRole('button', { name: 'Write the MP4 and prove it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'could not be written' })).toContainText('takes even sizes')
  await expect(page.getByTestId('proof')).toHaveCount(0)
  // The server has too much to do.
  await page.route('**/api/webp*', (route) => route.fulfill({ status: 503, json: { message: 'Too many at once.' } }))
  await format(page, 'WebP')
  await page.getByRole('button', { name: 'Write the WebP and prove it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'could not be written' })).toContainText('Too many at once.')
  await expect(page.getByTestId('proof')).toHaveCount(0)
})

test('an export that is cancelled leaves nothing', async ({ page }) => {
  await toExport(page, '3')
  let downloads = 0
  page.on('download', () => downloads++)
  for (const name of ['GIF', 'APNG', 'WebM']) {
    await format(page, name)
    await page.getByRole('button', { name: `Write the ${name} and prove it` }).click()
    await expect
      .poll(async () =>
        Number(await page.getByRole('progressbar', { name: 'drawing and writing' }).getAttribute('value')),
      )
      .toBeGreaterThan(0.02)
    await page.getByRole('button', { name: 'Cancel' }).click()
    await expect(page.getByText('The export was cancelled; no file was written.').first()).toBeVisible()
    await expect(page.getByTestId('proof')).toHaveCount(0)
    await expect(page.getByRole('button', { name: `Write the ${name} and prove it` })).toBeEnabled()
  }
  expect(downloads).toBe(0)
  // The next file is written as usual.
  await setField(page.getByLabel('size'), '0.25')
  await format(page, 'GIF')
  await proven(page, 'GIF')
})

test('a codec that the browser does not have is named', async ({ page, context }) => {
  // Workers find no encoder of AV1.
  const off = `if (typeof WorkerGlobalScope !== 'undefined' && self.VideoEncoder && !self.off) { self.off = true; const own = VideoEncoder.isConfigSupported.bind(VideoEncoder); VideoEncoder.isConfigSupported = async (config) => config.codec.startsWith('av01') ? { supported: false, config } : own(config) };`
  await context.route('**/_next/static/**/*.js', async (route) => {
    const response = await route.fetch()
    await route.fulfill({ response, body: off + (await response.text()) })
  })
  await toExport(page)
  await format(page, 'WebM')
  await page.getByLabel('codec').selectOption('av1')
  await page.getByRole('button', { name: 'Write the WebM and prove it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'could not be written' })).toContainText(
    'This browser cannot write AV1 at 120 × 120. Choose another codec or format',
  )
  await page.getByLabel('codec').selectOption('vp9')
  await proven(page, 'WebM')
  // A worker that is just being started, to weigh the next file, would be fetched from a page that has gone.
  await context.unrouteAll({ behavior: 'ignoreErrors' })
})

test('the truth is said beforehand, and an exact rate taken with a press', async ({ page }) => {
  await toExport(page)
  const table = page.getByRole('table', { name: 'Truth beforehand' })
  await expect(table.getByRole('row', { name: /^GIF/ })).toContainText('30 and 40 ms')
  await expect(table.getByRole('row', { name: /^GIF/ })).toContainText('even at 100/3 or 25')
  await expect(table.getByRole('row', { name: /^APNG/ })).toContainText('exact')
  const timing = page.getByRole('region', { name: 'Timing in the file' })
  const exact = timing.getByRole('button', { name: 'Exact delays at 25/s, 50 f, 2.000 s' })
  await exact.hover()
  await expect(timing).toContainText('50 frames, 2.00 s in all — if you take it')
  await exact.click()
  await expect(timing).toContainText('25 frames per second are exact in hundredths of a second.')
  await proven(page, 'GIF')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(timing).toContainText('delays of 3 and 4 take turns')
  // Repeats fill a time.
  await setField(page.getByLabel('fills'), '7')
  await expect(page.getByLabel('repeats')).toHaveValue('4')
  await expect(timing).toContainText('240 frames, 8.00 s in all')
  // Its estimated weight, and its actual one.
  const estimate = page.getByTestId('estimate')
  await expect(estimate).toHaveAttribute('data-bytes', /\d/)
  const bytes = Number(await estimate.getAttribute('data-bytes'))
  const uncertainty = Number(await estimate.getAttribute('data-off'))
  await proven(page, 'GIF')
  const { bytes: file } = await saved(page, 'Save the GIF')
  expect(Math.abs(file.length - bytes)).toBeLessThan(2 * uncertainty)
})

test('passes lie in folders of their own, frame by frame', async ({ page }) => {
  await toExport(page)
  await format(page, 'PNG sequence')
  // On its ground a layer by itself is clear around it all the same.
  await page.getByLabel('Lamp', { exact: true }).check()
  await page.getByLabel('frames', { exact: true }).selectOption('2')
  await proven(page, 'PNG sequence')
  await page.getByLabel('background').selectOption('removed')
  for (const pass of ['colour', 'alpha']) await page.getByLabel(pass, { exact: true }).check()
  await proven(page, 'PNG sequence')
  const files = unzipSync((await saved(page, 'Save the file')).bytes)
  const folders = new Map<string, number>()
  for (const name of Object.keys(files))
    folders.set(name.split('/')[0] ?? '', (folders.get(name.split('/')[0] ?? '') ?? 0) + 1)
  expect([...folders.values()]).toEqual([30, 30, 30, 30])
  expect([...folders.keys()]).toEqual(['00-picture', '01-beacon-lamp', '02-colour', '03-alpha'])
  const pixels = async (name: string) =>
    sharp(files[name] as Uint8Array)
      .ensureAlpha()
      .raw()
      .toBuffer()
  const picture = await pixels('00-picture/beacon-loader-0015.png')
  const alpha = await pixels('03-alpha/beacon-loader-0015.png')
  // Looked at all together: each single look is written into the report.
  const channel = (of: Buffer, n: number) => of.filter((_, i) => i % 4 === n)
  expect(Buffer.compare(channel(alpha, 0), channel(picture, 3))).toBe(0)
  expect(channel(alpha, 3).every((value) => value === 255)).toBe(true)
})

test('a WebP is written and proven with the server that writes them gone, with and without loss', async ({ page }) => {
  await page.route('**/api/webp**', (route) => route.abort())
  await toExport(page)
  await format(page, 'WebP')
  await proven(page, 'WebP')
  await page.getByLabel('without loss').check()
  await proven(page, 'WebP')
})
