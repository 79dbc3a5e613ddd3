import type { Page } from '@playwright/test'
import { busyLoop } from '../bench/drawing'
import { command, expect, makeLoop, openDemo, openLibrary, setField, test, verdict } from './app'

const properties = (page: Page) => page.getByRole('region', { name: 'Properties' })
const motion = (page: Page) => page.getByRole('region', { name: 'Motion' })
const layer = (page: Page, name: string) =>
  page.getByRole('list', { name: 'Layers, front to back' }).getByRole('button', { name, exact: true })
const draw = (page: Page, kind: string) => page.getByRole('button', { name: `Draw: ${kind}` }).press('Enter')
test('what happens every so many frames fits as nearly as it can, and exactly at lengths that are offered', async ({
  page,
}) => {
  await openLibrary(page)
  await makeLoop(page, 'Signal', 60)
  await draw(page, 'Ellipse')
  await command(page, 'blink', /blink/i)
  const event = motion(page).getByRole('group', { name: /^Event of/ })
  await setField(event.getByLabel('every'), '1s')
  await expect(event.getByLabel('cycles')).toHaveValue('3')
  await expect(event.getByLabel('every')).toHaveValue('20')
  const exact = event.getByRole('group', { name: 'exactly 24 f' })
  await exact.getByRole('button', { name: '72 f' }).click()
  await expect(event.getByLabel('every')).toHaveValue('24')
  await expect(exact).toHaveCount(0)
  await expect(page.getByText('72 f ·')).toBeVisible()
  await expect(verdict(page)).toContainText('closes')
  // It is in Fit, with its period.
  await page.getByRole('link', { name: 'Fit', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Ellipse · opacity, what happens' })).toBeVisible()
})

test('a placed loop is cut at the end knowingly, and runs whole cycles again', async ({ page }) => {
  await openLibrary(page, 'Tide gauge')
  for (const name of ['Beacon loader', 'Tide gauge']) await page.getByLabel(`Choose ${name}`).check()
  await page.getByRole('button', { name: 'Place together' }).click()
  await layer(page, 'Beacon loader').click()
  // At another pace its own one is offered: whole, at other lengths, or cut.
  await setField(properties(page).getByLabel('pace'), '60')
  await properties(page).getByRole('button', { name: 'cut at the loop’s end' }).click()
  await expect(properties(page).getByText('is cut where the loop ends')).toBeVisible()
  await properties(page).getByRole('button', { name: 'Whole cycles again' }).click()
  await expect(properties(page).getByLabel('whole cycles')).toBeVisible()
  await expect(verdict(page)).toContainText('closes')
})

test('the last edit is repeated on other layers by one key', async ({ page }) => {
  await openLibrary(page)
  await makeLoop(page, 'Lamps', 24)
  for (const kind of ['Ellipse', 'Rounded rectangle', 'Polygon or star']) await draw(page, kind)
  await layer(page, 'Ellipse').click()
  await setField(properties(page).getByLabel('opacity', { exact: true }), '40')
  await layer(page, 'Rounded rectangle').click()
  await layer(page, 'Polygon or star').click({ modifiers: ['Shift'] })
  await page.keyboard.press('Shift+k')
  for (const name of ['Rounded rectangle', 'Polygon or star']) {
    await layer(page, name).click()
    await expect(properties(page).getByLabel('opacity', { exact: true })).toHaveValue('40')
  }
})

test('the command list opens loops of the library, and shows what is folded away', async ({ page }) => {
  await openDemo(page, 'Beacon loader', 'Tide gauge')
  await layer(page, 'Arc').click()
  await expect(properties(page).getByLabel('pivot x', { exact: true })).toHaveCount(0)
  await command(page, 'pivot x', /pivot x/i)
  await expect(properties(page).getByLabel('pivot x', { exact: true })).toBeVisible()
  await properties(page).getByLabel('Find a property').fill('no such thing')
  await expect(properties(page).getByText('No property of “Arc” is called so.')).toBeVisible()
  await command(page, 'open tide gauge', 'Open “Tide gauge”')
  await expect(page.getByLabel('Name of the loop')).toHaveValue('Tide gauge')
})

test('of many layers the dial shows periods, and the list what is in sight', async ({ page }) => {
  await openLibrary(page)
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  const buffer = Buffer.from(JSON.stringify({ ...busyLoop(300), width: 320, height: 180 }))
  await chooser.setFiles({ name: 'many.cyclon.json', mimeType: 'application/json', buffer })
  await expect(page.getByTestId('band')).toHaveCount(3)
  const rows = page.getByRole('list', { name: 'Layers, front to back' }).getByRole('listitem')
  const shown = await rows.count()
  expect(shown).toBeGreaterThan(8)
  expect(shown).toBeLessThan(80)
  await layer(page, 'Star 299').click()
  await expect(page.getByTestId('ring')).toHaveCount(2)
  // The last one comes into sight when it is found.
  await command(page, 'select arc 0', /select “arc 0/i)
  await expect(layer(page, 'Arc 0')).toBeInViewport()
  await expect(layer(page, 'Arc 0')).toHaveAttribute('aria-pressed', 'true')
})

test('nothing is further than 25 keys away', async ({ page }) => {
  await openDemo(page, 'Beacon loader')
  await layer(page, 'Arc').click()
  await expect(motion(page)).toBeVisible()
  // Every panel that F6 comes to, how many presses away it is from where one begins, and what can be reached in it.
  const panels: { name: string; fields: number }[] = []
  for (let n = 0; n < 12; n++) {
    await page.keyboard.press('F6')
    const at = await page.evaluate(() => {
      const panel = document.activeElement?.closest(
        'header nav, [role=toolbar], section[aria-label], aside[aria-label], [role=group][aria-label=Dial]',
      )
      const fields = [
        ...(panel?.querySelectorAll<HTMLElement>(
          'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), [tabindex]:not([tabindex="-1"])',
        ) ?? []),
      ]
      return {
        name: panel?.getAttribute('aria-label') ?? '',
        fields: fields.filter((field) => field.checkVisibility()).length,
      }
    })
    if (panels.some(({ name }) => name === at.name)) break
    panels.push(at)
  }
  expect(panels.length).toBeGreaterThan(5)
  const away = panels.map(({ fields }, i) => {
    const toPanel = Math.min(i + 1, panels.length - i)
    // Ten at a time, then up to five steps either way.
    const within = Array.from(
      { length: fields },
      (_, at) => Math.floor((at + 5) / 10) + Math.abs(at - 10 * Math.floor((at + 5) / 10)),
    )
    return toPanel + Math.max(...within)
  })
  expect(Math.max(...away), JSON.stringify(panels)).toBeLessThanOrEqual(25)
  // Walked for real: to the last thing of the largest panel, and back to its first.
  const largest = panels.reduce((a, b) => (b.fields > a.fields ? b : a))
  const here = () =>
    page.evaluate(
      () =>
        document.activeElement
          ?.closest('section[aria-label], [role=toolbar], header nav')
          ?.getAttribute('aria-label') ?? '',
    )
  for (let n = 0; n < 12 && (await here()) !== largest.name; n++) await page.keyboard.press('F6')
  const first = await page.evaluate(() => document.activeElement?.outerHTML.slice(0, 80))
  let keys = 0
  const last = () =>
    page.evaluate(() => {
      const fields = [
        ...(document.activeElement
          ?.closest('section[aria-label]')
          ?.querySelectorAll<HTMLElement>(
            'a[href], button:not([disabled]), input:not([disabled]), select:not([disabled]), [tabindex]:not([tabindex="-1"])',
          ) ?? []),
      ].filter((field) => field.checkVisibility())
      return document.activeElement === fields.at(-1)
    })
  while (!(await last()) && keys < 26) {
    await page.keyboard.press('PageDown')
    keys++
  }
  expect(keys).toBeLessThanOrEqual(18)
  for (let n = 0; n < keys; n++) await page.keyboard.press('PageUp')
  expect(await page.evaluate(() => document.activeElement?.outerHTML.slice(0, 80))).toBe(first)
  // Along the tools with arrows; the frames stay where they are.
  for (let n = 0; n < 12 && (await here()) !== 'Tools'; n++) await page.keyboard.press('F6')
  const frame = await page.getByTestId('frame').textContent()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('button', { name: 'Draw: Ellipse' })).toBeFocused()
  expect(await page.getByTestId('frame').textContent()).toBe(frame)
})
