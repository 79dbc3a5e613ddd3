import { fileOpen } from 'browser-fs-access'
import { toast } from 'sonner'
import { brokenPng, pictureType } from '@/codecs/picture-type'
import { insertLayers, type Layer, LONGEST_NAME, type Loop } from '@/core/document'
import { freeName, newLayer } from '@/core/edit'
import { newId } from '@/core/id'
import { LARGEST_PICTURE, LARGEST_SIDE, madeAsset, PICTURE_TYPES, type StillPicture } from '@/core/media'
import type { SvgContent } from '@/core/svg'
import { changeLoop, currentLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { importClient, lastingService } from '@/workers/clients'

/** What went wrong with a picture, and what can be done. */
export class PictureError extends Error {
  override readonly name = 'PictureError'
}

const isSvg = (file: File) => file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)
const isStill = (file: File) =>
  (PICTURE_TYPES as readonly string[]).includes(file.type) || /\.(png|jpe?g|webp)$/i.test(file.name)

/** Whether a file is a picture that can be brought in, by its type or name. */
export const isPictureFile = (file: File): boolean => isSvg(file) || isStill(file)

/** A still picture read from a file. @throws PictureError where it is too large or cannot be decoded. */
export async function readPicture(file: File): Promise<StillPicture> {
  if (file.size > LARGEST_PICTURE)
    throw new PictureError(
      `${file.name} is larger than ${LARGEST_PICTURE / 1024 / 1024} MB. Make it smaller or compress it first.`,
    )
  const bytes = new Uint8Array(await file.arrayBuffer())
  const type = pictureType(bytes)
  if (!type)
    throw new PictureError(
      `${file.name} is not a PNG, JPEG or WebP picture, whatever its name says. Save it as one of these.`,
    )
  const broken = type === 'image/png' ? brokenPng(bytes) : null
  if (broken) throw new PictureError(`${file.name}: ${broken} Fetch or export it again.`)
  const bitmap = await createImageBitmap(new Blob([bytes], { type })).catch(() => null)
  if (!bitmap)
    throw new PictureError(`${file.name} cannot be read as a picture. Its data are damaged, or it breaks off.`)
  const { width, height } = bitmap
  bitmap.close()
  if (Math.max(width, height) > LARGEST_SIDE)
    throw new PictureError(
      `${file.name} has ${width} × ${height} px; up to ${LARGEST_SIDE} px a side can be kept. Make it smaller first.`,
    )
  const name = file.name.replace(/\.[^.]+$/, '').slice(0, LONGEST_NAME)
  return { kind: 'picture', id: newId(), name, width, height, file: await madeAsset(type, bytes) }
}

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
      else {
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

function add(layers: readonly Layer[], picture?: StillPicture) {
  changeLoop((loop) => insertLayers(picture ? { ...loop, media: [...loop.media, picture] } : loop, layers))
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
      mimeTypes: [...PICTURE_TYPES, 'image/svg+xml'],
      extensions: ['.png', '.jpg', '.jpeg', '.webp', '.svg'],
    })
    await bringIn(files)
  } catch (error) {
    if (!(error instanceof DOMException && error.name === 'AbortError')) throw error
  }
}
