import { unzipSync } from 'fflate'
import { readClaims } from '../src/codecs/claims'
import { readSheet } from '../src/codecs/sprite-sheet'
import { bytesOf, expect, openDemo, setField, test } from './app'

test('every format is written, read back, proven and downloaded', async ({ page }) => {
  test.setTimeout(240_000)
  await openDemo(page)
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size'), '0.25')
  const files = new Map<string, Uint8Array>()
  for (const [name, ending] of [
    ['GIF', '.gif'],
    ['APNG', '.apng.png'],
    ['WebP', '.webp'],
    ['MP4', '.mp4'],
    ['WebM', '.webm'],
    ['PNG sequence', '.zip'],
    ['sprite sheet', '.zip'],
  ] as const) {
    await page.getByRole('button', { name, exact: true }).click()
    if (name === 'PNG sequence') await setField(page.getByLabel('first is'), '101')
    if (name === 'sprite sheet') await page.getByLabel('sides').selectOption('powers of two')
    await page.getByRole('button', { name: `Write the ${name} and prove it` }).click()
    const proof = page.getByTestId('proof')
    await expect(proof).toHaveCount(0)
    await expect(proof, name).toHaveAttribute('data-holds', 'true', { timeout: 60_000 })
    const coming = page.waitForEvent('download')
    await page.getByRole('button', { name: /^Save the (GIF|file)$/ }).click()
    const download = await coming
    expect(download.suggestedFilename()).toBe(`beacon-loader${ending}`)
    files.set(name, new Uint8Array(await bytesOf(download)))
  }
  for (const name of ['APNG', 'WebP']) {
    const { delaysMs, plays, width } = readClaims(files.get(name) as Uint8Array)
    expect([delaysMs.length, plays, width]).toEqual([60, 0, 120])
    expect(delaysMs.reduce((sum, delay) => sum + delay, 0)).toBeCloseTo(2000, 6)
  }
  const sequence = Object.keys(unzipSync(files.get('PNG sequence') as Uint8Array))
  expect(sequence).toHaveLength(60)
  expect(sequence.slice(0, 2)).toEqual(['beacon-loader-0101.png', 'beacon-loader-0102.png'])
  const sheet = unzipSync(files.get('sprite sheet') as Uint8Array)
  const described = readSheet(new TextDecoder().decode(sheet['beacon-loader.json']))
  expect(described).toMatchObject({ image: 'beacon-loader.png', width: 1024, height: 1024, rate: { num: 30, den: 1 } })
  expect(described.frames).toHaveLength(60)
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

test('what cannot be written is said in words, and leaves no half file', async ({ page }) => {
  await openDemo(page)
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'MP4', exact: true }).click()
  await setField(page.getByLabel('size'), '0.2604')
  await expect(page.getByText('125 × 125 px')).toBeVisible()
  await page.getByRole('button', { name: 'Write the MP4 and prove it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'could not be written' })).toContainText('takes even sizes')
  await expect(page.getByTestId('proof')).toHaveCount(0)
  // The server is not there.
  await page.route('**/api/webp', (route) => route.abort())
  await page.getByRole('button', { name: 'WebP', exact: true }).click()
  await page.getByRole('button', { name: 'Write the WebP and prove it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'could not be written' })).toContainText('cannot be reached')
  await expect(page.getByTestId('proof')).toHaveCount(0)
})
