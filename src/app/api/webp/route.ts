import { NextResponse } from 'next/server'
import WebP from 'node-webpmux'
import sharp from 'sharp'
import { unpackWebpRequest, type WebpRequest } from '@/codecs/webp-request'

/** Writes an animated WebP of frames that the browser has drawn; nothing is kept. */
export async function POST(request: Request) {
  try {
    const file = await animated(unpackWebpRequest(new Uint8Array(await request.arrayBuffer())))
    return new NextResponse(new Uint8Array(file), { headers: { 'content-type': 'image/webp' } })
  } catch (error) {
    const wrong = error instanceof RangeError
    const message = wrong ? error.message : `The frames could not be written as WebP: ${(error as Error).message}`
    return NextResponse.json({ message }, { status: wrong ? 400 : 422 })
  }
}

/** Put together from stills, so that frames that are alike stay frames of their own. */
async function animated({ manifest, pictures }: WebpRequest): Promise<Uint8Array> {
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
  return (await WebP.Image.save(null, { frames, width, height, loops: 0, bgColor: [0, 0, 0, 0] })) as Uint8Array
}
