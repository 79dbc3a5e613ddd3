import { createCanvas, loadImage } from '@napi-rs/canvas'
import { fromBase64 } from '@/core/base64'
import type { DisplayList } from '@/core/display'
import { framePicture, type Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import { Painter } from './draw'
import type { Context, MakeSurface, Pictures } from './painters/painter'
import { Renderer } from './renderer'

const surface: MakeSurface = (width, height) => createCanvas(width, height).getContext('2d') as unknown as Context

/** A display list's pixels, drawn in Node at a size in px. The same drawing as in the browser, within antialiasing. */
export function renderInNode(list: DisplayList, width = list.width, height = list.height): Picture {
  const context = surface(width, height)
  new Painter(width, height, surface).drawList(context, list)
  return context.getImageData(0, 0, width, height)
}

/** The pictures of a loop, and the frames of its clips, decoded. @throws Error where one of them cannot be */
export async function picturesInNode(loop: Loop): Promise<Pictures> {
  const files = [
    ...loop.pictures.map(({ id, name, data }) => [id, name, data] as const),
    ...loop.clips.flatMap(({ id, name, frames }) =>
      frames.map((data, n) => [framePicture(id, n), name, data] as const),
    ),
  ]
  const pictures = new Map<string, CanvasImageSource>()
  for (const [id, name, data] of files)
    try {
      pictures.set(id, (await loadImage(Buffer.from(fromBase64(data)))) as unknown as CanvasImageSource)
    } catch {
      throw new Error(
        data
          ? `The picture “${name}” in the loop cannot be decoded. Bring it in again.`
          : `The file of “${name}” is missing from the loop. Save the project as a .cyclon.zip where it is whole.`,
      )
    }
  return pictures
}

/** Draws frames of loops at one size in Node. */
export class NodeRenderer extends Renderer {
  constructor(width: number, height: number) {
    super(width, height, surface)
  }
}
