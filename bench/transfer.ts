import { createServer, request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Browser } from '@playwright/test'

/**
 * Largest transfer of script for each view when it is opened, in kB of 1000 bytes: to the page itself, and with its
 * workers, which come beside it. Charts count where they are shown at once.
 */
export const SCRIPT_BUDGETS = {
  library: { page: 295, all: 638 },
  compose: { page: 497, all: 576 },
  fit: { page: 572, all: 650 },
  seam: { page: 600, all: 679 },
  export: { page: 418, all: 569 },
  file: { page: 315, all: 330 },
} as const

export type BudgetedView = keyof typeof SCRIPT_BUDGETS

/** Elements that each view shows only after all of its scripts have loaded. */
const SHOWN: Readonly<Record<BudgetedView, readonly string[]>> = {
  library: ['[data-testid=room]', 'a[href^="/loop/"] [data-verdict]'],
  compose: ['[data-testid=verdict][data-fresh=true]', '[data-testid=stage]'],
  fit: ['[data-testid=verdict][data-fresh=true]', '[data-testid=front-chart] canvas'],
  // Charts mark their canvases so.
  seam: ['[data-testid=verdict][data-fresh=true]', '[data-testid=compare]', 'canvas[data-zr-dom-id]'],
  export: ['[data-testid=verdict][data-fresh=true]', '[data-testid=estimate][data-bytes]'],
  file: ['main'],
}

/** One script as it came over the network. */
export interface Sent {
  readonly path: string
  /** Bytes of its body, compressed as the server sends it. */
  readonly bytes: number
  /** Asked for by a worker, not by the page. */
  readonly worker: boolean
}

/** Passes everything on to the application and counts the scripts that come back: also those of workers. */
function counting(port: number, sent: Sent[]): Promise<Server> {
  const server = createServer((incoming, outgoing) => {
    const passed = request(
      { port, path: incoming.url, method: incoming.method, headers: incoming.headers },
      (answer) => {
        outgoing.writeHead(answer.statusCode ?? 502, answer.headers)
        let bytes = 0
        answer.on('data', (part: Buffer) => {
          bytes += part.length
        })
        answer.on('end', () => {
          const path = incoming.url ?? ''
          if (!/javascript/.test(String(answer.headers['content-type']))) return
          const worker = incoming.headers['sec-fetch-dest'] === 'worker' || /\.js/.test(incoming.headers.referer ?? '')
          sent.push({ path, bytes, worker })
        })
        answer.pipe(outgoing)
      },
    )
    passed.on('error', () => outgoing.destroy())
    incoming.pipe(passed)
  })
  return new Promise((resolve) => server.listen(0, () => resolve(server)))
}

/**
 * Opens a view of the application that listens at `port` in a browser that has kept nothing, waits until it is still,
 * and returns what scripts it had sent. Views of a loop show the first of the demo loops.
 */
export async function scriptsOf(browser: Browser, port: number, view: BudgetedView): Promise<readonly Sent[]> {
  const sent: Sent[] = []
  const server = await counting(port, sent)
  try {
    const origin = `http://localhost:${(server.address() as AddressInfo).port}`
    const context = await browser.newContext({ serviceWorkers: 'block' })
    const page = await context.newPage()
    await page.goto(`${origin}/${view === 'file' ? 'file' : ''}`)
    await page.waitForLoadState('networkidle')
    if (view !== 'library' && view !== 'file') {
      const card = page.locator('a[href^="/loop/"]').first()
      await card.waitFor()
      const address = await card.getAttribute('href')
      // The stored loop stays, what came over the network does not.
      const session = await context.newCDPSession(page)
      await session.send('Network.clearBrowserCache')
      await page.goto('about:blank')
      sent.length = 0
      await page.goto(`${origin}${address?.replace(/\/[a-z]+$/, `/${view}`)}`)
      await page.getByTestId('document-name').or(page.locator('main')).first().waitFor()
      await page.waitForLoadState('networkidle')
    }
    for (const shown of SHOWN[view]) await page.locator(shown).first().waitFor({ timeout: 240_000 })
    await page.waitForLoadState('networkidle')
    await context.close()
    return sent
  } finally {
    server.closeAllConnections()
    server.close()
  }
}

/** kB of 1000 bytes as transferred. */
export const kilobytes = (sent: readonly Sent[]) => sent.reduce((sum, { bytes }) => sum + bytes, 0) / 1000
