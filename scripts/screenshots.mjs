import { spawn } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { build, CHROMIUM, ensureChromium, ensurePackages } from './setup.mjs'

/** Takes the pictures of the main views, from the demo loops, into docs/screenshots: `npm run docs:screenshots`. */
const PORT = 3230
const FOLDER = 'docs/screenshots'
ensurePackages()
ensureChromium()
if (!process.argv.includes('--built')) build()
mkdirSync(FOLDER, { recursive: true })

const server = spawn('npx', ['next', 'start', '-p', String(PORT)], { stdio: 'ignore', detached: true })
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
})
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const shoot = async (name) => {
    await page.waitForTimeout(1500)
    await page.screenshot({ path: `${FOLDER}/${name}.png` })
  }
  for (let tries = 0; tries < 40; tries++) {
    if (await page.goto(`http://localhost:${PORT}/`).catch(() => null)) break
    await page.waitForTimeout(500)
  }
  await page.getByRole('link', { name: 'Beacon loader' }).waitFor()
  await shoot('library')
  await page.getByRole('button', { name: 'New loop' }).click()
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
  await page.getByRole('button', { name: 'difference' }).click()
  await shoot('seam-difference')
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'side by side' }).click()
  await shoot('seam-side-by-side')
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'Write the GIF and prove it' }).click()
  await page.getByTestId('proof').waitFor({ timeout: 60_000 })
  await shoot('export-proof')
} finally {
  await browser.close()
  process.kill(-server.pid)
}
