import { type Loop, LoopFileError } from '@/core/document'
import { picturesOf, readPictureFile } from '@/core/media'
import { hasSides } from './claims/size'
import { withModelsMeasured } from './model/measured-again'
import type { DecodePicture } from './model/surfaces'

/**
 * A loop that comes from elsewhere, with what is said of its media held against their files, where those are at hand: pictures have the sides that are
 * said of them, by which memory is kept for them, and models are measured.
 * @throws LoopFileError where a picture has others, or a model cannot be read
 */
export async function withTrueMedia(loop: Loop, decode: DecodePicture): Promise<Loop> {
  for (const picture of picturesOf(loop.media)) {
    const { medium, width, height } = picture
    const file = await readPictureFile(picture)
    if (file && !hasSides(new Uint8Array(await file.arrayBuffer()), { width, height }))
      throw new LoopFileError(
        `A picture of “${medium.name}” in the loop has other sides than the ${width} × ${height} px that are said of it.`,
        'The file was changed or is damaged: open another copy of it.',
      )
  }
  return withModelsMeasured(loop, decode)
}
