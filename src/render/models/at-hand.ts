import { fileOf } from '@/core/media'
import type { DrawnModel } from './model'

/** Models that are kept, the one that was used last at the end. */
const atHand = new Map<string, DrawnModel>()
const coming = new Map<string, Promise<DrawnModel | null>>()
const MAX_KEPT = 8

/** A model by its file; null where it was not brought. */
export const modelAtHand = (file: string): DrawnModel | null => atHand.get(file) ?? null

async function read(file: string): Promise<DrawnModel | null> {
  const blob = await fileOf(file)
  if (!blob) return null
  // Loaded when the first model is drawn, since it is large.
  const { readScene } = await import('./read-scene')
  // A file that cannot be read is reported like a missing one.
  return readScene(new Uint8Array(await blob.arrayBuffer())).catch(() => null)
}

/** Brings models to hand that are to be drawn; returns the files of those that are missing or cannot be read. */
export async function bringModels(
  wanted: readonly { readonly file: string; readonly occlusion: boolean }[],
): Promise<string[]> {
  const missing: string[] = []
  for (const { file, occlusion } of wanted) {
    let model = modelAtHand(file)
    if (!model) {
      const reading = coming.get(file) ?? read(file)
      coming.set(file, reading)
      model = await reading.finally(() => coming.delete(file))
    }
    if (!model) {
      missing.push(file)
      continue
    }
    atHand.delete(file)
    atHand.set(file, model)
    if (occlusion) await model.bakeOcclusion()
  }
  for (const [file, model] of atHand) {
    if (atHand.size <= MAX_KEPT) break
    if (wanted.some((each) => each.file === file)) continue
    atHand.delete(file)
    model.dispose()
  }
  return missing
}
