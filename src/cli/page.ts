import { type Loop, withFaces } from '@/core/document'
import { keepAtHand } from '@/core/media'
import { BrowserRenderer } from '../render/browser'
import { paintedWhole } from '../render/prepare'

/** What runs in the page of the browser that draws frames for the command line. */
let drawn: { readonly loop: Loop; readonly renderer: BrowserRenderer } | null = null

const bytesOf = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(atob(text), (c) => c.charCodeAt(0))

/** Bytes as text, a few at a time: a call takes only so many arguments. */
function textOf(bytes: Uint8ClampedArray): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x6000) text += String.fromCharCode(...bytes.subarray(i, i + 0x6000))
  return btoa(text)
}

const service = {
  /** Is told once what will be drawn, and how large; files in base64 by their ids. */
  async know(loop: Loop, files: Readonly<Record<string, string>>, width: number, height: number): Promise<void> {
    keepAtHand(new Map(Object.entries(files).map(([id, text]) => [id, new Blob([bytesOf(text)])])))
    await withFaces(loop)
    drawn = { loop, renderer: new BrowserRenderer(width, height, { forReading: true }) }
  },
  /** The pixels of a frame in base64. */
  async draw(frame: number): Promise<string> {
    if (!drawn) throw new Error('The page was not told what to draw.')
    const { loop, renderer } = drawn
    const { data } = await paintedWhole(loop, frame, (pictures) => renderer.picture(loop, frame, pictures))
    return textOf(data as Uint8ClampedArray)
  },
}

export type PageService = typeof service
Object.assign(globalThis, { cyclon: service })
