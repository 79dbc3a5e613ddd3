import { ClipError, refuseHuge } from '@/codecs/claims'
import { cellAt, findGrid, type SheetGrid } from '@/core/image'
import { missingNumbers } from '@/core/media/numbering'
import { numbersOf, type OpenedClip, reader, refuseClipSize } from './reader'

/** Frames per second of pictures, which say nothing of it themselves. */
const ASSUMED_RATE = 25
const DELAY_MS = 1000 / ASSUMED_RATE
/** A sheet is looked over for its grid at no more than its own size. */
const MAX_SHEET_PIXELS = 4096 * 4096

async function decode(file: File): Promise<ImageBitmap> {
  refuseHuge(new Uint8Array(await file.arrayBuffer()), 'picture')
  const bitmap = await createImageBitmap(file).catch(() => null)
  if (!bitmap) throw new ClipError(`${file.name} cannot be read as a picture. Take it out or export it again.`)
  return bitmap
}

const RATE_NOTE = `shown at ${ASSUMED_RATE} a second, since pictures do not say it; another rate can be set by hand`

/** Numbered pictures of one size, in their order. */
export async function sequence(ordered: readonly File[]): Promise<OpenedClip> {
  const first = await decode(ordered[0] as File)
  const { width, height } = first
  first.close()
  refuseClipSize(width, height, ordered.length, 'first')
  const missing = missingNumbers(ordered.map(({ name }) => name))
  return {
    format: `${ordered.length} pictures`,
    width,
    height,
    count: ordered.length,
    plays: 0,
    notes: [RATE_NOTE, ...(missing.length > 0 ? [`numbers are missing: ${missing.join(', ')}`] : [])],
    async *frames(w, h, wanted) {
      const read = reader(w, h)
      for (const n of numbersOf(ordered.length, wanted)) {
        const file = ordered[n] as File
        const bitmap = await decode(file)
        if (bitmap.width !== width || bitmap.height !== height)
          throw new ClipError(
            `${file.name} has ${bitmap.width} × ${bitmap.height} px, the first picture ${width} × ${height}. Give them one size.`,
          )
        const picture = read((context) => context.drawImage(bitmap, 0, 0, w, h))
        bitmap.close()
        yield { n, picture, delayMs: DELAY_MS }
      }
    },
  }
}

/** One picture: a sprite sheet, cut as it is told or as its grid is found; else a single frame. */
export async function stillFrames(file: File, format: string, given?: SheetGrid): Promise<OpenedClip> {
  const bitmap = await decode(file)
  const { width, height } = bitmap
  refuseClipSize(width, height, 1, format)
  const pixels = () => reader(width, height)((context) => context.drawImage(bitmap, 0, 0))
  const grid = given ?? (width * height <= MAX_SHEET_PIXELS ? findGrid(pixels()) : null)
  if (given && (given.columns > width || given.rows > height))
    throw new ClipError(
      `A picture of ${width} × ${height} px has no ${given.columns} × ${given.rows} cells. Count the columns and rows of the sheet again.`,
    )
  bitmap.close()
  const cut = grid ?? { columns: 1, rows: 1, count: 1 }
  const cell = cellAt({ width, height }, cut, 0)
  const uneven = width % cut.columns > 0 || height % cut.rows > 0
  refuseClipSize(cell.width, cell.height, cut.count, format)
  return {
    format,
    ...cell,
    count: cut.count,
    plays: 0,
    grid: cut,
    notes: [
      ...(cut.count > 1
        ? [`a sprite sheet of ${cut.columns} × ${cut.rows}${given ? '' : ', as was found'}`, RATE_NOTE]
        : []),
      ...(uneven ? ['the picture does not divide into these cells: its right or lower edge is left out'] : []),
    ],
    async *frames(w, h, wanted) {
      const read = reader(w, h)
      const sheet = await decode(file)
      for (const n of numbersOf(cut.count, wanted)) {
        const { x, y, width: from, height: down } = cellAt({ width, height }, cut, n)
        const picture = read((context) => context.drawImage(sheet, x, y, from, down, 0, 0, w, h))
        yield { n, picture, delayMs: DELAY_MS }
      }
      sheet.close()
    },
  }
}
