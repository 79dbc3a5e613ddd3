import { strToU8, zipSync } from 'fflate'
import { MAX_PIXELS, sheetLayout } from '@/core/image'
import { fileOfPass, passFolder } from '@/core/output'
import { exrOf, pngOf16Bits } from '../deep'
import { describeSheet } from '../sprite-sheet'
import type { Encoded, EncodeJob } from './job'

/** Pictures compressed at the same time, while others are drawn. */
const AT_ONCE = 6

/** The longest side that canvases of all browsers take, px. */
export const MAX_SIDE = 16_384

export const archive = (files: Record<string, Uint8Array>) => ({
  bytes: zipSync(files, { level: 0 }) as Uint8Array<ArrayBuffer>,
  type: 'application/zip',
})

/** The number of a picture of a sequence, with as many digits as the last one has. */
export function paddedNumber(n: number, count: number, firstNumber: number): string {
  const digits = Math.max(4, String(firstNumber + count - 1).length)
  return String(firstNumber + n).padStart(digits, '0')
}

/** Numbered PNG files in a ZIP, from a chosen number on; of several passes, each in a folder of its own. */
export async function pngSequence({
  name,
  timing,
  settings,
  transparent,
  draw,
  deep,
  progress,
  tools,
}: EncodeJob): Promise<Encoded> {
  const { firstNumber, passes } = settings
  const files: Record<string, Uint8Array> = {}
  const packing: (() => Promise<void>)[] = []
  for (const n of timing.frames.keys()) {
    const number = paddedNumber(n, timing.frames.length, firstNumber)
    for (const [i, pass] of passes.entries()) {
      const as = fileOfPass(pass, settings)
      const path = `${passFolder(passes, i)}${name}-${number}`
      if (as !== 'png') {
        if (!deep) throw new Error('Passes of 16 bits and EXR are drawn by the application. Choose 8 bits here.')
        const picture = await deep(n, pass, as === 'exr')
        files[as === 'exr' ? `${path}.exr` : `${path}.png`] = await (as === 'exr' ? exrOf : pngOf16Bits)(picture)
        continue
      }
      // Passes of colours and of alpha are opaque; a layer by itself lies on nothing.
      const opaque = pass === 'picture' ? !transparent : pass === 'colour' || pass === 'alpha'
      const png = tools.png(await draw(n, pass), { opaque })
      // One that fails does so where it is waited for.
      png.catch(() => {})
      packing.push(async () => {
        files[`${path}.png`] = await png
      })
      if (packing.length > AT_ONCE) await packing.shift()?.()
    }
    await progress(n + 1)
  }
  for (const add of packing) await add()
  return archive(files)
}

/** All frames in one PNG, with a JSON of where each lies, in a ZIP. @throws Error where the picture would be too large */
export async function spriteSheet(job: EncodeJob): Promise<Encoded> {
  const { name, width, height, timing, rate, settings, draw, progress, tools } = job
  const sheet = sheetLayout(timing.frames.length, { width, height }, settings.sides)
  if (Math.max(sheet.width, sheet.height) > MAX_SIDE || sheet.width * sheet.height > MAX_PIXELS)
    throw new Error(
      `The sheet would be ${sheet.width} × ${sheet.height} px; canvases take up to ${MAX_SIDE} a side and ${Math.floor(MAX_PIXELS / 1e6)} million pixels. Choose a smaller size.`,
    )
  const image = `${name}.png`
  const description = describeSheet(image, sheet, sheet.grid, { width, height }, rate)
  const data = new Uint8ClampedArray(sheet.width * sheet.height * 4)
  for (const [n, { x, y }] of description.frames.entries()) {
    const frame = (await draw(n)).data
    for (let row = 0; row < height; row++)
      data.set(frame.subarray(row * width * 4, (row + 1) * width * 4), ((y + row) * sheet.width + x) * 4)
    await progress(n + 1)
  }
  const picture = await tools.png({ width: sheet.width, height: sheet.height, data })
  const files = { [image]: picture, [`${name}.json`]: strToU8(`${JSON.stringify(description, null, 2)}\n`) }
  return { ...archive(files), sheet: { picture, cells: description.frames } }
}
