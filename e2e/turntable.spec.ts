import { readFile } from 'node:fs/promises'
import { Document, WebIO } from '@gltf-transform/core'
import type { Page } from '@playwright/test'
import { unzipSync } from 'fflate'
import { validateBytes } from 'gltf-validator'
import sharp from 'sharp'
import { zipProject } from '../src/codecs'
import { exrRead } from '../src/codecs/deep'
import { addModel, newLoop } from '../src/core/edit'
import { madeAsset } from '../src/core/media'
import { testModel } from '../src/core/testing/test-model'
import { downloadBytes, expect, openLibrary, setField, storedLoop, test, verdict } from './app'
import { drop } from './clips'

type Stored = {
  id: string
  kind: string
  name: string
  values: Record<string, unknown>
  motions: Record<string, { keys: { value: number }[] }>
  layers?: Stored[]
}
const layersOf = async (page: Page) => (await storedLoop(page)).layers as unknown as Stored[]
const layers = (page: Page) => page.getByRole('region', { name: 'Layers' })
const panel = (page: Page) => page.getByRole('region', { name: 'Properties' })
const demoModel = (name: string) => readFile(`demo/loops/assets/${name}.glb`)

/** Begins a small turntable of a model from the brief, so that it is quickly drawn. */
async function begin(page: Page, model: string, length = '24'): Promise<void> {
  await openLibrary(page)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByLabel(/^turntable/).check()
  await page.getByLabel(/^its model/).setInputFiles(`demo/loops/assets/${model}.glb`)
  await page.getByLabel(/^width/).fill('240')
  await page.getByLabel(/^height/).fill('180')
  await page.getByLabel('length', { exact: true }).fill(length)
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await expect(page.getByTestId('turn-view')).toHaveAttribute('data-inside', 'true')
}
/** The colours of the stage over all of it: how many differ from its corner. */
const drawnPixels = (page: Page) =>
  page
    .getByTestId('stage')
    .locator('canvas')
    .evaluate((element) => {
      const source = element as HTMLCanvasElement
      const copy = new OffscreenCanvas(source.width, source.height).getContext('2d')
      copy?.drawImage(source, 0, 0)
      const { data } = copy?.getImageData(0, 0, source.width, source.height) ?? { data: new Uint8ClampedArray(4) }
      let count = 0
      for (let i = 0; i < data.length; i += 4) if (Math.abs((data[i] as number) - (data[0] as number)) > 12) count++
      return count / (data.length / 4)
    })

test('a model that is dropped turns in the middle of its frame, and is a proven MP4 in three actions', async ({
  page,
}) => {
  test.setTimeout(400_000)
  await page.goto('/')
  await expect(page.getByRole('link', { name: 'Beacon loader' })).toBeVisible()
  await drop(page, 'capstan.glb', await demoModel('capstan'), 'model/gltf-binary')
  await expect(panel(page).getByText('13 parts, 7,080 triangles')).toBeVisible()
  await expect(page.getByTestId('turn-view')).toHaveAttribute('data-inside', 'true')
  await expect(panel(page).getByTestId('wobble')).toContainText('It turns in its place.')
  await expect.poll(() => drawnPixels(page)).toBeGreaterThan(0.05)
  const [model] = await layersOf(page)
  expect([model?.kind, model?.values.foldY, model?.motions.turn?.keys.map(({ value }) => value)]).toEqual([
    'model',
    6,
    [0, 360],
  ])
  // Its fold offers the loop of a sixth: one press.
  await panel(page).getByRole('button', { name: 'A loop of 20 f: 1 of 6 parts of the turn' }).click()
  await expect.poll(async () => (await storedLoop(page)).length).toBe(20)
  await expect(verdict(page)).toContainText('closes')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: /^Save the (MP4|file)$/ }).click()
  expect((await coming).suggestedFilename()).toBe('capstan.mp4')
})

test('a shorter turn that a document claims and that is not seen to come home is not offered', async ({ page }) => {
  await openLibrary(page)
  const file = await madeAsset('model/gltf-binary', new Uint8Array(await demoModel('capstan')))
  // Its six bars are said to be five.
  const model = { ...testModel(), file, folds: [1, 5, 1] as const }
  const [whole, ...parts] = model.parts
  const brief = { name: 'Five bars', kind: 'turntable', width: 240, height: 180, background: '#0b2230' } as const
  const claimed = { ...model, parts: whole ? [{ ...whole, folds: [1, 5, 1] as const }, ...parts] : parts }
  const { loop } = addModel(newLoop({ ...brief, rate: { num: 30, den: 1 }, length: 60 }), claimed)
  await drop(page, 'capstan.cyclon.zip', Buffer.from(await zipProject(loop)), 'application/zip')
  await page.getByRole('link', { name: 'Five bars' }).click()
  await layers(page).getByText('Capstan').first().click()
  await expect(panel(page).getByTestId('no-shorter-turn')).toContainText('each of 5 parts of the turn')
  await expect(panel(page).getByRole('button', { name: /parts of the turn/ })).toHaveCount(0)
})

test('a wobble is measured, drawn and mended in one press; what leaves the guide is said', async ({ page }) => {
  await begin(page, 'mooring-buoy')
  await expect(panel(page).getByTestId('wobble')).toContainText('It turns in its place.')
  await panel(page).getByLabel('pivot', { exact: true }).selectOption('origin of the file')
  await expect(panel(page).getByTestId('wobble')).toContainText(/Its centre wobbles by \d+\.\d px/)
  await expect(page.getByTestId('wobble-path')).toBeVisible()
  await panel(page).getByRole('button', { name: 'Centre it' }).click()
  await expect(page.getByTestId('wobble-path')).toHaveCount(0)
  await expect(panel(page).getByTestId('wobble')).toContainText('It turns in its place.')
  await setField(panel(page).getByRole('textbox', { name: 'distance' }), '0.7')
  await expect(page.getByTestId('turn-view')).toHaveAttribute('data-inside', 'false')
  // Degrees a frame, frames and time of a turn follow each other.
  await setField(panel(page).getByRole('textbox', { name: 'each frame' }), '6')
  await expect(panel(page).getByRole('textbox', { name: 'turn takes' })).toHaveValue('60')
  await expect.poll(async () => (await storedLoop(page)).length).toBe(60)
})

test('occlusion and lines are put over the colours, and written as three sequences; the glTF closes', async ({
  page,
}) => {
  test.setTimeout(400_000)
  await begin(page, 'capstan', '6')
  await panel(page).getByRole('button', { name: 'Occlusion and lines over it' }).click()
  await expect
    .poll(async () => (await layersOf(page)).map(({ values }) => [values.pass, values.blend]))
    .toEqual([
      ['colour', 'normal'],
      ['occlusion', 'multiply'],
      ['wireframe', 'normal'],
    ])
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'PNG sequence', exact: true }).click()
  for (const pass of ['models: wireframe', 'models: occlusion', 'models: depth'])
    await page.getByLabel(pass, { exact: true }).check()
  await page.getByLabel('depth, normals, occlusion, shadow in').selectOption('16 bits, depth and normals as EXR')
  await page.getByRole('button', { name: 'Write the PNG sequence and prove it' }).click()
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: /^Save the file$/ }).click()
  const files = unzipSync(new Uint8Array(await downloadBytes(await coming)))
  expect(Object.keys(files).filter((path) => /-0003\.(png|exr)$/.test(path))).toHaveLength(4)
  const channels = async (folder: string) => {
    const path = Object.keys(files).find((each) => each.startsWith(folder) && each.endsWith('0002.png')) as string
    const { data } = await sharp(files[path] as Uint8Array)
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true })
    return data
  }
  // All are of one model, frame by frame: where occlusion is opaque, depth is, in units of the model, but for edges, which it has hard.
  const shade = await channels('02-models-occlusion')
  const exr = Object.keys(files).find((path) => path.endsWith('0002.exr')) as string
  const { data: depth } = await exrRead(new Uint8Array(files[exr] as Uint8Array))
  let both = 0
  let one = 0
  let dark = 255
  let near = 1e9
  let far = 0
  for (let i = 0; i < shade.length; i += 4) {
    const a = (shade[i + 3] as number) > 128
    const b = (depth[i + 3] as number) > 0.5
    if (a && b) {
      both++
      dark = Math.min(dark, shade[i] as number)
      near = Math.min(near, depth[i] as number)
      far = Math.max(far, depth[i] as number)
    } else if (a !== b) one++
  }
  expect(one).toBeLessThan(both * 0.05)
  expect(both).toBeGreaterThan(2000)
  expect(dark).toBeLessThan(200)
  // The capstan is as deep as it is wide, which is some two of its units.
  expect(near).toBeGreaterThan(2)
  expect(far - near).toBeGreaterThan(0.5)
  expect(far - near).toBeLessThan(4)

  await page.getByRole('tab', { name: 'For programs' }).click()
  await expect(page.getByText('Closes after 0.2 s')).toBeVisible()
  const model = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save capstan as glTF' }).click()
  const glb = new Uint8Array(await downloadBytes(await model))
  await expect(page.getByText('capstan was written and read back: it closes.')).toBeVisible()
  expect((await validateBytes(glb)).issues.numErrors).toBe(0)
  const table = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save as CSV' }).click()
  expect((await downloadBytes(await table)).toString()).toContain('frame,seconds,capstan: turn')
  // The page that is turned by hand needs nothing beside it.
  const html = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save the page' }).click()
  const content = (await downloadBytes(await html)).toString()
  const other = await page.context().newPage()
  await other.setContent(content)
  const slider = other.getByRole('slider')
  await slider.press('Home')
  await expect(slider).toHaveAttribute('aria-valuenow', '0')
  await slider.press('ArrowRight')
  await expect(slider).toHaveAttribute('aria-valuenow', '1')
  const box = await slider.boundingBox()
  if (!box) throw new Error('the object is not there')
  await other.mouse.move(box.x + 20, box.y + 40)
  await other.mouse.down()
  await other.mouse.move(box.x + 20 + box.width / 2, box.y + 40, { steps: 3 })
  await other.mouse.up()
  await expect(slider).toHaveAttribute('aria-valuenow', '4')
  await other.close()
})

test('a rotor spins within its housing: three actions; parts are hidden and shown alone', async ({ page }) => {
  await begin(page, 'signal-lamp')
  await panel(page).getByRole('button', { name: 'Move Lens by itself' }).click()
  await expect(layers(page).getByRole('button', { name: 'Lens', exact: true })).toBeVisible()
  await panel(page).getByRole('button', { name: 'Move turn' }).click()
  await setField(page.getByRole('textbox', { name: 'Cycles in the loop' }), '2')
  await expect(verdict(page)).toContainText('closes')
  const lens = (await layersOf(page))[0]?.layers?.[0]
  expect([lens?.kind, lens?.values.part, lens?.values.fold]).toEqual(['part', 'Lens', 8])
  await layers(page).getByRole('button', { name: 'signal-lamp', exact: true }).click()
  await expect.poll(() => drawnPixels(page)).toBeGreaterThan(0)
  const before = await drawnPixels(page)
  await panel(page).getByRole('button', { name: 'Hide Housing' }).click()
  await expect.poll(() => drawnPixels(page)).toBeLessThan(before * 0.8)
  await page.keyboard.press('Control+z')
  await panel(page).getByRole('button', { name: 'Show Mantle alone' }).click()
  await expect.poll(() => drawnPixels(page)).toBeLessThan(before * 0.5)
})

/** A crate of two plates without names that look inwards, beside an empty group, as GLB. */
async function faultyModel(): Promise<Buffer> {
  const document = new Document()
  const buffer = document.createBuffer()
  const corners = Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1])
  const inwards = Uint16Array.from([0, 1, 2, 0, 3, 1, 0, 2, 3, 1, 3, 2])
  const piece = document
    .createPrimitive()
    .setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(corners).setBuffer(buffer))
    .setIndices(document.createAccessor().setType('SCALAR').setArray(inwards).setBuffer(buffer))
  const mesh = document.createMesh('Plate').addPrimitive(piece)
  const scene = document.createScene().addChild(document.createNode('Hook'))
  for (const x of [0, 1.5]) scene.addChild(document.createNode('').setMesh(mesh).setTranslation([x, 0, 0]))
  return Buffer.from(await new WebIO().writeBinary(document))
}

test('what is wrong with a model is mended by a press each; parts are named and put together; its pivot is pressed and dragged, its axis drawn', async ({
  page,
}) => {
  await openLibrary(page)
  await drop(page, 'crate.glb', await faultyModel(), 'model/gltf-binary')
  const wrong = panel(page).getByRole('list', { name: 'What is wrong with the model' })
  await expect(wrong.getByRole('listitem')).toHaveCount(3)
  for (const [press, left] of [
    ['Name them', 2],
    ['Turn faces round', 1],
    ['Take out', 0],
  ] as const) {
    await wrong.getByRole('button', { name: press }).click()
    await expect(wrong.getByRole('listitem')).toHaveCount(left)
  }
  const parts = panel(page).getByRole('list', { name: 'Parts of the model' })
  await parts.getByRole('button', { name: 'Part', exact: true }).click()
  await parts.getByRole('button', { name: 'Part 2', exact: true }).click()
  await panel(page).getByLabel('Name of the group').fill('Lid')
  await panel(page).getByRole('button', { name: 'Group 2' }).click()
  await expect(parts.getByRole('button', { name: 'Lid', exact: true })).toBeVisible()
  await parts.getByRole('button', { name: 'Part', exact: true }).click()
  await panel(page).getByLabel('Name of the part').fill('Board')
  await panel(page).getByRole('button', { name: 'Rename' }).click()
  await expect(parts.getByRole('button', { name: 'Board', exact: true })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(parts.getByRole('button', { name: 'Part', exact: true })).toBeVisible()

  // The pivot: of a part, dragged, pressed on the surface.
  const pivotOf = async () => {
    const values = (await layersOf(page))[0]?.values
    return [values?.aboutX, values?.aboutY, values?.aboutZ].map(Number)
  }
  await parts.getByRole('button', { name: 'Part 2', exact: true }).click()
  await panel(page).getByRole('button', { name: 'Turn about it' }).click()
  await expect.poll(async () => (await pivotOf())[0]).toBeCloseTo(0.2, 1)
  await expect(panel(page).getByTestId('wobble')).toContainText('wobbles')
  await panel(page).getByRole('button', { name: 'Centre it' }).click()
  await expect.poll(pivotOf).toEqual([0, 0, 0])
  const handle = async (name: string) => {
    const box = await page.getByTestId(name).boundingBox()
    if (!box) throw new Error(`no ${name}`)
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  }
  const drag = async (name: string, dx: number, dy: number) => {
    const from = await handle(name)
    await page.mouse.move(from.x, from.y)
    await page.mouse.down()
    await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 })
    await page.mouse.up()
  }
  await drag('turn-pivot', -40, 0)
  await expect.poll(async () => (await pivotOf())[0]).toBeLessThan(-0.05)
  await page.keyboard.press('Control+z')
  await expect.poll(pivotOf).toEqual([0, 0, 0])
  await drag('turn-axis', 60, 0)
  await expect.poll(async () => (await layersOf(page))[0]?.values.axis).toBe('drawn')
  expect(Number((await layersOf(page))[0]?.values.axisX)).toBeGreaterThan(0.2)
  await page.keyboard.press('Control+z')
  await page.getByRole('button', { name: 'Place the pivot' }).click()
  const middle = await handle('turn-pivot')
  await page.mouse.click(middle.x + 30, middle.y + 20)
  await expect.poll(async () => Math.hypot(...(await pivotOf()))).toBeGreaterThan(0.05)

  // Seen from elsewhere, the camera stays; taken, it goes there.
  await panel(page).getByRole('button', { name: 'Look round it' }).click()
  const free = page.getByRole('application')
  await free.focus()
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight')
  expect((await layersOf(page))[0]?.values.around).toBe(0)
  await page.getByRole('button', { name: 'Take this view' }).click()
  await expect.poll(async () => (await layersOf(page))[0]?.values.around).toBe(95)
})

test('models that cannot be read are refused in words, and the open work stays as it is', async ({ page }) => {
  await openLibrary(page)
  await page.getByRole('link', { name: 'Beacon loader' }).click()
  await expect(verdict(page)).toContainText('closes')
  const before = JSON.stringify(await layersOf(page))
  const whole = await demoModel('capstan')
  const text = (content: object) => Buffer.from(JSON.stringify({ asset: { version: '2.0' }, ...content }))
  for (const [name, bytes, words] of [
    ['half.glb', whole.subarray(0, 20_000), 'half.glb is damaged or breaks off'],
    ['empty.glb', Buffer.alloc(0), 'empty.glb is empty'],
    [
      'round.gltf',
      text({ nodes: [{ children: [1] }, { children: [0] }], scenes: [{ nodes: [0] }] }),
      'hold themselves',
    ],
    [
      'claims.gltf',
      text({ accessors: [{ count: 1e8, componentType: 5126, type: 'VEC3' }] }),
      'claims 100000000 vertices',
    ],
    ['leaves.gltf', text({ buffers: [{ byteLength: 4, uri: '../../etc/passwd' }] }), 'outside of its own folder'],
    ['nowhere.obj', Buffer.from('v 0 0 0\nv 1 0 nan\nv 0 1 0\nf 1 2 3\n'), 'is nowhere'],
  ] as const) {
    await drop(page, name, bytes, '')
    await expect(page.getByText(words).first()).toBeVisible()
  }
  expect(JSON.stringify(await layersOf(page))).toBe(before)
  // A sound one comes in as a layer.
  await drop(page, 'capstan.glb', whole, 'model/gltf-binary')
  await expect(layers(page).getByRole('button', { name: 'capstan', exact: true })).toBeVisible()
})
