import { readFileSync } from 'node:fs'
import type { Browser, Page } from '@playwright/test'
import sharp from 'sharp'
import { zipProject } from '../src/codecs/project'
import { insertLayers, type Layer } from '../src/core/document'
import { newLayer, newLoop } from '../src/core/edit'
import { type Clip, madeAsset } from '../src/core/media'
import { evenly } from '../src/core/motion'
import { rendererIds } from './reading'

const WIDTH = 1280
const HEIGHT = 720
const FRAMES = 60
const CLIPS = 3

/** A loop in which three clips of 60 frames at 1280×720 run side by side. */
async function threeClips(): Promise<Buffer> {
  let loop = newLoop({
    name: 'Three clips',
    kind: 'cinemagraph',
    width: WIDTH,
    height: HEIGHT,
    background: '#0b2230',
    rate: { num: 25, den: 1 },
    length: FRAMES,
  })
  for (let n = 0; n < CLIPS; n++) {
    const files: Uint8Array<ArrayBuffer>[] = []
    for (let frame = 0; frame < FRAMES; frame++) {
      const background = { r: (4 * frame) % 256, g: 80 * n, b: 120 }
      files.push(
        new Uint8Array(
          await sharp({
            create: {
              width: WIDTH,
              height: HEIGHT,
              channels: 3,
              background,
              noise: { type: 'gaussian', mean: 128, sigma: 12 },
            },
          })
            .webp({ quality: 60 })
            .toBuffer(),
        ),
      )
    }
    const clip: Clip = {
      kind: 'clip',
      id: `clip-${n}`,
      name: `Wake ${n}`,
      width: WIDTH,
      height: HEIGHT,
      verdict: 'jumps',
      delaysMs: files.map(() => 40),
      frames: await madeAsset('image/webp', files),
    }
    const layer: Layer = {
      ...newLayer('clip', clip.name, { clip: clip.id, x: 220 + 420 * n, y: 360, width: 400, height: 225 }),
      motions: { time: evenly(1) },
    }
    loop = insertLayers({ ...loop, media: [...loop.media, clip] }, [layer])
  }
  return Buffer.from(await zipProject(loop))
}

const memoryOf = (pid: number): number =>
  1024 * Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1])

/** Peak memory of the tab while it plays three clips through, above that before. */
export async function clipRows(browser: Browser, page: Page, url: string): Promise<string[]> {
  await page.goto(url)
  await page.getByRole('link', { name: 'Beacon loader' }).waitFor()
  const ids = await rendererIds(browser)
  const before = new Map(ids.map((id) => [id, memoryOf(id)]))
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  await chooser.setFiles({ name: 'three.cyclon.zip', mimeType: 'application/zip', buffer: await threeClips() })
  await page.getByRole('region', { name: 'Layers' }).waitFor({ timeout: 120_000 })
  await page.keyboard.press('Space')
  let most = 0
  for (let i = 0; i < 40; i++) {
    await page.waitForTimeout(500)
    most = Math.max(most, ...ids.map((id) => memoryOf(id) - (before.get(id) ?? 0)))
  }
  const all = CLIPS * FRAMES * WIDTH * HEIGHT * 4
  const mb = (bytes: number) => `${(bytes / 2 ** 20).toFixed(0)} MB`
  return [
    `| the tab at its highest while it plays a loop with three clips of 60 frames at 1280×720 | all their frames, decoded; the frames of the stage take up to 384 MB of it | ${mb(most)} against ${mb(all)} | ${(most / all).toFixed(2)} | |`,
  ]
}
