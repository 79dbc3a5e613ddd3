import { transfer } from 'comlink'
import { isZip, unzipProject, zipProject } from '@/codecs'
import { refuseHuge } from '@/codecs/claims/size'
import {
  animatedGlb,
  ModelError,
  type ReadMotion,
  type Rework,
  readBackMotion,
  readModel,
  reworkedGlb,
} from '@/codecs/model'
import { withTrueMedia } from '@/codecs/true-media'
import { findLayer, type Loop, LoopFileError, parseProject } from '@/core/document'
import { ColourTableError, pictureOfTable, readColourTable } from '@/core/effects'
import type { Picture } from '@/core/image'
import { assetsIn, type Files, fileOf, filesOf, type Model } from '@/core/media'
import { modelMotion } from '@/core/output'
import { type Measures, type Moved, measured, type Part, type Ray, touched, type Vector } from '@/core/solid'
import { readSvg, type SvgContent } from '@/core/svg'
import { serve } from '../shared/serve'
import { reader } from './clip-frames/reader'

/** Result of work that may be refused: its value, or the problem and advice. */
type Outcome<T> = { readonly done: T } | { readonly problem: string; readonly advice: string }

async function attempt<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { done: await work() }
  } catch (error) {
    if (error instanceof LoopFileError) return { problem: error.message, advice: error.advice }
    throw error
  }
}

/** A model as a document takes it. */
interface TakenModel {
  readonly glb: Uint8Array<ArrayBuffer>
  readonly measures: Measures
}

async function withModel<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { done: await work() }
  } catch (error) {
    if (error instanceof ModelError) return { problem: error.message, advice: '' }
    throw error
  }
}

/** The picture of a texture, as the browser decodes it. */
async function pictureOf(bytes: Uint8Array<ArrayBuffer>, type: string): Promise<Picture> {
  refuseHuge(bytes, 'picture')
  const bitmap = await createImageBitmap(new Blob([bytes], { type }))
  const { width, height } = bitmap
  const picture = reader(width, height)((context) => context.drawImage(bitmap, 0, 0))
  bitmap.close()
  return picture
}

/** The model that was touched last. */
let open: { readonly file: string; readonly parts: readonly Part[] } | null = null

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

  /** A model in a file, with what lies beside it, as one GLB, and what has to be known of it; why it cannot be read, in words. */
  model: (file: string, bytes: Uint8Array, beside: ReadonlyMap<string, Uint8Array>): Promise<Outcome<TakenModel>> =>
    withModel(async () => {
      const { glb, parts } = await readModel(file, bytes, beside, pictureOf)
      return { glb: new Uint8Array(glb), measures: measured(parts) }
    }),

  /** The same of a model that is here, with something in its file changed. */
  rework: (model: Model, how: Rework): Promise<Outcome<TakenModel>> =>
    withModel(async () => {
      const held = await fileOf(model.file.id)
      if (!held) throw new ModelError(`The file of ${model.name} is missing. Bring it in again.`)
      const glb = await reworkedGlb(model.name, new Uint8Array(await held.arrayBuffer()), model.parts, how)
      return { glb, measures: measured((await readModel(`${model.name}.glb`, glb, undefined, pictureOf)).parts) }
    }),

  /** Where a ray meets the surface of a model first, in the coordinates of its file; null where it does not, or there is no file. */
  async touch(model: Model, moved: readonly Moved[], ray: Ray): Promise<Vector | null> {
    if (open?.file !== model.file.id) {
      const held = await fileOf(model.file.id)
      if (!held) return null
      const { parts } = await readModel(`${model.name}.glb`, new Uint8Array(await held.arrayBuffer()))
      open = { file: model.file.id, parts }
    }
    return touched(open.parts, moved, ray)
  },

  /** The loop in a file of its JSON, or in a project archive, with the files that are there of it. */
  loop: (bytes: Uint8Array): Promise<Outcome<{ loop: Loop; files: Files }>> =>
    attempt(async () => {
      const told = await (isZip(bytes) ? unzipProject(bytes) : parseProject(new TextDecoder().decode(bytes)))
      const loop = await withTrueMedia(told, pictureOf)
      return { loop, files: await filesOf(assetsIn(loop.media)) }
    }),

  /** The model of a layer as a GLB with its motion in it, read back; why it cannot be written, in words. */
  async gltf(loop: Loop, id: string): Promise<Outcome<{ glb: Uint8Array<ArrayBuffer>; readBack: ReadMotion }>> {
    const layer = findLayer(loop, id)
    const motion = modelMotion(loop, id)
    const model = loop.media.find((each) => each.id === layer?.values.model)
    const file = model && (await fileOf((model as Model).file.id))
    if (!motion || !model || !file)
      return { problem: `The model of “${layer?.name ?? id}” is missing. Bring it in again.`, advice: '' }
    return withModel(async () => {
      const glb = await animatedGlb(model.name, new Uint8Array(await file.arrayBuffer()), motion)
      return { glb, readBack: await readBackMotion(model.name, glb) }
    })
  },

  /** A loop with its media as a project archive; the bytes are transferred. */
  async archive(loop: Loop): Promise<Outcome<Uint8Array<ArrayBuffer>>> {
    const outcome = await attempt(() => zipProject(loop))
    return 'done' in outcome ? transfer(outcome, [outcome.done.buffer]) : outcome
  },
}

export type ImportService = typeof service
serve(service)
