import { type Loop, LoopFileError } from '@/core/document'
import { fileOf, type Medium, type Model } from '@/core/media'
import { measured } from '@/core/solid'
import { ModelError, readModel } from './index'
import type { DecodePicture } from './surfaces'

/** A model with the measures of its file; unchanged where the file is not at hand. @throws LoopFileError where the file holds no model */
async function measuredModel(model: Model, decode: DecodePicture): Promise<Model> {
  const file = await fileOf(model.file.id)
  if (!file) return model
  try {
    const { parts } = await readModel(`${model.name}.glb`, new Uint8Array(await file.arrayBuffer()), undefined, decode)
    return { ...model, ...measured(parts, model) }
  } catch (error) {
    if (!(error instanceof ModelError)) throw error
    throw new LoopFileError(`The model “${model.name}” of the loop cannot be read. ${error.message}`, '')
  }
}

/**
 * Replaces the measures of a loop's models by those of their files: a document from elsewhere may state anything. A loop without models is returned as it is.
 * @throws LoopFileError where the file of one holds no model
 */
export async function withModelsMeasured(loop: Loop, decode: DecodePicture): Promise<Loop> {
  if (!loop.media.some(({ kind }) => kind === 'model')) return loop
  const media: Medium[] = []
  for (const medium of loop.media)
    media.push(medium.kind === 'model' ? await measuredModel(medium as Model, decode) : medium)
  return { ...loop, media }
}
