import { greatestDifference, type Picture } from '@/core/image'

/** A frame of a file beside the picture that was meant: the means of their spots, opaque and of one size. */
export interface ComparedFrame {
  readonly found: Picture
  readonly meant: Picture
}

/** Another picture is shown where it is nearer than this share of the distance of the meant one. */
const NEARER = 0.5
/** Of longer files each frame is held against at most this many others, spread over the file, besides its neighbours. */
const OTHERS = 1200

/** A picture with its rows read from right to left. */
function mirrored({ width, height, data }: Picture): Picture {
  const words = new Uint32Array(data.slice().buffer)
  const out = new Uint32Array(words.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) out[y * width + x] = words[y * width + width - 1 - x] as number
  return { width, height, data: new Uint8ClampedArray(out.buffer) }
}

/** A picture with red in the place of blue. */
function exchanged({ width, height, data }: Picture): Picture {
  const out = new Uint8ClampedArray(data)
  for (let i = 0; i < out.length; i += 4) {
    out[i] = data[i + 2] as number
    out[i + 2] = data[i] as number
  }
  return { width, height, data: out }
}

/**
 * The first frame of a file that shows something else than was meant at its place, in words: the picture of another frame, its own
 * mirrored, or with red and blue exchanged. Null where there is none. A frame is only suspected where its worst spot is off by more
 * than `suspect` (0 … 255): slow motion and few colours alone put it off by less.
 */
export function mixUpOf(shown: readonly ComparedFrame[], suspect: number): string | null {
  const count = shown.length
  const every = Math.ceil(count / OTHERS)
  for (const [n, { found, meant }] of shown.entries()) {
    const off = greatestDifference(found, meant)
    if (off <= suspect) continue
    const isNearer = (other: Picture) => greatestDifference(found, other) < NEARER * off
    if (isNearer(exchanged(meant))) return `frame ${n} has red and blue exchanged`
    if (isNearer(mirrored(meant))) return `frame ${n} is mirrored`
    for (let m = 0; m < count; m++)
      if (m !== n && (m % every === 0 || Math.abs(m - n) === 1) && isNearer((shown[m] as ComparedFrame).meant))
        return `frame ${n} shows what frame ${m} should`
  }
  return null
}
