import { strToU8 } from 'fflate'
import { embeddedPictures } from './embedded'
import type { Encoded, EncodeJob } from './job'
import { lottieOf } from './lottie'
import { svgOf } from './svg'

const bytesOf = (text: string) => strToU8(text) as Uint8Array<ArrayBuffer>

export async function svg({ loop, settings, timing, progress }: EncodeJob): Promise<Encoded> {
  const bytes = bytesOf(svgOf(loop, settings.scale, await embeddedPictures(loop)))
  await progress(timing.frames.length)
  return { bytes, type: 'image/svg+xml' }
}

export async function lottie({ loop, settings, timing, progress }: EncodeJob): Promise<Encoded> {
  const bytes = bytesOf(JSON.stringify(lottieOf(loop, settings.scale, await embeddedPictures(loop))))
  await progress(timing.frames.length)
  return { bytes, type: 'application/json' }
}
