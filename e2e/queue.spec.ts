import { execFile } from 'node:child_process'
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { promisify } from 'node:util'
import type { Page } from '@playwright/test'
import { unzipSync } from 'fflate'
import { readClaims } from '../src/codecs/claims'
import { downloadBytes, expect, openDemo, setField, test } from './app'

const run = promisify(execFile)
const toTab = async (page: Page, name: string) => {
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('tab', { name }).click()
}
const state = (page: Page) => page.getByTestId('queue-state')

test('files are written in a run that outlives its page, into one archive', async ({ page, context }) => {
  test.setTimeout(300_000)
  await openDemo(page, 'Beacon loader', 'Tide gauge')
  // Its workers share the memory of frames.
  expect(await page.evaluate('crossOriginIsolated')).toBe(true)
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size'), '0.25')
  await page.getByRole('tab', { name: 'Queue' }).click()
  for (const format of ['APNG', 'WebM', 'Lottie']) await page.getByLabel(format, { exact: true }).check()
  await page.getByLabel('0.5×', { exact: true }).check()
  await page.getByLabel('Tide gauge').check()
  await setField(page.getByLabel('names'), '{loop}-{size}')
  await page.getByRole('button', { name: 'Write 16 files' }).click()
  await expect(state(page)).toContainText('of 16 done')
  // Editing goes on meanwhile, and does not change what is written.
  await page.getByRole('link', { name: 'Compose' }).click()
  await page.getByLabel('Name of the loop').fill('Another name')
  await page.getByLabel('Name of the loop').press('Enter')
  await expect(page.getByTestId('queue-notice')).toContainText('of 16 files')
  await toTab(page, 'Queue')
  await page.getByRole('button', { name: 'Pause' }).click()
  await expect(state(page)).toHaveAttribute('data-state', 'paused')
  // Another tab puts a file in, and leaves the run to this one.
  const other = await context.newPage()
  await other.goto('/')
  await other.getByRole('link', { name: 'Tide gauge' }).click()
  await toTab(other, 'Queue')
  await expect(other.getByTestId('queue-notice')).toHaveCount(0)
  await other.getByRole('button', { name: 'Write 1 file' }).click()
  await expect(other.getByText('Another tab is writing files').first()).toBeVisible()
  await other.close()
  await page.getByRole('button', { name: 'Go on', exact: true }).click()
  await expect.poll(async () => Number.parseInt((await state(page).textContent()) ?? '', 10)).toBeGreaterThan(0)
  await page.close()

  const back = await context.newPage()
  await back.addInitScript(() => {
    Reflect.deleteProperty(window, 'showOpenFilePicker')
    Reflect.deleteProperty(window, 'showSaveFilePicker')
  })
  await back.goto('/')
  await expect(back.getByTestId('queue-notice')).toContainText('of 17 files')
  await back.getByRole('button', { name: 'Go on writing' }).click()
  await back.getByRole('link', { name: 'Tide gauge' }).click()
  await toTab(back, 'Queue')
  await expect(state(back)).toContainText('17 of 17 done')
  const coming = back.waitForEvent('download')
  await back.getByRole('button', { name: 'Save all as ZIP' }).click()
  const files = unzipSync(new Uint8Array(await downloadBytes(await coming)))
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining(
      ['beacon-loader', 'tide-gauge']
        .flatMap((loop) =>
          ['0.25x', '0.5x'].flatMap((size) =>
            ['.gif', '.apng.png', '.webm', '.json'].map((end) => `${loop}-${size}${end}`),
          ),
        )
        .concat('manifest.json'),
    ),
  )
  // With that of the other tab.
  expect(Object.keys(files)).toHaveLength(18)
  const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json']))
  expect(manifest).toMatchObject({ format: 'cyclon-manifest', left: [] })
  expect(manifest.files).toHaveLength(17)
  for (const { file, bytes, proof, loop } of manifest.files) {
    expect(files[file]?.length).toBe(bytes)
    expect(proof).toMatchObject({ holds: true, seam: 'closes' })
    expect(['Beacon loader', 'Tide gauge']).toContain(loop)
  }
  expect(readClaims(files['beacon-loader-0.25x.gif'] as Uint8Array)).toMatchObject({ width: 120, plays: 0 })
  await back.getByRole('button', { name: 'Empty the queue' }).click()
  await expect(state(back)).toHaveCount(0)
  await back.reload()
  await toTab(back, 'Queue')
  await expect(back.getByRole('button', { name: 'Write 1 file' })).toBeVisible()
  await expect(state(back)).toHaveCount(0)
})

test('a file that cannot be written is marked with the reason, and the others are written', async ({ page }) => {
  await openDemo(page)
  await page.getByRole('link', { name: 'Export' }).click()
  // 125 × 125 px: H.264 takes even sizes only.
  await setField(page.getByLabel('size'), '0.2604')
  await page.getByRole('tab', { name: 'Queue' }).click()
  await page.getByLabel('MP4', { exact: true }).check()
  await page.getByRole('button', { name: 'Write 2 files' }).click()
  await expect(state(page)).toHaveText(/1 of 2 done, 1 failed/)
  const failed = page.locator('li[data-state=failed]')
  await expect(failed).toContainText('not done')
  await expect(failed).toContainText('takes even sizes')
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save all as ZIP' }).click()
  const files = unzipSync(new Uint8Array(await downloadBytes(await coming)))
  const manifest = JSON.parse(new TextDecoder().decode(files['manifest.json']))
  expect(Object.keys(files)).toHaveLength(2)
  expect(manifest.left).toEqual([{ file: 'beacon-loader-125x125.mp4', reason: expect.stringContaining('even sizes') }])
})

test('settings are found under a weight, and kept as a target', async ({ page }) => {
  test.setTimeout(300_000)
  await openDemo(page)
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByLabel('target').selectOption({ label: 'Chat sticker' })
  await expect(page.getByRole('button', { name: 'WebP', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await page.getByRole('button', { name: 'GIF', exact: true }).click()
  await setField(page.getByLabel('size'), '0.25')
  await page.getByRole('tab', { name: 'Fit to a weight' }).click()
  await setField(page.getByLabel('at most'), '18')
  await page.getByRole('button', { name: 'Find what fits' }).click()
  await expect(page.getByRole('button', { name: 'Find what fits' })).toBeVisible()
  const best = page.locator('article[data-fits=true]').first()
  await expect(best).toContainText('written')
  const said = Number.parseFloat((await best.textContent()) ?? '')
  expect(said).toBeLessThanOrEqual(18)
  await best.getByRole('button', { name: 'Write it' }).click()
  const proof = page.getByTestId('proof')
  await expect(proof).toHaveAttribute('data-holds', 'true')
  await expect(proof.locator('header')).toContainText(`${said.toFixed(1)} kB`)
  const colours = await page.getByLabel('colours').inputValue()
  await page.getByRole('button', { name: 'Keep these settings as a new target' }).click()
  await page.getByLabel('Name of the target').fill('Harbour badge')
  await page.getByLabel('Name of the target').press('Enter')
  await expect(page.getByText('“Harbour badge” is kept as a target.')).toBeVisible()
  await page.reload()
  await page.getByLabel('target').selectOption({ label: 'Harbour badge' })
  await expect(page.getByLabel('colours')).toHaveValue(colours)
  await page.getByRole('button', { name: 'Take “Harbour badge” away' }).click()
  await expect(page.getByLabel('target').locator('option', { hasText: 'Harbour badge' })).toHaveCount(0)
})

test('what is saved for a cluster is done there by its two commands, and proven', async ({ page }) => {
  test.setTimeout(300_000)
  await openDemo(page, 'Boarding buoys')
  await toTab(page, 'Queue')
  await page.getByLabel('GIF', { exact: true }).uncheck()
  for (const format of ['APNG', 'sprite sheet']) await page.getByLabel(format, { exact: true }).check()
  await page.getByLabel('1×', { exact: true }).uncheck()
  await page.getByLabel('0.5×', { exact: true }).check()
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'For a cluster' }).click(),
  ])
  expect(saved.suggestedFilename()).toBe('boarding-buoys-for-a-cluster.zip')
  await expect(page.getByText('The command line does not write this: sprite sheet.')).toBeVisible()
  const folder = await mkdtemp(join(tmpdir(), 'cyclon-cluster-'))
  try {
    for (const [name, bytes] of Object.entries(unzipSync(new Uint8Array(await downloadBytes(saved))))) {
      await mkdir(dirname(join(folder, name)), { recursive: true })
      await writeFile(join(folder, name), bytes)
    }
    expect((await readdir(folder)).sort()).toEqual(['README.md', 'kubernetes.yaml', 'loops', 'plan.json', 'slurm.sh'])
    expect(await readFile(join(folder, 'slurm.sh'), 'utf8')).toBe(await readFile('cluster/slurm.sh', 'utf8'))
    const { tasks } = JSON.parse(await readFile(join(folder, 'plan.json'), 'utf8'))
    expect(await readFile(join(folder, 'README.md'), 'utf8')).toMatch(/^# 1 file in \d+ tasks?\n/)
    const cyclon = (...args: string[]) => run('node', [resolve('bin/cyclon.mjs'), ...args], { cwd: folder })
    for (const task of tasks.keys()) await cyclon('work', 'plan.json', '--task', String(task))
    const { stdout } = await cyclon('join', 'plan.json')
    expect(stdout).toContain('1 of 1 files written and proven')
    expect(await readdir(join(folder, 'out'))).toEqual(['boarding-buoys-240x120.apng'])
  } finally {
    await rm(folder, { recursive: true })
  }
})
