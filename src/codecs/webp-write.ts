import WebP from 'node-webpmux'
import sharp from 'sharp'
import type { WebpRequest } from './webp-request'

/** An animated WebP of parts, in Node. Put together from stills, so that frames that are alike stay frames of their own. */
export async function animatedWebp({ manifest, pictures }: WebpRequest): Promise<Uint8Array<ArrayBuffer>> {
  const { width, height, lossless, quality } = manifest
  const frames = []
  for (const [n, picture] of pictures.entries()) {
    const { x, y, delayMs } = manifest.frames[n] as (typeof manifest.frames)[number]
    const still = await sharp(picture).webp({ lossless, quality, exact: lossless, effort: 4 }).toBuffer()
    // Places are written as the container counts them, in pairs of px (RFC 9649, § 2.7.1.1).
    const place = { x: x / 2, y: y / 2 }
    frames.push(
      await WebP.Image.generateFrame({ buffer: still, ...place, delay: delayMs, blend: false, dispose: false }),
    )
  }
  return new Uint8Array(
    (await WebP.Image.save(null, { frames, width, height, loops: 0, bgColor: [0, 0, 0, 0] })) as Uint8Array,
  )
}
