import { bytesOf } from '../colour'
import type { Picture } from '../image'
import { LOOKS, type TextureShape } from './looks'
import type { Field } from './noise'
import { colourAt, type Ramp } from './ramp'

/** A texture at one moment: one tile of it, which goes on on all sides. */
export interface TextureSpec {
  readonly look: string
  readonly shape: TextureShape
  /** How far values are spread from their middle: 1 as they are. */
  readonly contrast: number
  readonly ramp: Ramp
}

const STEPS = 512

/** Colours of a ramp at even steps and its end, as 32-bit words of a picture, red the lowest byte; straight alpha. */
function coloursOf(ramp: Ramp, steps: number): Int32Array {
  const words = new Int32Array(steps + 1)
  for (let step = 0; step <= steps; step++) {
    const [red, green, blue, alpha] = bytesOf(colourAt(ramp, step / steps))
    words[step] = (alpha << 24) | (blue << 16) | (green << 8) | red
  }
  return words
}

/** Colours of a ramp at 256 even steps, four bytes each. */
export const rampBytes = (ramp: Ramp): Uint8ClampedArray => new Uint8ClampedArray(coloursOf(ramp, 255).buffer)

/** @throws RangeError for a look that there is none of */
export function textureField(
  { look, shape }: Pick<TextureSpec, 'look' | 'shape'>,
  width: number,
  height: number,
): Field {
  const found = LOOKS.find((each) => each.look === look)
  if (!found) throw new RangeError(`there is no look of texture called “${look}”`)
  return found.field(shape, width, height)
}

/**
 * One tile of a texture as a picture of the given size in px: it tiles in x and y, and is the same one cycle of its
 * time later. Gradient noise: Perlin 2002; cells: Worley 1996.
 */
export function texturePicture(spec: TextureSpec, width: number, height: number): Picture {
  const { data } = textureField(spec, width, height)
  const colours = coloursOf(spec.ramp, STEPS)
  const words = new Int32Array(width * height)
  const { contrast } = spec
  for (let i = 0; i < words.length; i++) {
    const value = 0.5 + contrast * (data[i] - 0.5)
    words[i] = colours[Math.round(STEPS * Math.min(1, Math.max(0, value)))]
  }
  return { width, height, data: new Uint8ClampedArray(words.buffer) }
}
