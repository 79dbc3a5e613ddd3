import { defineConfig } from '@playwright/test'
import { CHROMIUM, HEADLESS_SHELL, SWITCHES } from './scripts/browsers.mjs'

const PORT = Number(process.env.E2E_PORT ?? 3210)

/** Tests that copy and paste, which the shell has no clipboard for. */
const CLIPBOARD = /@clipboard/

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/browser',
  // No test depends on how fast the machine is: these only end what will never come.
  timeout: 1_800_000,
  expect: { timeout: 480_000 },
  workers: 2,
  fullyParallel: true,
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // What keeps the application is tried by e2e/offline.spec.ts; elsewhere it would answer in the server's place.
    serviceWorkers: 'block',
    actionTimeout: 480_000,
    // The cards of the library stand still, which is a third less to draw; they play in tests of what plays.
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'on-first-retry',
  },
  projects: [
    {
      name: 'shell',
      grepInvert: CLIPBOARD,
      use: { launchOptions: { executablePath: HEADLESS_SHELL, args: SWITCHES } },
    },
    { name: 'browser', grep: CLIPBOARD, use: { launchOptions: { executablePath: CHROMIUM, args: SWITCHES } } },
  ],
  webServer: {
    command: `npx next start -p ${PORT}`,
    url: `http://localhost:${PORT}`,
    reuseExistingServer: !process.env.CI,
    timeout: 60_000,
  },
})
