/** Where Chromium is, for benchmarks, pictures, and tests of the clipboard. */
export const CHROMIUM = process.env.CHROMIUM ?? '/usr/bin/chromium'

/** Where its headless shell is, which browser tests run in: the same engine without the browser's own windows. */
export const HEADLESS_SHELL = process.env.HEADLESS_SHELL ?? '/usr/bin/chromium-headless-shell'

/** Switches of both: no graphics card, and nothing that goes to the network by itself. */
export const SWITCHES = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]
