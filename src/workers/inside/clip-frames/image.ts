import { ClipError, type FileClaims, refuseHuge } from '@/codecs/claims'
import { numbersOf, type OpenedClip, reader, refuseClipSize } from './reader'

const NAMES = { gif: 'GIF', apng: 'APNG', png: 'PNG', webp: 'WebP' }
const TYPES = { gif: 'image/gif', apng: 'image/png', png: 'image/png', webp: 'image/webp' }

function decoderOf(data: Uint8Array<ArrayBuffer>, type: string): ImageDecoder {
  if (typeof ImageDecoder === 'undefined')
    throw new ClipError('This browser cannot decode moving pictures by itself. Open the file in another one.')
  return new ImageDecoder({ data, type, preferAnimation: true })
}

/** The frames of an image file by the browser's decoder; their times where the file's claims do not say them. */
function framesOf(
  bytes: Uint8Array<ArrayBuffer>,
  type: string,
  name: string,
  count: number,
  delaysMs?: readonly number[],
): OpenedClip['frames'] {
  return async function* (width, height, wanted) {
    const read = reader(width, height)
    const decoder = decoderOf(bytes, type)
    try {
      await decoder.tracks.ready
      for (const n of numbersOf(count, wanted)) {
        const { image } = await decoder.decode({ frameIndex: n }).catch((error: Error) => {
          throw new ClipError(`Frame ${n} of ${name} cannot be decoded: ${error.message} Fetch or export it again.`)
        })
        const picture = read((context) => context.drawImage(image, 0, 0, width, height))
        const delayMs = delaysMs?.[n] ?? (image.duration ?? 0) / 1000
        image.close()
        yield { n, picture, delayMs }
      }
    } finally {
      decoder.close()
    }
  }
}

/** A GIF, PNG, APNG or WebP of which the claims have been read. */
export function image(bytes: Uint8Array<ArrayBuffer>, claims: FileClaims, name: string): OpenedClip {
  const { format, width, height, delaysMs, plays, notes } = claims
  const count = delaysMs.length
  return {
    format: NAMES[format],
    width,
    height,
    count,
    plays,
    notes,
    frames: framesOf(bytes, TYPES[format], name, count, delaysMs),
  }
}

/** An AVIF says nothing of its frames that could be read without decoding it. */
export async function avif(file: File): Promise<OpenedClip> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  refuseHuge(bytes, 'AVIF')
  const decoder = decoderOf(bytes, 'image/avif')
  try {
    await decoder.tracks.ready
    const track = decoder.tracks.selectedTrack
    const { image: first } = await decoder.decode({ frameIndex: 0 })
    const width = first.displayWidth
    const height = first.displayHeight
    first.close()
    const count = track?.frameCount ?? 1
    refuseClipSize(width, height, count, 'AVIF')
    return {
      format: 'AVIF',
      width,
      height,
      count,
      notes: [],
      plays: track && track.repetitionCount !== Infinity ? track.repetitionCount + 1 : 0,
      frames: framesOf(bytes, 'image/avif', file.name, count),
    }
  } catch (error) {
    if (error instanceof ClipError) throw error
    throw new ClipError(`${file.name} cannot be decoded as AVIF. It may be damaged; fetch or export it again.`)
  } finally {
    decoder.close()
  }
}
