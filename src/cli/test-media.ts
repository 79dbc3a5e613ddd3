import { createCanvas } from '@napi-rs/canvas'
import { type Clip, madeAsset, type StillPicture } from '@/core/media'

/** A square with a beam at an angle, as a PNG file. */
function beam(size: number, turn: number): Uint8Array<ArrayBuffer> {
  const canvas = createCanvas(size, size)
  const context = canvas.getContext('2d')
  context.fillStyle = '#0b2230'
  context.fillRect(0, 0, size, size)
  context.translate(size / 2, size / 2)
  context.rotate(2 * Math.PI * turn)
  context.fillStyle = '#f2b54a'
  context.fillRect(0, -size / 12, size / 2.4, size / 6)
  return new Uint8Array(canvas.toBuffer('image/png'))
}

const FRAMES = 12
/** A turning beam of twelve frames, for tests that draw clips. */
export const TEST_CLIP: Clip = {
  kind: 'clip',
  id: 'wake',
  name: 'Ferry wake',
  width: 32,
  height: 32,
  verdict: 'closes',
  delaysMs: new Array<number>(FRAMES).fill(40),
  frames: await madeAsset(
    'image/png',
    Array.from({ length: FRAMES }, (_, n) => beam(32, n / FRAMES)),
  ),
}

const HOPPING = 24
const HOP = 1 / 6
/** A beam that turns evenly but for a hop before frame 10, by whatever it is said to be. */
export const hoppingClip = async (verdict: Clip['verdict']): Promise<Clip> => ({
  ...TEST_CLIP,
  verdict,
  delaysMs: new Array<number>(HOPPING).fill(40),
  frames: await madeAsset(
    'image/png',
    Array.from({ length: HOPPING }, (_, n) => beam(32, ((1 - HOP) * n) / HOPPING + (n < 10 ? 0 : HOP))),
  ),
})
export const TEST_PICTURE: StillPicture = {
  kind: 'picture',
  id: 'pier',
  name: 'Pier',
  width: 32,
  height: 32,
  file: await madeAsset('image/png', beam(32, 0.1)),
}
