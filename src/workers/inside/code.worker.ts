import { expose, transfer } from 'comlink'
import { codeGifFrame, type GifColours, type GifFrame, type MappedPicture, mapPicture } from '@/codecs/gif-encode'
import type { Palette, Picture } from '@/core/image'
import { holdLife } from '../shared/alive'

const service = {
  /** A picture in the colours of a GIF; its indices are transferred. */
  map(picture: Picture, palette: Palette, colours: GifColours, first: boolean): MappedPicture {
    const mapped = mapPicture(picture, palette, colours, first)
    return transfer(mapped, [mapped.indices.buffer])
  },

  /** The bytes of a frame of a GIF; they are transferred. */
  code(frame: GifFrame): Uint8Array<ArrayBuffer> {
    const bytes = codeGifFrame(frame)
    return transfer(bytes, [bytes.buffer])
  },
}

export type CodeService = typeof service
expose(service)
holdLife()
