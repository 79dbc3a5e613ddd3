import { fileOpen } from 'browser-fs-access'
import { toast } from 'sonner'
import { toBase64 } from '@/core/base64'
import {
  freeName,
  insertLayers,
  LARGEST_PICTURE,
  type Layer,
  type Loop,
  newId,
  newLayer,
  PICTURE_TYPES,
  type StillPicture,
} from '@/core/loop'
import { readSvg } from '@/core/svg'
import { changeLoop, currentLoop } from '@/store/document'
import { setSession } from '@/store/session'

/** What went wrong with a picture, and what can be done. */
export class PictureError extends Error {
  override readonly name = 'PictureError'
}

const isSvg = (file: File) => file.type === 'image/svg+xml' || /\.svg$/i.test(file.name)
const isStill = (file: File) => (PICTURE_TYPES as readonly string[]).includes(file.type)

/** Whether a file is a picture that can be brought in, by its type or name. */
export const isPictureFile = (file: File): boolean => isSvg(file) || isStill(file)

/** A still picture read from a file. @throws PictureError where it is too large or cannot be decoded. */
async function readPicture(file: File): Promise<StillPicture> {
  if (file.size > LARGEST_PICTURE)
    throw new PictureError(
      `${file.name} is larger than ${LARGEST_PICTURE / 1024 / 1024} MB. Make it smaller or compress it first.`,
    )
  const bitmap = await createImageBitmap(file).catch(() => null)
  if (!bitmap) throw new PictureError(`${file.name} cannot be read as a picture. It may be damaged or mislabelled.`)
  const { width, height } = bitmap
  bitmap.close()
  const name = file.name.replace(/\.[^.]+$/, '')
  return {
    id: newId(),
    name,
    type: file.type as StillPicture['type'],
    width,
    height,
    data: toBase64(new Uint8Array(await file.arrayBuffer())),
  }
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
      if (isSvg(file)) bringInSvg(loop, file.name, await file.text())
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
  changeLoop((loop) => insertLayers(picture ? { ...loop, pictures: [...loop.pictures, picture] } : loop, layers))
  setSession({ selection: layers.map(({ id }) => id), property: null, tool: null })
}

function bringInSvg(loop: Loop, name: string, text: string) {
  const { layer, width, height, left } = readSvg(text, name.replace(/\.svg$/i, ''))
  const { x, y, scale } = fitted(loop, width, height)
  const placed = {
    ...layer,
    name: freeName(loop, layer.name),
    values: { ...layer.values, x: x - (width * scale) / 2, y: y - (height * scale) / 2, scaleX: scale, scaleY: scale },
  }
  add([placed])
  if (left.length > 0)
    toast(`Left out of ${name}: ${left.join(', ')}.`, {
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
