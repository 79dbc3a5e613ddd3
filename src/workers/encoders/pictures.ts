import { strToU8, zipSync } from 'fflate'
import { describeSheet } from '@/codecs'
import { sheetLayout } from '@/core/image'
import { type Encoded, type EncodeJob, MAX_SIDE, pngOf } from './job'

/** Numbered PNG files in a ZIP, from a chosen number on. */
export async function pngSequence({ name, timing, options, draw, progress }: EncodeJob): Promise<Encoded> {
  const last = options.firstNumber + timing.frames.length - 1
  const digits = Math.max(4, String(last).length)
  const files: Record<string, Uint8Array> = {}
  for (const n of timing.frames.keys()) {
    files[`${name}-${String(options.firstNumber + n).padStart(digits, '0')}.png`] = await pngOf(await draw(n))
    await progress(n + 1)
  }
  return { bytes: zipSync(files, { level: 0 }) as Uint8Array<ArrayBuffer>, type: 'application/zip', ending: '.zip' }
}

/** All frames in one PNG, with a JSON of where each lies, in a ZIP. @throws Error where the picture would be too large */
export async function spriteSheet(job: EncodeJob): Promise<Encoded> {
  const { name, width, height, timing, rate, options, draw, progress } = job
  const sheet = sheetLayout(timing.frames.length, { width, height }, options.sides)
  if (Math.max(sheet.width, sheet.height) > MAX_SIDE)
    throw new Error(
      `The sheet would be ${sheet.width} × ${sheet.height} px; canvases take up to ${MAX_SIDE} a side. Choose a smaller size.`,
    )
  const canvas = new OffscreenCanvas(sheet.width, sheet.height)
  const context = canvas.getContext('2d')
  if (!context) throw new Error('This browser gives no 2D canvas. Cyclon needs one to draw.')
  const image = `${name}.png`
  const description = describeSheet(image, sheet, sheet.grid, { width, height }, rate)
  for (const [n, { x, y }] of description.frames.entries()) {
    const { data } = await draw(n)
    context.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), x, y)
    await progress(n + 1)
  }
  const picture = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
  const files = { [image]: picture, [`${name}.json`]: strToU8(`${JSON.stringify(description, null, 2)}\n`) }
  return {
    bytes: zipSync(files, { level: 0 }) as Uint8Array<ArrayBuffer>,
    ...{ type: 'application/zip', ending: '.zip', sheet: { picture, cells: description.frames } },
  }
}
