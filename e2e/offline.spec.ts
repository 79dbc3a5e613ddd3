import { createServer, request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { Page } from '@playwright/test'
import { expect, makeLoop, openLibrary, setField, test, verdict } from './app'

/** The application behind a door that can be shut, and that can pass on a worker of a later version. */
async function behindADoor(to: string) {
  const { port, hostname } = new URL(to)
  const door = { shut: false, later: '' }
  const server: Server = createServer((incoming, outgoing) => {
    if (door.shut) return outgoing.destroy()
    const { url = '', method, headers } = incoming
    const passed = request(
      { hostname, port, path: url, method, headers: { ...headers, 'accept-encoding': '' } },
      (answer) => {
        outgoing.writeHead(answer.statusCode ?? 502, answer.headers)
        answer.pipe(outgoing, { end: false })
        answer.on('end', () => outgoing.end(url === '/sw.js' ? door.later : ''))
      },
    )
    passed.on('error', () => outgoing.destroy())
    incoming.pipe(passed)
  })
  await new Promise<void>((resolve) => server.listen(0, resolve))
  const at = `http://localhost:${(server.address() as AddressInfo).port}`
  return { at, door, close: () => server.close() }
}

/** Waits until the browser keeps all of the application. */
const kept = (page: Page) =>
  page.waitForFunction(
    async () =>
      (await navigator.serviceWorker.ready).active?.state === 'activated' &&
      navigator.serviceWorker.controller !== null,
  )

test.use({ serviceWorkers: 'allow' })

test('with the server gone the application starts, and a loop is made, saved and written in every format', async ({
  browser,
  baseURL,
}) => {
  test.setTimeout(400_000)
  const { at, door, close } = await behindADoor(baseURL as string)
  const context = await browser.newContext({ baseURL: at, serviceWorkers: 'allow' })
  const page = await context.newPage()
  const errors: string[] = []
  page.on('pageerror', ({ message }) => errors.push(message))
  try {
    await openLibrary(page)
    await kept(page)
    door.shut = true
    // It starts.
    await page.goto('about:blank')
    await openLibrary(page)
    // A loop is made, and moves.
    await makeLoop(page, 'Without a net', 24)
    await page.getByRole('button', { name: 'Draw: Ellipse' }).press('Enter')
    await page
      .getByRole('group', { name: 'Motions to take' })
      .getByRole('button', { name: 'Orbit', exact: true })
      .click()
    await expect(verdict(page)).toContainText('closes')
    await expect(page.getByText('saved in this browser')).toBeVisible()
    // It is found again by its address, and by its name in the library.
    const address = new URL(page.url()).pathname
    await page.reload()
    await expect(verdict(page)).toContainText('closes')
    await page.goto('/')
    await page.getByRole('link', { name: 'Without a net' }).click()
    await expect(page).toHaveURL(new RegExp(`${address}$`))
    for (const view of ['Fit', 'Seam']) {
      await page.getByRole('link', { name: view, exact: true }).click()
      await expect(page.getByRole('link', { name: view, exact: true })).toHaveAttribute('aria-current', 'page')
    }
    await page.getByRole('link', { name: 'Export' }).click()
    await setField(page.getByLabel('size'), '0.25')
    const proof = page.getByTestId('proof')
    for (const name of [
      'GIF',
      'APNG',
      'WebP',
      'AVIF',
      'MP4',
      'WebM',
      'SVG',
      'Lottie',
      'PNG sequence',
      'sprite sheet',
    ]) {
      await page.getByRole('button', { name, exact: true }).click()
      await page.getByRole('button', { name: `Write the ${name} and prove it` }).click()
      await expect(proof, name).toHaveAttribute('data-holds', 'true')
    }
    expect(errors).toEqual([])
  } finally {
    await context.close()
    close()
  }
})

test('a new version waits until it is asked for, and then all of the page is of it', async ({ browser, baseURL }) => {
  const { at, door, close } = await behindADoor(baseURL as string)
  const context = await browser.newContext({ baseURL: at, serviceWorkers: 'allow' })
  const page = await context.newPage()
  try {
    await openLibrary(page)
    await kept(page)
    await page.reload()
    await openLibrary(page)
    const versions = () =>
      page.evaluate(async () => {
        const { active, waiting } = await navigator.serviceWorker.ready
        return [active !== null, waiting !== null]
      })
    expect(await versions()).toEqual([true, false])
    await expect(page.getByText('There is a new version of Cyclon.')).toHaveCount(0)
    door.later = '\n// a later version\n'
    await page.reload()
    await expect(page.getByText('There is a new version of Cyclon.')).toBeVisible()
    expect(await versions()).toEqual([true, true])
    // Work in between is not lost when it is taken.
    await makeLoop(page, 'Between versions', 24)
    await page.getByRole('button', { name: 'Draw: Ellipse' }).press('Enter')
    const loaded = page.waitForEvent('load')
    await page.getByRole('button', { name: 'Save and take it' }).click()
    await loaded
    expect(await versions()).toEqual([true, false])
    await expect(page.getByRole('list', { name: 'Layers, front to back' }).getByRole('listitem')).toHaveCount(1)
    await expect(page.getByText('There is a new version of Cyclon.')).toHaveCount(0)
  } finally {
    await context.close()
    close()
  }
})

test('the application can be installed', async ({ page, request: ask }) => {
  await page.goto('/')
  const manifest = await (
    await ask.get((await page.locator('link[rel=manifest]').getAttribute('href')) as string)
  ).json()
  expect(manifest).toMatchObject({ name: 'Cyclon', start_url: '/', display: 'standalone' })
  for (const { src } of manifest.icons)
    expect((await ask.get(src)).headers()['content-type']).toContain('image/svg+xml')
})
