import { chromium } from '@playwright/test'

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
page.on('pageerror', (e) => console.log('pageerror', e.message))
page.on('console', (m) => m.type() === 'error' && console.log(m.text()))
await page.goto('http://localhost:3240/')
await page
  .getByRole('button', { name: /New loop/ })
  .first()
  .click()
await page.getByLabel(/^texture/).check()
await page.waitForTimeout(600)
await page.screenshot({ path: '/tmp/w/brief.png' })
await page.getByRole('button', { name: 'Make the loop' }).click()
await page.getByRole('region', { name: 'Layers' }).getByRole('button', { name: 'Clouds', exact: true }).click()
await page.waitForTimeout(2500)
await page.screenshot({ path: '/tmp/w/texture.png' })
await browser.close()
