import { NextResponse } from 'next/server'
import * as z from 'zod'
import { webpStill } from '@/codecs/webp-still'
import { type BodyLimits, BodyRoom, NoRoom, TooLarge, TooSlow, turnsOf, withBytes } from './limits'

/** The largest picture that is taken, bytes of its PNG file. */
const MAX_BODY_BYTES = 128 * 1024 * 1024
/** Pictures that are written at a time, and that may wait for their turn. */
const turns = turnsOf(2, 16)
/** Limits of an upload, and the memory for all uploads together. */
const READING: BodyLimits = {
  most: MAX_BODY_BYTES,
  silenceMs: 10_000,
  wholeMs: 120_000,
  room: new BodyRoom(4 * MAX_BODY_BYTES),
}

const querySchema = z.object({
  lossless: z.enum(['true', 'false']).transform((text) => text === 'true'),
  exact: z.enum(['true', 'false']).transform((text) => text === 'true'),
  quality: z.coerce.number().int().min(1).max(100),
})

const refused = (message: string, status: number, headers: Record<string, string> = {}) =>
  NextResponse.json({ message }, { status, headers })

const busy = () =>
  refused('Too many pictures are being written at the moment. Try again in a second.', 429, { 'retry-after': '1' })

const TOO_LARGE = `The picture has more than ${MAX_BODY_BYTES / 1024 / 1024} MB, which is not taken. Write it at a smaller size.`

/** Writes a picture that the browser has drawn, a PNG file, as WebP; nothing is kept. */
export async function POST(request: Request) {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams))
  if (!query.success) return refused('The request does not say how the WebP is to be written.', 400)
  if (Number(request.headers.get('content-length')) > MAX_BODY_BYTES) return refused(TOO_LARGE, 413)
  try {
    return await withBytes(request.body, READING, async (png) => {
      if (String.fromCharCode(...png.subarray(1, 4)) !== 'PNG') return refused('The request holds no PNG file.', 400)
      // Only who has sent all of it takes a turn.
      const turn = await turns.take()
      if (!turn) return busy()
      try {
        return new NextResponse(await webpStill(png, query.data), { headers: { 'content-type': 'image/webp' } })
      } finally {
        turn()
      }
    })
  } catch (error) {
    if (error instanceof TooLarge) return refused(TOO_LARGE, 413)
    if (error instanceof TooSlow) return refused('The picture did not come in time. Send it again.', 408)
    if (error instanceof NoRoom) return busy()
    return refused(`The picture could not be written as WebP: ${(error as Error).message}`, 422)
  }
}
