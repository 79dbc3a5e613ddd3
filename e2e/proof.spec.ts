import { readFile } from 'node:fs/promises'
import { build } from 'esbuild'
import { webpStill } from '../src/codecs/webp-still'
import { expect, test } from './app'

/** Words that name every fault, in every kind of file that can have it. */
const NAMED = {
  drop: ['frames'],
  repeat: ['seam'],
  delay: ['time of one loop', 'delays'],
  once: ['repeats'],
  blank: ['seam'],
  pixel: ['pixels'],
} as const
type Fault = keyof typeof NAMED

const EVERY = ['drop', 'repeat', 'blank'] as const
const TIMED = [...EVERY, 'delay'] as const
/** The faults that a format can have: one that does not say times has no wrong ones. */
const FORMATS: readonly (readonly [string, readonly Fault[], boolean])[] = [
  ['gif', [...TIMED, 'once'], true],
  ['apng', [...TIMED, 'once', 'pixel'], true],
  ['webp', [...TIMED, 'once', 'pixel'], true],
  ['webp', [...TIMED, 'once'], false],
  ['avif', [...TIMED, 'once'], true],
  ['mp4', TIMED, true],
  ['webm', TIMED, true],
  ['png-sequence', [...EVERY, 'pixel'], true],
  ['sprite-sheet', [...EVERY, 'pixel'], true],
]

test('the proof of no kind of file can be fooled', async ({ page }) => {
  const { outputFiles } = await build({
    entryPoints: ['e2e/in-page/prove.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    alias: { '@': './src' },
    mainFields: ['module', 'main'],
  })
  await page.exposeFunction('writeStill', async (png: string, how: Parameters<typeof webpStill>[1]) =>
    Buffer.from(await webpStill(Buffer.from(png, 'base64'), how)).toString('base64'),
  )
  // Encoders of video are there for pages of one's own machine only.
  await page.route('**/empty', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }))
  await page.goto('/empty')
  await page.addScriptTag({ content: outputFiles[0]?.text ?? '' })
  const failed = (format: string, fault: string, lossless: boolean): Promise<string[]> =>
    page.evaluate(`faultyProof(${JSON.stringify({ format, fault, lossless })}).then(({ failed }) => failed)`)
  for (const [format, faults, lossless] of FORMATS) {
    expect(await failed(format, 'none', lossless), `${format} as it should be`).toEqual([])
    for (const fault of faults)
      expect(await failed(format, fault, lossless), `${format}, ${fault}`).toEqual(
        expect.arrayContaining([...NAMED[fault]]),
      )
  }
})

test('nor can that of vectors', async ({ page }) => {
  const { outputFiles } = await build({
    entryPoints: ['e2e/in-page/prove-vector.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    alias: { '@': './src' },
    mainFields: ['module', 'main'],
  })
  await page.route('**/empty', (route) =>
    route.fulfill({ contentType: 'text/html', body: '<!doctype html><body></body>' }),
  )
  await page.goto('/empty')
  await page.addScriptTag({ content: outputFiles[0]?.text ?? '' })
  const loop = await readFile('demo/loops/beacon-loader.cyclon.json', 'utf8')
  const failed = (format: string, fault: string): Promise<string[]> =>
    page.evaluate(`vectorProof(${JSON.stringify(loop)}, '${format}', '${fault}')`)
  for (const format of ['svg', 'lottie']) {
    expect(await failed(format, 'none'), format).toEqual([])
    expect(await failed(format, 'slow'), format).toContain('time of one loop')
    for (const fault of ['empty', 'still', 'part'])
      expect(await failed(format, fault), `${format}, ${fault}`).toContain('every spot')
  }
})
