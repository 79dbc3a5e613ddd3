import { fileOpen } from 'browser-fs-access'
import { toast } from 'sonner'
import { claimedSize } from '@/codecs/claims/size'
import { brokenPng, sniffedPictureType } from '@/codecs/picture-type'
import { insertLayers, type Layer, type Loop, MAX_NAME } from '@/core/document'
import { addModel, freeName, newLayer } from '@/core/edit'
import { newId } from '@/core/id'
import { MAX_PIXELS } from '@/core/image'
import {
  MAX_PICTURE_BYTES,
  MAX_SIDE_PX,
  type Medium,
  madeAsset,
  mediumKind,
  PICTURE_TYPES,
  type StillPicture,
  type TableOfColours,
} from '@/core/media'
import type { SvgContent } from '@/core/svg'
import { changeLoop, currentLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { importClient, lastingService } from '@/workers/page/clients'
import { modelAmong, readModelFile } from './model-files'

/** The problem with a picture, and the advice. */
class PictureError extends Error {
  override readonly name = 'PictureError'
}

const isSvg = (file: File) => file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)
const isTable = (file: File) => /\.cube$/i.test(file.name)
const isStill = (file: File) =>
  (PICTURE_TYPES as readonly string[]).includes(file.type) || /\.(png|jpe?g|webp)$/i.test(file.name)

/** Whether a file is a picture or a table of colours that can be brought in, by its type or name. */
export const isPictureFile = (file: File): boolean => isSvg(file) || isStill(file) || isTable(file)

/** A still picture read from a file. @throws PictureError where it is too large or cannot be decoded. */
export async function readPicture(file: File): Promise<StillPicture> {
  if (file.size > MAX_PICTURE_BYTES)
    throw new PictureError(
      `${file.name} is larger than ${MAX_PICTURE_BYTES / 1024 / 1024} MB. Make it smaller or compress it first.`,
    )
  const bytes = new Uint8Array(await file.arrayBuffer())
  const type = sniffedPictureType(bytes)
  if (!type)
    throw new PictureError(
      `${file.name} is not a PNG, JPEG or WebP picture, whatever its name says. Save it as one of these.`,
    )
  const broken = type === 'image/png' ? brokenPng(bytes) : null
  if (broken) throw new PictureError(`${file.name}: ${broken} Fetch or export it again.`)
  const claimed = claimedSize(bytes)
  if (claimed && claimed.width * claimed.height > MAX_PIXELS)
    throw new PictureError(
      `${file.name} has ${claimed.width} × ${claimed.height} px, more than the ${Math.floor(MAX_PIXELS / 1e6)} million that can be worked with. Make it smaller first.`,
    )
  const bitmap = await createImageBitmap(new Blob([bytes], { type })).catch(() => null)
  if (!bitmap)
    throw new PictureError(`${file.name} cannot be read as a picture. Its data are damaged, or it breaks off.`)
  const { width, height } = bitmap
  bitmap.close()
  if (Math.max(width, height) > MAX_SIDE_PX)
    throw new PictureError(
      `${file.name} has ${width} × ${height} px; up to ${MAX_SIDE_PX} px a side can be kept. Make it smaller first.`,
    )
  return { kind: 'picture', id: newId(), name: nameOf(file), width, height, file: await madeAsset(type, bytes) }
}

/** Files of tables are text; those in use have up to 65 steps. */
const MAX_TABLE_FILE_BYTES = 16 * 1024 * 1024

/** A table of colours read from a `.cube` file. @throws PictureError */
async function readTable(file: File): Promise<TableOfColours> {
  if (file.size > MAX_TABLE_FILE_BYTES)
    throw new PictureError(
      `${file.name} is larger than ${MAX_TABLE_FILE_BYTES / 1024 / 1024} MB; tables of colours are not.`,
    )
  const text = await file.text()
  const read = await drawings.ask(async ({ service }) => service.table(text))
  if (!('done' in read)) throw new PictureError(`${file.name}: ${read.problem}`)
  const { size, png } = read.done
  return { kind: 'table', id: newId(), name: nameOf(file), size, file: await madeAsset('image/png', png) }
}

const nameOf = (file: File): string => file.name.replace(/\.[^.]+$/, '').slice(0, MAX_NAME)

/** Layers scaled and centred so that something of this size lies in the middle of the frame. */
function fitted(loop: Loop, width: number, height: number) {
  const scale = Math.min(1, loop.width / width, loop.height / height)
  return { x: loop.width / 2, y: loop.height / 2, scale }
}

/** Brings pictures and SVG files into the open loop as layers. A file that cannot be read is said, and changes nothing. */
export async function bringIn(files: readonly File[]): Promise<void> {
  for (const file of files) {
    try {
      const loop = currentLoop()
      if (!loop) return
      if (isSvg(file)) await bringInSvg(file.name, await file.text())
      else if (isTable(file)) {
        const table = await readTable(file)
        const middle = { x: loop.width / 2, y: loop.height / 2 }
        add([newLayer('colourTable', freeName(loop, table.name), { table: table.id, ...middle })], table)
      } else {
        const picture = await readPicture(file)
        const { x, y, scale } = fitted(loop, picture.width, picture.height)
        const layer = newLayer('picture', freeName(loop, picture.name), {
          picture: picture.id,
          x,
          y,
          width: picture.width * scale,
          height: picture.height * scale,
        })
        add([layer], picture)
      }
    } catch (error) {
      toast.error((error as Error).message, { duration: 12_000 })
    }
  }
}

/** Brings a model into the open loop, where it turns. Returns whether it could be read. */
export async function bringInModel(file: File, beside: readonly File[]): Promise<boolean> {
  const reading = toast.loading(`Reading ${file.name} …`)
  try {
    const model = await readModelFile(file, beside)
    if (!currentLoop()) return false
    let id = ''
    changeLoop((loop) => {
      const made = addModel(loop, model)
      id = made.id
      return made.loop
    })
    setSession({ selection: [id], property: null, tool: null })
    const { faults = [] } = model
    if (faults.length > 0)
      toast(`${model.name}: ${faults.length === 1 ? 'one thing' : `${faults.length} things`} to mend`, {
        description: `${faults.map(({ message }) => message).join(' ')} Each is mended in one press beside its parts.`,
        duration: 12_000,
      })
    return true
  } catch (error) {
    toast.error((error as Error).message, { duration: 12_000 })
    return false
  } finally {
    toast.dismiss(reading)
  }
}

function add(layers: readonly Layer[], medium?: Medium) {
  changeLoop((loop) => insertLayers(medium ? { ...loop, media: [...loop.media, medium] } : loop, layers))
  setSession({ selection: layers.map(({ id }) => id), property: null, tool: null })
}

/** A drawing that takes longer to be read than this is given up, ms. */
const PATIENCE_MS = 20_000
const drawings = lastingService(importClient)

/** The layers of an SVG file, read off the page's thread. */
async function readDrawing(text: string, name: string): Promise<SvgContent> {
  const late = new Promise<never>((_, reject) =>
    setTimeout(() => {
      reject(new PictureError(`${name} takes longer than ${PATIENCE_MS / 1000} s to be read. Simplify it first.`))
      drawings.end()
    }, PATIENCE_MS),
  )
  return Promise.race([drawings.ask(({ service }) => service.svg(text, name)), late])
}

async function bringInSvg(file: string, text: string) {
  const { layer, width, height, left } = await readDrawing(text, file.replace(/\.svg$/i, ''))
  const loop = currentLoop()
  if (!loop) return
  const { x, y, scale } = fitted(loop, width, height)
  const placed = {
    ...layer,
    name: freeName(loop, layer.name),
    values: { ...layer.values, x: x - (width * scale) / 2, y: y - (height * scale) / 2, scaleX: scale, scaleY: scale },
  }
  add([placed])
  if (left.length > 0)
    toast(`Left out of ${file}: ${left.join(', ')}.`, {
      description: 'Everything else came in as layers.',
      duration: 10_000,
    })
}

/** Asks for picture and SVG files and brings them in. */
export async function choosePictures(): Promise<void> {
  try {
    const files = await fileOpen({
      multiple: true,
      mimeTypes: [...PICTURE_TYPES, 'image/svg+xml', 'text/plain', 'model/gltf-binary'],
      extensions: [
        '.png',
        '.jpg',
        '.jpeg',
        '.webp',
        '.svg',
        '.cube',
        ...(mediumKind('model').endings ?? []),
        '.mtl',
        '.bin',
      ],
    })
    const model = await modelAmong(files)
    if (model) await bringInModel(model.file, model.beside)
    else await bringIn(files)
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError')) throw error
  }
}

/** Readers for the kinds of media that a field can import from files. */
const READERS: Readonly<Record<string, (file: File) => Promise<Medium>>> = {
  picture: readPicture,
  table: readTable,
  model: (file) => readModelFile(file),
}

/** Asks for a file of a kind of medium and takes it into the open loop; null where none was chosen or it cannot be read. */
export async function chooseMedium(kind: string): Promise<Medium | null> {
  const read = READERS[kind]
  const { endings = [] } = mediumKind(kind)
  if (!read) return null
  try {
    const medium = await read(await fileOpen({ extensions: [...endings] }))
    changeLoop((loop) => ({ ...loop, media: [...loop.media, medium] }))
    return medium
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError'))
      toast.error((error as Error).message, { duration: 12_000 })
    return null
  }
}
