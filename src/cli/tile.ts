import { readFile } from 'node:fs/promises'
import sharp from 'sharp'
import { MAX_PIXELS, type Picture } from '@/core/image'
import {
  type Axis,
  type EdgeReport,
  HEALS,
  type Heal,
  healed,
  judgeTile,
  type TileReport,
  usualBand,
} from '@/core/texture'
import { pngInNode } from '../render/png-node'
import { CommandError } from './command-error'
import { writeWhole } from './output'

/** An edge as it is written to JSON. */
type EdgeEntry = Omit<EdgeReport, 'steps'>

/** Entry for a picture that is to be a tile. */
export type TileEntry =
  | { readonly file: string; readonly tile: Readonly<Record<Axis, EdgeEntry>> }
  | { readonly file: string; readonly error: string }

/** @throws CommandError where there is no picture that can be read */
async function pictureAt(path: string): Promise<Picture> {
  const bytes = await readFile(path).catch(() => {
    throw new CommandError(`${path}: There is no such file, or it may not be read.`)
  })
  try {
    const { width = 0, height = 0 } = await sharp(bytes, { limitInputPixels: false }).metadata()
    if (width * height > MAX_PIXELS)
      throw new CommandError(
        `${path} has ${width} × ${height} px, more than can be worked with. Make it smaller first.`,
      )
    // Colours of any depth and kind, as a screen shows them.
    const { data, info } = await sharp(bytes, { limitInputPixels: false })
      .toColourspace('srgb')
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true })
    return {
      width: info.width,
      height: info.height,
      data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
    }
  } catch (error) {
    if (error instanceof CommandError) throw error
    const [line] = (error as Error).message.split('\n')
    throw new CommandError(`${path} cannot be read as a picture (${line}). Fetch or export it again.`)
  }
}

const entryOf = ({ steps: _each, ...edge }: EdgeReport): EdgeEntry => edge

/** Whether a picture shows an edge where it meets itself. What cannot be read is an entry, too. */
export async function checkTile(path: string): Promise<TileEntry> {
  try {
    const { x, y } = judgeTile(await pictureAt(path))
    return { file: path, tile: { x: entryOf(x), y: entryOf(y) } }
  } catch (error) {
    if (!(error instanceof CommandError) && !(error instanceof RangeError)) throw error
    return { file: path, error: error.message.replace(`${path}: `, '') }
  }
}

/** 0 where all close, 1 where one shows an edge, 2 where one cannot be read. */
export const tilesExitCode = (entries: readonly TileEntry[]): 0 | 1 | 2 => {
  if (entries.some((entry) => 'error' in entry)) return 2
  const shows = (entry: TileEntry) =>
    'tile' in entry && Object.values(entry.tile).some(({ verdict }) => verdict === 'shows-an-edge')
  return entries.some(shows) ? 1 : 0
}

const words = ({ verdict, ratio }: EdgeEntry): string => `${verdict.replaceAll('-', ' ')} (${ratio.toFixed(2)})`

export const tileTable = (entries: readonly TileEntry[]): string =>
  entries
    .map((entry) =>
      'error' in entry
        ? `${entry.file}  cannot be read: ${entry.error}`
        : `${entry.file}  across: ${words(entry.tile.x)}  down: ${words(entry.tile.y)}`,
    )
    .join('\n')

export interface HealOptions {
  readonly out: string
  readonly force?: boolean
  /** The way that leaves least of an edge, where it is left out. */
  readonly by?: Heal
  /** px; an eighth of the side where it is left out. */
  readonly band?: number
  readonly axis: Axis | 'both'
}

const worst = ({ x, y }: TileReport): number => Math.max(x.ratio, y.ratio)

/** Heals the edges of a picture and writes it as a PNG; a direction that closes already is left as it is. @throws CommandError */
export async function healTile(path: string, { out, by, band, axis, force = false }: HealOptions): Promise<string> {
  if (!/\.png$/i.test(out)) throw new CommandError(`${out}: a healed tile is written as a .png.`)
  const picture = await pictureAt(path)
  const before = judgeTile(picture)
  const axes = (axis === 'both' ? (['x', 'y'] as const) : [axis]).filter((each) => before[each].verdict !== 'closes')
  if (axes.length === 0) {
    await writeWhole(out, await pngInNode(picture), { reads: [path], force })
    return `${out}: it closes already, and is as it was`
  }
  const tries = (by ? [by] : HEALS).map((each) => {
    const made = axes.reduce(
      (now, on) => healed(now, on, each, band ?? usualBand(on === 'x' ? now.width : now.height)),
      picture,
    )
    return { by: each, made, report: judgeTile(made) }
  })
  const best = tries.reduce((a, b) => (worst(b.report) < worst(a.report) ? b : a))
  await writeWhole(out, await pngInNode(best.made), { reads: [path], force })
  const { x, y } = best.report
  return `${out}: healed by ${best.by}, ${best.made.width} × ${best.made.height} px; across: ${words(entryOf(x))}, down: ${words(entryOf(y))}`
}
