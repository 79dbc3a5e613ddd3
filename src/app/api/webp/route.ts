import { NextResponse } from 'next/server'
import { unpackWebpRequest } from '@/codecs/webp-request'
import { animatedWebp } from '@/codecs/webp-write'

/** Writes an animated WebP of frames that the browser has drawn; nothing is kept. */
export async function POST(request: Request) {
  try {
    const file = await animatedWebp(unpackWebpRequest(new Uint8Array(await request.arrayBuffer())))
    return new NextResponse(file, { headers: { 'content-type': 'image/webp' } })
  } catch (error) {
    const wrong = error instanceof RangeError
    const message = wrong ? error.message : `The frames could not be written as WebP: ${(error as Error).message}`
    return NextResponse.json({ message }, { status: wrong ? 400 : 422 })
  }
}
