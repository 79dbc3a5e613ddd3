import type { Page } from '@playwright/test'
import { downloadBytes, dropFile, expect, openDemo, openLibrary, setField, storedLoop, test, verdict } from './app'

/** Loops of the library, of which the first one is open. */
const OPENED = ['Beacon loader', 'Boarding buoys'] as const

/** Changes something, so that there is a history to lose. */
async function changeSomething(page: Page) {
  await page.getByRole('button', { name: 'Lamp', exact: true }).click()
  await setField(page.getByRole('region', { name: 'Properties' }).getByLabel('width', { exact: true }).first(), '120')
}

/** Nothing is lost: the open loop, its history and the library are as they were. */
async function expectUntouched(page: Page, before: unknown) {
  expect(await storedLoop(page)).toEqual(before)
  await expect(verdict(page)).toContainText('closes')
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Redo' }).click()
  expect(await storedLoop(page)).toEqual(before)
  await page.getByRole('link', { name: 'Cyclon' }).click()
  await expect(page.getByRole('list', { name: 'Loops' }).getByRole('listitem')).toHaveCount(OPENED.length)
}

const valid = (page: Page) => storedLoop(page).then((loop) => JSON.stringify({ ...loop, id: 'another' }))
const cases: readonly [string, (page: Page) => Promise<string> | string, RegExp][] = [
  ['an empty file', () => '', /The file is empty/],
  ['a truncated file', async (page) => (await valid(page)).slice(0, 400), /breaks off before its end/],
  ['another kind of file', () => 'GIF89a and then some bytes', /not valid JSON/],
  ['a mislabelled file', () => '{"rows": [1, 2, 3]}', /not a Cyclon loop/],
  [
    'a newer version',
    async (page) => (await valid(page)).replace('"version":3', '"version":9'),
    /newer Cyclon \(file version 9/,
  ],
  [
    'a wrong field',
    async (page) => (await valid(page)).replace('"length":60', '"length":"sixty"'),
    /The field length is/,
  ],
  [
    'a hostile file',
    async (page) =>
      (await valid(page))
        .replace('"#f6b84b"', '"url(javascript:alert(1))"')
        .replace('{', '{"__proto__":{"hidden":true},'),
    /The field .* is not/,
  ],
  ['a file nested too deeply', () => `${'{"a":'.repeat(20_000)}1${'}'.repeat(20_000)}`, /nests its parts too deeply/],
]

for (const [name, content, message] of cases)
  test(`${name} is refused with a clear message, and nothing is lost`, async ({ page }) => {
    await openDemo(page, ...OPENED)
    await changeSomething(page)
    const before = await storedLoop(page)
    await dropFile(page, 'tide.cyclon.json', await content(page))
    await expect(page.getByText(message).first()).toBeVisible()
    await expectUntouched(page, before)
  })

test('a huge file is refused without being read into the document', async ({ page }) => {
  await openDemo(page, ...OPENED)
  await changeSomething(page)
  const before = await storedLoop(page)
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.items.add(new File([new Uint8Array(140 * 1024 * 1024)], 'huge.cyclon.json'))
    document
      .querySelector('main')
      ?.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }))
  })
  await expect(page.getByText(/larger than any loop file/)).toBeVisible()
  await expectUntouched(page, before)
})

test('a sound file that is dropped comes into the library beside the open loop', async ({ page }) => {
  await openDemo(page, ...OPENED)
  await changeSomething(page)
  const before = await storedLoop(page)
  await dropFile(page, 'copy.cyclon.json', JSON.stringify({ ...before, name: 'Lamp from afar' }))
  await expect(page.getByText(/Lamp from afar .* is in the library/)).toBeVisible()
  expect(await storedLoop(page)).toEqual(before)
  await page.getByRole('link', { name: 'Cyclon' }).click()
  await expect(page.getByRole('link', { name: 'Lamp from afar' })).toBeVisible()
  await expect(page.getByRole('list', { name: 'Loops' }).getByRole('listitem')).toHaveCount(OPENED.length + 1)
})

test('full storage is said, the stored loop stays as it was, and the work can be saved to a file', async ({ page }) => {
  await openDemo(page, ...OPENED)
  const before = await storedLoop(page)
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError')
    }
  })
  await changeSomething(page)
  await expect(page.getByText(/Not saved: The browser’s storage is full/)).toBeVisible()
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('alert').getByRole('button', { name: 'Save to a file' }).click(),
  ])
  const saved = JSON.parse((await downloadBytes(file)).toString('utf8'))
  expect(saved.layers.at(-1).values.width).toBe(120)
  // Leaving the page would lose the work, and is asked about.
  const asked: string[] = []
  page.on('dialog', (dialog) => {
    asked.push(dialog.type())
    void dialog.accept()
  })
  await page.reload()
  expect(asked).toEqual(['beforeunload'])
  await expect(verdict(page)).toContainText('closes')
  expect(await storedLoop(page)).toEqual(before)
})

test.describe('a loop that another tab has changed', () => {
  /** The loop in two tabs, changed in both: a name in the first, a width in the second, which comes too late. */
  const changeInBoth = async (page: Page) => {
    await openDemo(page, ...OPENED)
    const other = await page.context().newPage()
    await other.goto(page.url())
    await expect(verdict(other)).toContainText('closes')
    await setField(page.getByLabel('Name of the loop'), 'Beacon by day')
    await storedLoop(page)
    await changeSomething(other)
    await expect(other.getByText(/was changed in another tab/)).toBeVisible()
    expect(await storedLoop(page)).toMatchObject({ name: 'Beacon by day' })
    return other
  }
  const width = (page: Page) =>
    page.getByRole('region', { name: 'Properties' }).getByLabel('width', { exact: true }).first()

  test('is kept as a copy beside it', async ({ page }) => {
    const other = await changeInBoth(page)
    await other.getByRole('button', { name: 'Keep mine as a copy' }).click()
    expect(await storedLoop(other)).toMatchObject({ name: 'Beacon loader (copy)' })
    await other.getByRole('button', { name: 'Undo' }).click()
    await other.getByRole('link', { name: 'Cyclon' }).click()
    for (const name of ['Beacon by day', 'Beacon loader', 'Boarding buoys'])
      await expect(other.getByRole('link', { name })).toBeVisible()
  })
  test('is taken over, with one’s own state a step of undo away', async ({ page }) => {
    const other = await changeInBoth(page)
    await other.getByRole('button', { name: 'Take the other' }).click()
    await expect(other.getByLabel('Name of the loop')).toHaveValue('Beacon by day')
    await other.getByRole('button', { name: 'Undo' }).click()
    await expect(other.getByLabel('Name of the loop')).toHaveValue('Beacon loader')
    await expect(width(other)).toHaveValue('120')
    expect(await storedLoop(other)).toMatchObject({ name: 'Beacon loader' })
  })
})

test('without storage a loop can be made in memory and saved to a file', async ({ page }) => {
  await page.addInitScript(() => {
    const missing = () => {
      throw new DOMException('Storage is switched off.', 'SecurityError')
    }
    Object.defineProperty(window, 'indexedDB', { get: () => undefined })
    Object.defineProperty(window, 'localStorage', { get: missing })
  })
  await page.goto('/')
  await expect(page.getByText(/storage cannot be used/)).toBeVisible()
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await expect(verdict(page)).toContainText('still')
  await page.keyboard.press('Shift+e')
  await expect(page.getByText(/Not saved: /)).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), page.keyboard.press('Control+s')])
  expect(JSON.parse((await downloadBytes(file)).toString('utf8')).layers).toHaveLength(1)
})

test('a damaged record in the library is named, kept, and does not hide the others', async ({ page }) => {
  await openLibrary(page)
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open('cyclon')
        open.onsuccess = () => {
          const put = open.result
            .transaction('loops', 'readwrite')
            .objectStore('loops')
            .put({ loop: { format: 'cyclon-loop', version: 1 }, savedAt: 1 }, 'broken')
          put.onsuccess = () => {
            open.result.close()
            resolve()
          }
        }
      }),
  )
  await page.reload()
  await expect(page.getByText('Damaged loop')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Beacon loader' })).toBeVisible()
  await page.goto('/loop/broken/compose')
  await expect(page.getByText(/The field id is/)).toBeVisible()
})

test('a deleted loop can be brought back', async ({ page }) => {
  await openLibrary(page, ...OPENED)
  await page.getByRole('listitem').filter({ hasText: 'Boarding buoys' }).hover()
  await page.getByRole('button', { name: 'Delete Boarding buoys' }).click()
  await expect(page.getByRole('link', { name: 'Boarding buoys' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByRole('link', { name: 'Boarding buoys' })).toBeVisible()
})

test('where storage is full even for the trash, a loop is deleted once that is asked, and not for any other trouble', async ({
  page,
}) => {
  await openLibrary(page, ...OPENED)
  const failWith = (name: string) =>
    page.evaluate((error) => {
      IDBObjectStore.prototype.put = () => {
        throw new DOMException('It cannot be written.', error)
      }
    }, name)
  await failWith('UnknownError')
  await page.getByRole('button', { name: 'Delete Boarding buoys' }).click()
  await expect(page.getByText('storage cannot be used').first()).toBeVisible()
  await expect(page.getByRole('link', { name: 'Boarding buoys' })).toBeVisible()
  await failWith('QuotaExceededError')
  await page.getByRole('button', { name: 'Delete Boarding buoys' }).click()
  const asked = page.getByRole('dialog', { name: 'Delete “Boarding buoys” for good?' })
  await expect(asked).toContainText('no room even in the trash')
  await expect(page.getByRole('link', { name: 'Boarding buoys' })).toBeVisible()
  await asked.getByRole('button', { name: 'Delete for good' }).click()
  await expect(page.getByText('“Boarding buoys” was deleted for good.')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Boarding buoys' })).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('link', { name: 'Beacon loader' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Boarding buoys' })).toHaveCount(0)
  await expect(page.getByRole('button', { name: /^Trash/ })).toHaveCount(0)
})

test('an export can be cancelled; no file is left', async ({ page }) => {
  await openDemo(page, ...OPENED)
  await page.getByRole('link', { name: 'Export' }).click()
  await setField(page.getByLabel('size', { exact: true }), '3')
  await page.getByRole('button', { name: 'Write the GIF and prove it' }).click()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByText('no file was written')).toBeVisible()
  await expect(page.getByTestId('proof')).toHaveCount(0)
})

test('the library says how much room it takes, and has the browser asked to keep it', async ({ page }) => {
  let kept = false
  await page.exposeFunction('keepAsked', () => {
    kept = !kept
    return kept
  })
  // The browser’s answer, which no test can give: first that it will, then that it does.
  await page.addInitScript(() => {
    const asked = window as unknown as { keepAsked: () => Promise<boolean> }
    let answer = false
    navigator.storage.persist = async () => {
      answer = await asked.keepAsked()
      return answer
    }
    navigator.storage.persisted = async () => answer
  })
  await openLibrary(page)
  const room = page.getByTestId('room')
  await expect(room).toContainText(/\d+(\.\d)? (kB|MB) of \d+\.\d (MB|GB) that this browser allows/)
  await room.getByRole('button', { name: 'Ask the browser to keep it' }).click()
  await expect(page.getByText('The browser will keep the library until you clear it yourself.')).toBeVisible()
  await expect(room).toContainText('kept until you clear it')
  expect(kept).toBe(true)
})
