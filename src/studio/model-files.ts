import type { Rework } from '@/codecs/model'
import { MODEL_ENDINGS } from '@/codecs/model/endings'
import { namesInZip } from '@/codecs/unzip'
import { MAX_NAME } from '@/core/document'
import { newId } from '@/core/id'
import { MAX_CLIP_BYTES, type Model, madeAsset } from '@/core/media'
import type { Measures, Moved, Ray, Vector } from '@/core/solid'
import { filePath } from '@/store/clip-files'
import { importClient, lastingService } from '@/workers/page/clients'

/** A model cannot be brought in; the message says why and what can be done. */
class ModelFileError extends Error {
  override readonly name = 'ModelFileError'
}

/** Larger archives are not looked into. */
const MAX_SNIFFED_BYTES = 256 * 1024 * 1024
const endingOf = (name: string): string => /\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase() ?? ''
const isModel = (name: string): boolean => MODEL_ENDINGS.includes(endingOf(name))

/** Whether an archive holds a model and no loop of ours. */
async function holdsModel(file: File): Promise<boolean> {
  if (endingOf(file.name) !== 'zip' || file.size > MAX_SNIFFED_BYTES) return false
  try {
    const names = namesInZip(new Uint8Array(await file.arrayBuffer()))
    return !names.includes('loop.cyclon.json') && names.some(isModel)
  } catch {
    return false
  }
}

/** The file of a model among some, with the others that may lie beside it; null where there is none. */
export async function modelAmong(
  files: readonly File[],
): Promise<{ readonly file: File; readonly beside: readonly File[] } | null> {
  const named = files.filter(({ name }) => isModel(name))
  // Of several the one that says most of itself: an OBJ may lie beside the glTF that was made of it.
  const [best] = named.sort((a, b) => MODEL_ENDINGS.indexOf(endingOf(a.name)) - MODEL_ENDINGS.indexOf(endingOf(b.name)))
  if (best) return { file: best, beside: files.filter((file) => file !== best) }
  for (const file of files) if (await holdsModel(file)) return { file, beside: [] }
  return null
}

const imports = lastingService(importClient)

/** Reads a model, off the page's thread. @throws ModelFileError */
export async function readModelFile(file: File, beside: readonly File[] = []): Promise<Model> {
  if (file.size > 4 * MAX_CLIP_BYTES)
    throw new ModelFileError(
      `${file.name} is larger than ${(4 * MAX_CLIP_BYTES) / 1024 / 1024} MB. Simplify the model first.`,
    )
  const folder = filePath(file).slice(0, -file.name.length)
  const held = await Promise.all(
    beside.map(async (each) => {
      const path = filePath(each)
      const own = path.startsWith(folder) ? path.slice(folder.length) : each.name
      return [own, new Uint8Array(await each.arrayBuffer())] as const
    }),
  )
  const bytes = new Uint8Array(await file.arrayBuffer())
  const read = await imports.ask(async ({ service }) => service.model(file.name, bytes, new Map(held)))
  if (!('done' in read)) throw new ModelFileError(read.problem)
  const name = file.name.replace(/\.[^.]+$/, '').slice(0, MAX_NAME) || 'Model'
  return taken({ id: newId(), name }, read.done)
}

/** A model with something in its file changed, off the page's thread: with the same id, and another file. @throws ModelFileError */
export async function reworkModel(model: Model, how: Rework): Promise<Model> {
  const made = await imports.ask(async ({ service, send }) => {
    await send({ media: [model] })
    return service.rework(model, how)
  })
  if (!('done' in made)) throw new ModelFileError(made.problem)
  return taken(model, made.done)
}

/** The point of a model that a ray meets first, in the coordinates of its file; null where it meets none. */
export const touchModel = (model: Model, moved: readonly Moved[], ray: Ray): Promise<Vector | null> =>
  imports.ask(async ({ service, send }) => {
    await send({ media: [model] })
    return service.touch(model, moved, ray)
  })

async function taken(
  { id, name }: Pick<Model, 'id' | 'name'>,
  { glb, measures }: { readonly glb: Uint8Array<ArrayBuffer>; readonly measures: Measures },
): Promise<Model> {
  if (glb.length > MAX_CLIP_BYTES)
    throw new ModelFileError(
      `${name} takes ${Math.round(glb.length / 1e6)} MB; a loop keeps up to ${MAX_CLIP_BYTES / 1024 / 1024} MB of a model. Simplify it, or make its pictures smaller.`,
    )
  return { kind: 'model', id, name, ...measures, file: await madeAsset('model/gltf-binary', glb) }
}
