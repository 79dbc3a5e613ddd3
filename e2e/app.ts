import { readdirSync, readFileSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { type BrowserContext, test as base, type Download, expect, type Locator, type Page } from '@playwright/test'

/** A page whose file dialogs are the ones a test can answer, and on which no error may go unseen. */
export const test = base.extend<{ page: Page }>({
  page: async ({ page }, use) => {
    const errors: string[] = []
    page.on('pageerror', (error) => errors.push(error.message))
    // Nor may anything that the application does itself break its policy.
    page.on('console', (message) => {
      if (message.text().includes('Content Security Policy')) errors.push(message.text())
    })
    await page.addInitScript(() => {
      Reflect.deleteProperty(window, 'showOpenFilePicker')
      Reflect.deleteProperty(window, 'showSaveFilePicker')
    })
    await bringDemoLoops(page.context(), ['Beacon loader'])
    await use(page)
    // A test may end before its page has all that it asked for.
    await page.context().unrouteAll({ behavior: 'ignoreErrors' })
    expect(errors, 'errors on the page').toEqual([])
  },
})
export { expect }

/** For tests of what plays by itself: as most have it. */
export const PLAYING = { contextOptions: { reducedMotion: 'no-preference' } } as const

/** Names of all the demo loops that a new library has. */
export const ALL_DEMO_LOOPS: readonly string[] = readdirSync('demo/loops')
  .filter((file) => file.endsWith('.cyclon.json'))
  .map((file) => JSON.parse(readFileSync(`demo/loops/${file}`, 'utf8')).name)

/**
 * Puts these demo loops alone into a new library, since each costs its drawing: a test names those that it looks at.
 * @param verdicts what is known of them already; by default all that ships with them
 */
export async function bringDemoLoops(
  into: Page | BrowserContext,
  names: readonly string[],
  verdicts?: Readonly<Record<string, unknown>>,
): Promise<void> {
  await into.route('**/api/demo', async (route) => {
    const response = await route.fetch()
    const demo = await response.json()
    const loops = demo.loops.filter(({ name }: { name: string }) => names.includes(name))
    await route.fulfill({ response, json: { loops, verdicts: verdicts ?? demo.verdicts } })
  })
}

export const verdict = (page: Page): Locator => page.getByTestId('verdict')
export const frameReadout = (page: Page): Locator => page.getByTestId('frame')

/** Opens the library and waits until its demo loops are there: Beacon loader, and those that are named. */
export async function openLibrary(page: Page, ...others: readonly string[]): Promise<void> {
  const names = new Set(['Beacon loader', ...others])
  await bringDemoLoops(page, [...names])
  await page.goto('/')
  for (const name of names) await expect(page.getByRole('link', { name }).first()).toBeVisible()
}

/** Opens a demo loop in Compose; others stay in the library. */
export async function openDemo(page: Page, name = 'Beacon loader', ...others: readonly string[]): Promise<void> {
  await openLibrary(page, name, ...others)
  await page.getByRole('link', { name }).click()
  await expect(verdict(page)).toContainText('closes')
}

/** Makes a new loop from a brief. */
export async function makeLoop(page: Page, name: string, length = 48): Promise<void> {
  await page.getByRole('button', { name: 'New loop' }).click()
  const dialog = page.getByRole('dialog', { name: 'New loop' })
  await dialog.getByLabel('name').fill(name)
  await dialog.getByLabel('rate', { exact: true }).fill('24')
  await dialog.getByLabel('length', { exact: true }).fill(String(length))
  await dialog.getByRole('button', { name: 'Make the loop' }).click()
  await expect(page.getByRole('region', { name: 'Layers' })).toBeVisible()
}

/** Runs a command from the command list by typed words, once it is the one that they mean: loops of the library come into the list a moment later. */
export async function command(page: Page, words: string, meant: RegExp | string): Promise<void> {
  await page.keyboard.press('Control+k')
  const list = page.getByRole('dialog', { name: 'Commands' })
  await expect(list.getByRole('combobox')).toBeFocused()
  await page.keyboard.type(words)
  await expect(list.getByRole('option', { selected: true })).toContainText(meant)
  await page.keyboard.press('Enter')
  await expect(list).toBeHidden()
}

/** Actions as a person counts them: a click, a drag, a value that is typed with its Enter, a shortcut: one each. */
export class Hands {
  count = 0
  constructor(readonly page: Page) {}
  async click(what: Locator): Promise<void> {
    this.count++
    await what.click()
  }
  async type(field: Locator, value: string): Promise<void> {
    this.count++
    await setField(field, value)
  }
  async press(keys: string): Promise<void> {
    this.count++
    await this.page.keyboard.press(keys)
  }
  /** Says something to the command list: a shortcut, and what is typed with its Enter. */
  async say(words: string, meant: RegExp | string): Promise<void> {
    this.count += 2
    await command(this.page, words, meant)
  }
  /** Drags over a box, by shares of it. */
  async drag(over: Locator, from: readonly [number, number], to: readonly [number, number]): Promise<void> {
    this.count++
    const box = await over.boundingBox()
    if (!box) throw new Error('there is nothing to drag over')
    const at = ([x, y]: readonly [number, number]) => [box.x + box.width * x, box.y + box.height * y] as const
    await this.page.mouse.move(...at(from))
    await this.page.mouse.down()
    await this.page.mouse.move(...at(to), { steps: 6 })
    await this.page.mouse.up()
  }
}

export async function downloadBytes(download: Download): Promise<Buffer> {
  return readFile(await download.path())
}

/** Types a value into a field and leaves it. */
export async function setField(field: Locator, value: string): Promise<void> {
  await field.fill(value)
  await field.press('Enter')
}

/** Drops a file on the page. */
export async function dropFile(page: Page, name: string, content: string): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([fileName, text]) => {
      const data = new DataTransfer()
      data.items.add(new File([text as string], fileName as string, { type: 'application/json' }))
      return data
    },
    [name, content],
  )
  await page.dispatchEvent('main', 'drop', { dataTransfer: transfer })
}

/** A saved file against the stored loop: the same but for values that go without saying in a file. */
export function expectSame(file: string, stored: Record<string, unknown>): void {
  type Told = { id: string; motions: object }
  const { layers, ...whole } = JSON.parse(file) as { layers: Told[] }
  const { layers: storedLayers, ...storedWhole } = stored as { layers: Told[] }
  const told = (each: Told) => [each.id, each.motions]
  expect(whole).toEqual(storedWhole)
  expect(layers.map(told)).toEqual(storedLayers.map(told))
}

/** The open loop as it is stored in the browser, once it has been saved. */
export async function storedLoop(page: Page): Promise<Record<string, unknown>> {
  // A change is first reported as unsaved.
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve, 50))))
  await expect(page.getByText('saved in this browser')).toBeVisible()
  const id = new URL(page.url()).pathname.split('/')[2]
  return page.evaluate(
    (key) =>
      new Promise((resolve, reject) => {
        const open = indexedDB.open('cyclon')
        open.onerror = () => reject(open.error)
        open.onsuccess = () => {
          const get = open.result
            .transaction('loops')
            .objectStore('loops')
            .get(key as string)
          get.onsuccess = () => {
            open.result.close()
            resolve(get.result.loop)
          }
        }
      }),
    id,
  )
}

/** Opens the view of any file's seam, with nothing in it. */
export async function openFileView(page: Page): Promise<void> {
  await page.goto('/file')
  await expect(page.getByTestId('file-view')).toHaveAttribute('data-ready', 'true')
}

/** How many pixels of a canvas show anything. */
export async function drawnPixels(element: HTMLElement | SVGElement): Promise<number> {
  const canvas = element as HTMLCanvasElement
  const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')
  copy?.drawImage(canvas, 0, 0)
  const data = copy?.getImageData(0, 0, canvas.width, canvas.height).data ?? []
  return data.filter((value, at) => at % 4 === 3 && value > 0).length
}
