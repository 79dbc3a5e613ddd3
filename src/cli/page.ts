import { type Loop, withFaces } from '@/core/document'
import type { Picture } from '@/core/image'
import { keepAtHand } from '@/core/media'
import { type FileSettings, timingIn } from '@/core/output'
import { proveVector } from '@/workers/inside/encoders/prove-vector'
import { vectorViewer } from '@/workers/page/read-vector'
import { BrowserRenderer } from '../render/browser'
import { paintedWhole } from '../render/prepare'

/** Code in the page of the browser that draws frames for the command line, and shows vector files to it. */
let drawn: { readonly loop: Loop; readonly width: number; readonly height: number } | null = null
const renderers = new Map<string, BrowserRenderer>()

/** A frame at a size, px. */
function picture(loop: Loop, frame: number, width: number, height: number): Promise<Picture> {
  const key = `${width} ${height}`
  const renderer = renderers.get(key) ?? new BrowserRenderer(width, height, { forReading: true })
  renderers.set(key, renderer)
  return paintedWhole(loop, frame, (pictures) => renderer.picture(loop, frame, pictures))
}

/** The loop that `know` was given. @throws Error before that */
function told() {
  if (!drawn) throw new Error('The page was not told what to draw.')
  return drawn
}

const bytesOf = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(atob(text), (c) => c.charCodeAt(0))

/** Bytes as text in blocks: a call takes a limited number of arguments. */
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
    drawn = { loop, width, height }
  },
  /** The pixels of a frame in base64. */
  async draw(frame: number): Promise<string> {
    const { loop, width, height } = told()
    const { data } = await picture(loop, frame, width, height)
    return textOf(data as Uint8ClampedArray)
  },
  /** Proves a vector file of that loop, as the browser or a Lottie player shows it. @returns the proof as JSON */
  async prove(file: string, settings: FileSettings, transparent: boolean): Promise<string> {
    const { loop, width, height } = told()
    const job = { loop, settings, timing: timingIn(loop, settings), width, height, transparent }
    const frame = (n: number) => picture(loop, n, width, height)
    const bytes = new TextEncoder().encode(file)
    return JSON.stringify(await proveVector(bytes, job, vectorViewer(), frame, picture, () => {}))
  },
}

export type PageService = typeof service
Object.assign(globalThis, { cyclon: service })
