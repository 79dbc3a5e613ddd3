import { createCanvas } from '@napi-rs/canvas'
import type { Picture } from '@/core/image'
import type { DisplayList } from '@/core/loop'
import { type Context, Painter } from './draw'

const surface = (width: number, height: number) => createCanvas(width, height).getContext('2d') as unknown as Context

/** A frame's pixels, drawn in Node at a size in px. The same drawing as in the browser, within antialiasing. */
export function renderInNode(list: DisplayList, width = list.width, height = list.height): Picture {
  const context = surface(width, height)
  new Painter(width, height, surface).draw(context, list)
  return context.getImageData(0, 0, width, height)
}
