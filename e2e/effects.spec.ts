import { execFile } from 'node:child_process'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import type { Page } from '@playwright/test'
import { unzipSync } from 'fflate'
import sharp from 'sharp'
import { zipProject } from '../src/codecs'
import type { Layer, Loop } from '../src/core/document'
import { newLayer, newLoop } from '../src/core/edit'
import { pictureOfTable, tableOf } from '../src/core/effects'
import { LAYER_KINDS } from '../src/core/layers'
import { type Medium, madeAsset } from '../src/core/media'
import { downloadBytes, expect, openFileView, openLibrary, storedLoop, test, verdict } from './app'
import { drop } from './clips'

type Stored = { id: string; kind: string; name: string; values: Record<string, unknown>; layers?: Stored[] }
const layersOf = async (page: Page) => (await storedLoop(page)).layers as unknown as Stored[]
const layers = (page: Page) => page.getByRole('region', { name: 'Layers' })
const panel = (page: Page) => page.getByRole('region', { name: 'Properties' })
const addEffect = (page: Page) => panel(page).getByLabel('Add an effect')

/** Counts what is done: a press, a drag, a typed value, a shortcut. */
function counter() {
  let done = 0
  return {
    act: async (action: () => Promise<unknown>) => {
      done++
      await action()
    },
    count: () => done,
  }
}

/** A picture of waves and grain, which does not tile. */
async function pictureOf(width: number, height: number): Promise<Buffer> {
  const data = Buffer.alloc(width * height * 3)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const wave = Math.sin(x * 0.11 + 2 * Math.sin(y * 0.07)) + Math.sin(y * 0.13 + Math.sin(x * 0.05))
      const grain = ((x * 7919 + y * 104729) % 97) / 97 - 0.5
      const value = 100 + 30 * wave + x * 0.25 + 18 * grain
      data.set([0.6 * value, 0.9 * value, value], 3 * (y * width + x))
    }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer()
}

/** Paints with the brush over the stage, from one share of the frame to another. */
async function paint(page: Page, from: readonly [number, number], to: readonly [number, number]): Promise<void> {
  const box = await page.getByRole('img', { name: 'The frame under the playhead' }).boundingBox()
  if (!box) throw new Error('the frame is not there')
  const at = ([x, y]: readonly [number, number]) => [box.x + x * box.width, box.y + y * box.height] as const
  await page.mouse.move(...at(from))
  await page.mouse.down()
  await page.mouse.move(...at(to), { steps: 6 })
  await page.mouse.up()
}

test('particles over a still with a mask, a swirl and a grade: eight actions from the brief to a proven GIF', async ({
  page,
}) => {
  test.slow()
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  const still = await pictureOf(320, 180)
  const { act, count } = counter()
  await act(() => page.getByLabel(/^cinemagraph/).check())
  await act(() =>
    page.getByLabel(/^its still/).setInputFiles({ name: 'breakwater.png', mimeType: 'image/png', buffer: still }),
  )
  await act(() => page.getByRole('button', { name: 'Make the loop' }).click())
  await expect(layers(page).getByRole('button', { name: 'Where it is seen', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await expect(verdict(page)).toContainText('closes')
  await act(() => paint(page, [0.3, 0.4], [0.7, 0.6]))
  await expect(panel(page).getByText('1 stroke')).toBeVisible()
  await act(() => addEffect(page).selectOption('it displacement-swirl'))
  await act(() => addEffect(page).selectOption('all temperature'))
  await expect(verdict(page)).toContainText('closes')
  const [picture, masked, grade] = await layersOf(page)
  expect([picture?.kind, masked?.kind, grade?.kind]).toEqual(['picture', 'group', 'temperature'])
  expect(masked?.layers?.map(({ kind }) => kind)).toEqual(['particles', 'displacement', 'brush'])
  expect(masked?.values.mask).toBe('shape')
  await act(() => page.keyboard.press('Control+Enter'))
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const download = page.waitForEvent('download')
  await act(() => page.getByRole('button', { name: 'Save the GIF' }).click())
  expect((await download).suggestedFilename()).toMatch(/\.gif$/)
  expect(count()).toBe(8)
})

test('the edge of a picture is healed, and the picture drifts by a tile a loop as a pattern: four actions', async ({
  page,
}) => {
  await openLibrary(page)
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await expect(verdict(page)).toContainText('closes')
  await drop(page, 'planks.png', await pictureOf(120, 90), 'image/png')
  await expect(layers(page).getByRole('button', { name: 'planks', exact: true })).toBeVisible()
  const { act, count } = counter()
  await act(() => panel(page).getByRole('button', { name: 'Heal its edges, so that it tiles' }).click())
  const dialog = page.getByRole('dialog', { name: 'Heal the edges of a tile' })
  await expect(dialog.getByText(/across: shows an edge/).first()).toBeVisible()
  // Three ways beside each other, each with what it leaves.
  for (const way of ['blending', 'cutting', 'filling'])
    await expect(dialog.getByRole('button', { name: `Heal by ${way}` })).toBeEnabled()
  await expect(dialog.getByText(/across: closes/)).toHaveCount(3)
  await act(() => dialog.getByRole('button', { name: 'Heal by cutting' }).click())
  await expect(dialog).toHaveCount(0)
  await act(() => page.keyboard.press('Shift+Q'))
  await act(() => panel(page).getByRole('button', { name: 'Move moved across' }).click())
  await expect(verdict(page)).toContainText('closes')
  const pattern = (await layersOf(page)).find(({ kind }) => kind === 'pattern')
  expect(pattern?.values).toMatchObject({ tileWidth: 105, tileHeight: 79 })
  expect(count()).toBe(4)
  // As it came is a few steps of undo away.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
  await expect.poll(async () => (await layersOf(page)).at(-1)?.values).toMatchObject({ width: 120, height: 90 })
})

test('the edges of the frame are seen and judged across and down', async ({ page }) => {
  await openLibrary(page, 'Chart-paper clouds')
  await page.getByRole('link', { name: 'Chart-paper clouds' }).click()
  await expect(verdict(page)).toContainText('closes')
  await page.keyboard.press('Shift+S')
  const aside = page.getByRole('complementary', { name: 'What is seen' })
  await page.getByRole('button', { name: 'across', exact: true }).click()
  await expect(aside.getByText('Laid beside itself across, the frame goes on')).toBeVisible()
  await expect(page.getByRole('img', { name: /Steps from column to column: edge/ })).toBeVisible()
  // A layer that ends at one edge is an edge.
  await page.keyboard.press('Shift+C')
  await page.keyboard.press('Shift+R')
  await panel(page).getByLabel('y', { exact: true }).fill('0')
  await panel(page).getByLabel('y', { exact: true }).press('Enter')
  await panel(page).getByRole('group', { name: 'Shape' }).getByLabel('width', { exact: true }).fill('640')
  await panel(page).getByRole('group', { name: 'Shape' }).getByLabel('width', { exact: true }).press('Enter')
  await page.keyboard.press('Shift+S')
  await page.getByRole('button', { name: 'down', exact: true }).click()
  await expect(aside.getByText('shows an edge', { exact: true })).toBeVisible()
  await expect(page.getByRole('img', { name: /shifted by half: its edges meet in the middle/ })).toBeVisible()
})

test('masks are painted stroke by stroke, taken away from, shown as a tint, and their edges looked at', async ({
  page,
}) => {
  await openLibrary(page, 'Spindrift')
  await page.getByRole('link', { name: 'Spindrift' }).click()
  await expect(verdict(page)).toContainText('closes')
  await layers(page).getByRole('button', { name: 'Breakwater', exact: true }).click()
  await addEffect(page).selectOption('it levels')
  await panel(page).getByRole('textbox', { name: 'white becomes' }).fill('20')
  await panel(page).getByRole('textbox', { name: 'white becomes' }).press('Enter')
  // The mask of an effect says where it acts.
  await page.keyboard.press('z')
  await panel(page).getByRole('textbox', { name: 'softness' }).fill('0')
  await panel(page).getByRole('textbox', { name: 'softness' }).press('Enter')
  await paint(page, [0.3, 0.3], [0.6, 0.3])
  await expect(panel(page).getByText('1 stroke')).toBeVisible()
  await page.keyboard.down('Alt')
  await paint(page, [0.4, 0.3], [0.5, 0.3])
  await page.keyboard.up('Alt')
  await expect(panel(page).getByText('2 strokes')).toBeVisible()
  const strokes = async () => {
    const find = (all: readonly Stored[]): Stored | undefined =>
      all.map((each) => (each.name === 'Painted mask' ? each : find(each.layers ?? []))).find(Boolean)
    return find(await layersOf(page))?.values.strokes as { erases?: boolean; points: number[] }[]
  }
  expect((await strokes()).map(({ erases = false }) => erases)).toEqual([false, true])
  await page.keyboard.press('Control+z')
  await expect(panel(page).getByText('1 stroke')).toBeVisible()
  const canvas = page.getByTestId('stage').locator('canvas')
  const colourAt = (x: number, y: number) =>
    canvas.evaluate(
      (element, [u, v]) => {
        const source = element as HTMLCanvasElement
        const copy = new OffscreenCanvas(source.width, source.height).getContext('2d')
        copy?.drawImage(source, 0, 0)
        return [...(copy?.getImageData((u as number) * source.width, (v as number) * source.height, 1, 1).data ?? [])]
      },
      [x, y],
    )
  await panel(page).getByText('show it as a tint').click()
  await expect
    .poll(async () => ((await colourAt(0.45, 0.3))[0] ?? 0) - ((await colourAt(0.45, 0.3))[2] ?? 0))
    .toBeGreaterThan(60)
  await panel(page).getByText('show it as a tint').click()
  await page.getByRole('link', { name: 'Seam' }).click()
  const masks = page.getByRole('region', { name: 'Edges of masks' })
  await expect(masks.getByText(/The edge of “Painted mask” is seen/)).toBeVisible()
})

test('curves are bent over a histogram, effects change their order, and a reload finds them so', async ({ page }) => {
  await openLibrary(page, 'Chart-paper clouds')
  await page.getByRole('link', { name: 'Chart-paper clouds' }).click()
  await expect(verdict(page)).toContainText('closes')
  await addEffect(page).selectOption('all curves')
  const curve = panel(page).getByRole('slider', { name: /^Curve of all/ })
  await expect(curve.locator('rect')).toHaveCount(64)
  const box = await curve.boundingBox()
  if (!box) throw new Error('the curve is not there')
  await page.mouse.move(box.x + 0.5 * box.width, box.y + 0.5 * box.height)
  await page.mouse.down()
  await page.mouse.move(box.x + 0.5 * box.width, box.y + 0.25 * box.height, { steps: 4 })
  await page.mouse.up()
  await expect(curve).toHaveAttribute('aria-valuetext', /^point 2 of 3: 5\d % becomes 7\d %$/)
  await curve.press('ArrowDown')
  await expect(curve).toHaveAttribute('aria-valuetext', /becomes 7[3-5] %$/)
  await addEffect(page).selectOption('it vignette')
  const kinds = async () => (await layersOf(page)).map(({ kind }) => kind)
  expect(await kinds()).toEqual(['texture', 'curves', 'vignette'])
  await page.keyboard.press('Control+ArrowDown')
  await expect.poll(kinds).toEqual(['texture', 'vignette', 'curves'])
  await page.reload()
  await expect(layers(page).getByRole('button', { name: 'Curves', exact: true })).toBeVisible()
  expect(await kinds()).toEqual(['texture', 'vignette', 'curves'])
})

test('tables of colours come in from .cube files; broken ones, and pictures of every sort, are right or refused in words', async ({
  page,
}) => {
  await openLibrary(page)
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await expect(verdict(page)).toContainText('closes')
  const count = async () => (await layersOf(page)).length
  const before = await count()
  const text = (content: string) => new TextEncoder().encode(content)
  await drop(page, 'dusk.cube', text('LUT_3D_SIZE 3\n0 0 0\n'), '')
  await expect(page.getByText('The table breaks off: it says that it has 27 colours and holds 1')).toBeVisible()
  await drop(page, 'words.cube', text('not a table'), '')
  await expect(page.getByText(/numbers before it says how many/)).toBeVisible()
  expect(await count()).toBe(before)
  const corners = ['0 0 0', '0 0 1', '0 1 0', '0 1 1', '1 0 0', '1 0 1', '1 1 0', '1 1 1']
  await drop(page, 'exchanged.cube', text(`LUT_3D_SIZE 2\n${corners.join('\n')}\n`), '')
  await expect(layers(page).getByRole('button', { name: 'exchanged', exact: true })).toBeVisible()
  await expect.poll(async () => (await layersOf(page)).at(-1)?.kind).toBe('colourTable')
  // 16 bits, CMYK and one pixel: each comes in as what it is.
  const wide = await sharp({ create: { width: 40, height: 30, channels: 4, background: '#33505c80' } })
    .toColourspace('rgb16')
    .png()
    .toBuffer()
  await drop(page, 'wide.png', wide, 'image/png')
  await expect(layers(page).getByRole('button', { name: 'wide', exact: true })).toBeVisible()
  const print = await sharp(await pictureOf(40, 30))
    .toColourspace('cmyk')
    .jpeg()
    .toBuffer()
  await drop(page, 'print.jpg', print, 'image/jpeg')
  await expect(layers(page).getByRole('button', { name: 'print', exact: true })).toBeVisible()
  await drop(page, 'dot.png', await pictureOf(1, 1), 'image/png')
  await expect(layers(page).getByRole('button', { name: 'dot', exact: true })).toBeVisible()
  await panel(page).getByRole('button', { name: 'Heal its edges, so that it tiles' }).click()
  await expect(page.getByText('A picture of 1 × 1 px is too small to tell an edge in')).toBeVisible()
})

test('what will band is said on export, and dither that stands still takes it away', async ({ page }) => {
  await openLibrary(page, 'Chart-paper clouds')
  await page.getByRole('link', { name: 'Chart-paper clouds' }).click()
  await expect(verdict(page)).toContainText('closes')
  await page.keyboard.press('Shift+X')
  await page.getByLabel('colours', { exact: true }).fill('8')
  await page.getByLabel('colours', { exact: true }).press('Enter')
  const bands = page.getByTestId('bands')
  await expect(bands).toContainText(/About \d+ % of the picture is smooth and will show bands in 8 colours/)
  await bands.getByRole('button', { name: 'Dither that stands still' }).click()
  await expect(page.getByLabel('dithering')).toHaveValue('ordered')
  await expect(bands).toHaveCount(0)
})

test('a clip is healed in all its frames alike, and undo brings it back', async ({ page }) => {
  const width = 120
  const height = 90
  const frames = 4
  const still = await sharp(await pictureOf(width, height))
    .raw()
    .toBuffer()
  // A little brighter from frame to frame.
  const data = Buffer.concat(
    Array.from({ length: frames }, (_, n) => Buffer.from(still.map((value) => Math.min(255, value + 8 * n)))),
  )
  const raw = { width, height: frames * height, channels: 3, pageHeight: height } as const
  const gif = await sharp(data, { raw })
    .gif({ delay: Array(frames).fill(80), loop: 0 })
    .toBuffer()
  await openFileView(page)
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Open a file' }).click()
  await (await chooser).setFiles({ name: 'waves.gif', mimeType: 'image/gif', buffer: gif })
  // Its own edges are seen before, in the view of the file.
  await page.getByRole('button', { name: 'across', exact: true }).click()
  await expect(page.getByText('shows an edge', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'in time', exact: true }).click()
  await page.getByRole('button', { name: 'Make a loop of it' }).click()
  await panel(page).getByRole('button', { name: 'Heal its edges, so that it tiles' }).click()
  const dialog = page.getByRole('dialog', { name: 'Heal the edges of a tile' })
  await expect(dialog.getByText(/across: closes/)).toHaveCount(3)
  await dialog.getByRole('button', { name: 'Heal by blending' }).click()
  await expect(dialog).toHaveCount(0)
  type Kept = { kind: string; width: number; height: number; frames: { parts: number[] } }
  const clip = async () => ((await storedLoop(page)).media as unknown as Kept[])[0]
  await expect.poll(async () => (await clip())?.width).toBe(105)
  expect((await clip())?.frames.parts).toHaveLength(frames)
  await page.keyboard.press('Shift+S')
  await page.getByRole('button', { name: 'across', exact: true }).click()
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await clip())?.width).toBe(120)
})

/** Values of those effects that change nothing as they come. */
const CHANGING: Record<string, Layer['values']> = {
  levels: { black: 0.1, gamma: 0.6, toWhite: 0.9 },
  curves: { all: [0, 0, 0.25, 0.15, 0.75, 0.85, 1, 1], red: [0, 1, 1, 0] },
  colourRange: { turn: 120, saturation: 1.6 },
  colourTable: { table: 'exchanged' },
}

/** Every kind of effect on clouds that live, each in a cell of its own. */
async function allEffects(): Promise<{ readonly loop: Loop; readonly kinds: readonly string[] }> {
  const kinds = LAYER_KINDS.filter(({ effect }) => effect).map(({ kind }) => kind)
  const across = 5
  const cell = { width: 64, height: 48 }
  const size = { width: across * cell.width, height: Math.ceil(kinds.length / across) * cell.height }
  const rate = { num: 25, den: 1 }
  const empty = newLoop({ name: 'Sounding table', kind: 'texture', ...size, background: '#0b2230', rate, length: 6 })
  const layers = kinds.map((kind, i) => {
    const at = { x: cell.width * ((i % across) + 0.5), y: cell.height * (Math.floor(i / across) + 0.5) }
    const clouds = newLayer('texture', 'Clouds', { ...cell, ...at, size: 16, evolve: 1 }, `clouds-${kind}`)
    const effect = newLayer(kind, `Effect ${kind}`, { ...at, ...CHANGING[kind] }, `effect-${kind}`)
    return { ...newLayer('group', `Cell ${kind}`, {}, `cell-${kind}`), layers: [clouds, effect] }
  })
  const { width, height, data } = pictureOfTable(tableOf(4, ([r = 0, g = 0, b = 0]) => [b, g, r]))
  const png = await sharp(data, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer()
  const file = await madeAsset('image/png', new Uint8Array(png))
  const media = [{ kind: 'table', id: 'exchanged', name: 'Exchanged', size: 4, file } as Medium]
  return { loop: { ...empty, media, layers }, kinds }
}

test('effects are drawn alike in the browser and on the command line, within 1 of 255', async ({ page }) => {
  const { loop, kinds } = await allEffects()
  await openLibrary(page)
  const archive = await zipProject(loop)
  await drop(page, 'sounding-table.cyclon.zip', archive, 'application/zip')
  await page.getByRole('link', { name: 'Sounding table' }).click()
  await expect(verdict(page)).toContainText('closes')
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'PNG sequence', exact: true }).click()
  await page.getByRole('button', { name: 'Write the PNG sequence and prove it' }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: /^Save the file$/ }).click()
  const here = Object.values(unzipSync(new Uint8Array(await downloadBytes(await coming))))
  const folder = await mkdtemp(join(tmpdir(), 'cyclon-effects-'))
  try {
    const path = join(folder, 'sounding-table.cyclon.zip')
    const out = join(folder, 'node.zip')
    await writeFile(path, archive)
    await promisify(execFile)('node', ['bin/cyclon.mjs', 'render', path, '-o', out])
    const there = Object.values(unzipSync(new Uint8Array(await readFile(out))))
    expect([here.length, there.length]).toEqual([loop.length, loop.length])
    const greatest = new Map(kinds.map((kind) => [kind, 0]))
    for (let n = 0; n < loop.length; n++) {
      const [a, b] = (await Promise.all(
        [here, there].map((all) =>
          sharp(all[n] as Uint8Array)
            .ensureAlpha()
            .raw()
            .toBuffer(),
        ),
      )) as [Buffer, Buffer]
      for (const [i, value] of a.entries()) {
        const x = (i >> 2) % loop.width
        const y = Math.floor((i >> 2) / loop.width)
        const kind = kinds[Math.floor(x / 64) + 5 * Math.floor(y / 48)]
        if (kind) greatest.set(kind, Math.max(greatest.get(kind) ?? 0, Math.abs(value - (b[i] as number))))
      }
    }
    for (const [kind, most] of greatest) expect(most, kind).toBeLessThanOrEqual(1)
  } finally {
    await rm(folder, { recursive: true })
  }
})
