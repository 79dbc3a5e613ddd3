import { type CameraModel, editBy, learnEdit } from '@/core/footage'
import type { Source } from './sources'

/** A clip without the movement of its camera, and what was done, in words. */
export interface SteadySource {
  readonly source: Source
  readonly words: string
}

/**
 * Takes the movement of the camera out of some frames of a clip, which is read four times for it.
 * @param range the frames, the last of them counted
 * @throws UnsteadyError where the same scene is not seen in them
 */
export async function steadySource(
  source: Source,
  model: CameraModel,
  range: { readonly from: number; readonly to: number },
): Promise<SteadySource> {
  async function* numbered() {
    let n = 0
    for await (const picture of source.frames()) yield { n: n++, picture }
  }
  const learned = await learnEdit({ mend: { kind: 'steady', model }, ...range }, [], numbered)
  const edit = editBy([learned])
  const { before = 0, after = 0, shown } = learned.steadied ?? {}
  const px = (widths: number) => `${(widths * source.claims.width).toFixed(2)} px`
  return {
    source: {
      ...source,
      async *frames() {
        for await (const { n, picture } of numbered()) yield edit(picture, n)
      },
    },
    words: `steadied (${model}): ${px(before)} to ${px(after)} RMS, ${(100 * (shown?.scale ?? 1)).toFixed(1)} % of the picture kept`,
  }
}
