import { parentPort } from 'node:worker_threads'
import { expose, transfer } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { codeGifFrame, type GifColours, type GifFrame, mapPicture } from '@/codecs/gif-encode'
import { type Inspected, inspectFrame } from '@/codecs/proof'
import { type Loop, withFaces } from '@/core/document'
import type { Palette, Picture } from '@/core/image'
import { type Files, keepAtHand } from '@/core/media'
import { NodeRenderer, picturesInNode } from '../render/node'
import { type PngOptions, pngInNode } from '../render/png-node'

/** Work of one of several threads of the command line: frames, each by itself. */
let drawn: {
  readonly loop: Loop
  readonly renderer: NodeRenderer
  readonly pictures: Awaited<ReturnType<typeof picturesInNode>>
}

/** A copy in memory that all threads see. */
function shared({ width, height, data }: Picture): Picture {
  const all = new Uint8ClampedArray(new SharedArrayBuffer(data.length))
  all.set(data)
  return { width, height, data: all as unknown as Picture['data'] }
}

const service = {
  /** Is told once what will be drawn, and how large. */
  async know(loop: Loop, files: Files, width: number, height: number): Promise<void> {
    keepAtHand(files)
    await withFaces(loop)
    drawn = { loop, renderer: new NodeRenderer(width, height), pictures: await picturesInNode(loop) }
  },
  draw: (frame: number): Picture => shared(drawn.renderer.picture(drawn.loop, frame, drawn.pictures)),
  async png(picture: Picture, how?: PngOptions): Promise<Uint8Array<ArrayBuffer>> {
    const bytes = await pngInNode(picture, how)
    return transfer(bytes, [bytes.buffer])
  },
  map(picture: Picture, palette: Palette, colours: GifColours, first: boolean) {
    const mapped = mapPicture(picture, palette, colours, first)
    return transfer(mapped, [mapped.indices.buffer as ArrayBuffer])
  },
  code(frame: GifFrame): Uint8Array<ArrayBuffer> {
    const bytes = codeGifFrame(frame)
    return transfer(bytes, [bytes.buffer])
  },
  inspect: (...[frame, meant, how]: Parameters<typeof inspectFrame>): Inspected => inspectFrame(frame, meant, how),
}

export type HandService = typeof service
if (parentPort) expose(service, nodeEndpoint(parentPort as never))
