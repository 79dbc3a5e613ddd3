import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { DisplayList } from '@/core/display'
import type { Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import { picturesOf, readPictureFile } from '@/core/media'
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
export async function picturesInNode({ media }: Loop): Promise<Pictures> {
  const pictures = new Map<string, CanvasImageSource>()
  for (const each of picturesOf(media)) {
    const { name } = each.medium
    const file = await readPictureFile(each)
    if (!file)
      throw new Error(
        `The file of “${name}” is missing from the loop. Save the project as a .cyclon.zip where it is whole.`,
      )
    try {
      pictures.set(each.name, (await loadImage(Buffer.from(await file.arrayBuffer()))) as unknown as CanvasImageSource)
    } catch {
      throw new Error(`The picture “${name}” in the loop cannot be decoded. Bring it in again.`)
    }
  }
  return pictures
}

/** Draws frames of loops at one size in Node. */
export class NodeRenderer extends Renderer {
  constructor(width: number, height: number) {
    super(width, height, surface)
  }
}
