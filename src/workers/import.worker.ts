import { transfer } from 'comlink'
import { isZip, unzipProject, zipProject } from '@/codecs'
import { ModelError, readModel } from '@/codecs/model'
import { type Loop, LoopFileError, parseProject } from '@/core/document'
import { ColourTableError, pictureOfTable, readColourTable } from '@/core/effects'
import { assetsIn, type Files, filesOf } from '@/core/media'
import { faultsOf, type Measures, type ModelFault, measured } from '@/core/solid'
import { readSvg, type SvgContent } from '@/core/svg'
import { serve } from './serve'

/** What came of work whose refusal says what is wrong and what can be done. */
type Outcome<T> = { readonly done: T } | { readonly problem: string; readonly advice: string }

async function attempt<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { done: await work() }
  } catch (error) {
    if (error instanceof LoopFileError) return { problem: error.message, advice: error.advice }
    throw error
  }
}

const service = {
  /** The layers of an SVG file. @throws SvgError */
  svg: (text: string, name: string): SvgContent => readSvg(text, name),

  /** The table of colours in the text of a `.cube` file, as a PNG of its slices; what is wrong with it in words. */
  async table(text: string): Promise<Outcome<{ size: number; png: Uint8Array<ArrayBuffer> }>> {
    try {
      const table = readColourTable(text)
      const { width, height, data } = pictureOfTable(table)
      const canvas = new OffscreenCanvas(width, height)
      canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0)
      const png = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
      return { done: { size: table.size, png } }
    } catch (error) {
      if (error instanceof ColourTableError) return { problem: error.message, advice: '' }
      throw error
    }
  },

  /** A model in a file, with what lies beside it, as one GLB; what has to be known of it, and what is wrong with it; why it cannot be read, in words. */
  async model(
    file: string,
    bytes: Uint8Array,
    beside: ReadonlyMap<string, Uint8Array>,
  ): Promise<Outcome<{ glb: Uint8Array<ArrayBuffer>; measures: Measures; faults: readonly ModelFault[] }>> {
    try {
      const { glb, parts } = await readModel(file, bytes, beside)
      return { done: { glb: new Uint8Array(glb), measures: measured(parts), faults: faultsOf(parts) } }
    } catch (error) {
      if (error instanceof ModelError) return { problem: error.message, advice: '' }
      throw error
    }
  },

  /** The loop in a file of its JSON, or in a project archive, with the files that are there of it. */
  loop: (bytes: Uint8Array): Promise<Outcome<{ loop: Loop; files: Files }>> =>
    attempt(async () => {
      const loop = await (isZip(bytes) ? unzipProject(bytes) : parseProject(new TextDecoder().decode(bytes)))
      return { loop, files: await filesOf(assetsIn(loop.media)) }
    }),

  /** A loop with its media as a project archive; the bytes are transferred. */
  async archive(loop: Loop): Promise<Outcome<Uint8Array<ArrayBuffer>>> {
    const outcome = await attempt(() => zipProject(loop))
    return 'done' in outcome ? transfer(outcome, [outcome.done.buffer]) : outcome
  },
}

export type ImportService = typeof service
serve(service)
