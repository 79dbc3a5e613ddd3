import { type Loop, LoopFileError } from '@/core/document'
import { picturesOf, readPictureFile } from '@/core/media'
import { hasSides } from './claims/size'
import { withModelsMeasured } from './model/measured-again'
import type { DecodePicture } from './model/surfaces'

/**
 * Checks a loop from a file or the clipboard against the media files that are at hand: pictures must have the size that the document states, which the
 * memory ceiling relies on, and models are measured again.
 * @throws LoopFileError where a picture has another size, or a model cannot be read
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
