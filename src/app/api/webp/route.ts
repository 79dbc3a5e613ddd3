import { NextResponse } from 'next/server'
import { z } from 'zod'
import { webpStill } from '@/codecs/webp-still'

/** The largest picture that is taken, bytes of its PNG file. */
const LARGEST = 128 * 1024 * 1024

const querySchema = z.object({
  lossless: z.enum(['true', 'false']).transform((text) => text === 'true'),
  quality: z.coerce.number().int().min(1).max(100),
})

const refused = (message: string, status: number) => NextResponse.json({ message }, { status })

/** Writes a picture that the browser has drawn, a PNG file, as WebP; nothing is kept. */
export async function POST(request: Request) {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!query.success) return refused('The request does not say how the WebP is to be written.', 400)
  if (Number(request.headers.get('content-length')) > LARGEST)
    return refused('The picture is larger than is taken.', 413)
  const png = new Uint8Array(await request.arrayBuffer())
  if (png.length > LARGEST) return refused('The picture is larger than is taken.', 413)
  if (String.fromCharCode(...png.subarray(1, 4)) !== 'PNG') return refused('The request holds no PNG file.', 400)
  try {
    return new NextResponse(await webpStill(png, query.data), { headers: { 'content-type': 'image/webp' } })
  } catch (error) {
    return refused(`The picture could not be written as WebP: ${(error as Error).message}`, 422)
  }
}
