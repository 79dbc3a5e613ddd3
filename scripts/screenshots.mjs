import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { CHROMIUM, SWITCHES } from './browsers.mjs'
import { build, ensureChromium, ensurePackages } from './setup.mjs'

/** Takes the pictures of the main views, from the demo loops, into docs/screenshots: `npm run docs:screenshots`. */
const PORT = 3230
const FOLDER = 'docs/screenshots'
ensurePackages()
ensureChromium()
if (!process.argv.includes('--built')) build()
mkdirSync(FOLDER, { recursive: true })

const server = spawn('npx', ['next', 'start', '-p', String(PORT)], { stdio: 'ignore', detached: true })
const browser = await chromium.launch({ executablePath: CHROMIUM, args: SWITCHES })
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
  // Without it the standard file input is used, which a script can fill.
  await page.addInitScript(() => Reflect.deleteProperty(window, 'showOpenFilePicker'))
  const shoot = async (name) => {
    await page.waitForTimeout(1500)
    await page.screenshot({ path: `${FOLDER}/${name}.png` })
  }
  for (let tries = 0; tries < 40; tries++) {
    if (await page.goto(`http://localhost:${PORT}/`).catch(() => null)) break
    await page.waitForTimeout(500)
  }
  await page.getByRole('link', { name: 'Beacon loader' }).waitFor()
  await page.waitForFunction(() => !document.body.textContent?.includes('being judged'), null, { timeout: 180_000 })
  // Small pictures are drawn after verdicts that are known.
  await page.waitForTimeout(10_000)
  await shoot('library')
  await page.getByRole('button', { name: 'New loop' }).click()
  // The figures are drawn while they play.
  await page.waitForTimeout(3000)
  await shoot('brief')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await page.getByRole('button', { name: 'Arc', exact: true }).click()
  await shoot('compose-night')
  const motion = page.getByRole('region', { name: 'Motion' })
  await motion.getByRole('button', { name: 'end', exact: true }).click()
  await page.getByRole('button', { name: 'Day theme' }).click()
  await shoot('compose-day')
  await page.getByRole('button', { name: 'Night theme' }).click()
  await motion.getByRole('button', { name: 'rotation', exact: true }).click()
  await motion.getByLabel('travel').fill('350')
  await motion.getByLabel('travel').press('Enter')
  await shoot('motion-at-fault')
  await page.getByRole('link', { name: 'Seam' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'side by side' }).click()
  await shoot('seam-side-by-side')
  const openLoop = async (name) => {
    await page.goto(`http://localhost:${PORT}/`)
    await page.getByRole('link', { name }).click()
    await page.getByRole('region', { name: 'Layers' }).waitFor()
  }
  const layer = (name) => page.getByRole('region', { name: 'Layers' }).getByRole('button', { name, exact: true })
  await openLoop('Boarding buoys')
  await page.getByRole('link', { name: 'Fit' }).click()
  for (const [i, period] of ['1.5s', '20f', '35', '0.7s', '48'].entries()) {
    const field = page.getByLabel(`Wanted period of Buoy ${i + 1}, y`)
    await field.fill(period)
    await field.press('Enter')
  }
  await page.getByRole('list', { name: 'Lengths of the front' }).getByRole('button').nth(4).hover()
  await shoot('fit')
  await openLoop('Boarding buoys')
  await layer('Buoy 3').click()
  await page.getByRole('slider', { name: /^y, key 2 of the curve/ }).click()
  for (const key of [3, 4])
    await page.getByRole('slider', { name: new RegExp(`^y, key ${key} of the curve`) }).click({ modifiers: ['Shift'] })
  await shoot('keys')
  await openLoop('Chart-paper clouds')
  await layer('Clouds').click()
  await shoot('texture')
  await openLoop('Pier sheet')
  await layer('Tide gauge').click()
  await shoot('placed-loops')
  await openLoop('Spindrift')
  await page.getByLabel('Add an effect').selectOption('all curves')
  const curve = page.getByRole('slider', { name: /^Curve of all/ })
  await curve.locator('rect').first().waitFor({ state: 'attached' })
  const box = await curve.boundingBox()
  await page.mouse.move(box.x + 0.4 * box.width, box.y + 0.6 * box.height)
  await page.mouse.down()
  await page.mouse.move(box.x + 0.4 * box.width, box.y + 0.68 * box.height, { steps: 4 })
  await page.mouse.up()
  await page.waitForTimeout(3000)
  await shoot('cinemagraph')
  await openLoop('Signal lamp')
  await layer('Signal lamp').click()
  await page.waitForTimeout(12_000)
  await shoot('turntable')
  await openLoop('Chart-paper clouds')
  const still = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Bring in pictures or SVG files' }).click()
  await (await still).setFiles(`${FOLDER}/../../demo/loops/assets/breakwater.jpg`)
  await layer('breakwater').waitFor()
  await page.getByRole('link', { name: 'Seam' }).click()
  await page.getByRole('button', { name: 'down', exact: true }).click()
  await page.getByRole('button', { name: /^Heal “/ }).click()
  await page.getByRole('button', { name: 'Heal by filling' }).waitFor()
  await page.waitForFunction(() => !document.body.textContent?.includes('Being tried'), null, { timeout: 240_000 })
  await shoot('heal')
  await openLoop('Beacon loader')
  await page.getByRole('link', { name: 'Export' }).click()
  await page.waitForTimeout(2500)
  await shoot('export-truth')
  await page.getByRole('button', { name: 'MP4', exact: true }).click()
  await page.getByRole('button', { name: 'Write the MP4 and prove it' }).click()
  await page.getByText('quality at the seam').waitFor({ timeout: 240_000 })
  await page.waitForTimeout(2500)
  await shoot('export-proof')
  await openLoop('Lens sweep')
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'GIF', exact: true }).click()
  await page.getByRole('tab', { name: 'Queue' }).click()
  for (const name of ['APNG', 'WebM', 'SVG', 'Tide gauge', '0.5×']) await page.getByLabel(name, { exact: true }).check()
  await page.getByRole('button', { name: /^Write \d+ files$/ }).click()
  await page.waitForFunction(
    () => Number.parseInt(document.querySelector('[data-testid=queue-state]')?.textContent ?? '0', 10) > 3,
    null,
    { timeout: 240_000 },
  )
  await shoot('export-queue')
  await page.getByRole('button', { name: 'Empty the queue' }).click()
  await page.goto(`http://localhost:${PORT}/file`)
  const openFile = async (file) => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Open a file' }).click()
    await (await chooser).setFiles(file)
    // What was found in the file before stays until this one has been read.
    await page.getByRole('banner').getByText(file.split('/').at(-1)).waitFor()
    await page.getByText('Reading').waitFor({ state: 'detached' })
    await page.getByTestId('finding').first().waitFor()
  }
  // A clip of the demo, steadied, with its loops and the ways to close them.
  await page.getByRole('button', { name: 'Awning and gulls' }).click()
  await page.locator('summary', { hasText: 'Camera and light' }).click({ timeout: 240_000 })
  await page.getByRole('button', { name: 'Steady it' }).click()
  await page.getByTestId('steadied').waitFor({ timeout: 240_000 })
  await page.locator('summary', { hasText: 'Loops in it' }).click()
  await page.getByRole('list', { name: 'Loops in the clip' }).getByRole('button').first().waitFor({ timeout: 240_000 })
  await shoot('footage-loops')
  await page.locator('summary', { hasText: 'Loops in it' }).click()
  await page.locator('summary', { hasText: 'Ways to close it' }).click()
  const closings = page.getByRole('list', { name: 'Ways to close it' })
  await closings.getByText('looking …').first().waitFor({ timeout: 240_000 })
  await closings.getByText('looking …').first().waitFor({ state: 'detached', timeout: 240_000 })
  await closings.scrollIntoViewIfNeeded()
  await shoot('footage-ways')
  await openFile(`${FOLDER}/../../e2e/fixtures/faults/blank-at-the-end.gif`)
  await shoot('file-seam')
} finally {
  await browser.close()
  process.kill(-server.pid)
}
