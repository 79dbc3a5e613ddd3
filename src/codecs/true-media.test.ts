import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import type { Loop } from '@/core/document'
import { newLoop } from '@/core/edit'
import { madeAsset } from '@/core/media'
import { pierOf } from '@/core/testing/media'
import { unzipProject, zipProject } from './project'
import { withTrueMedia } from './true-media'

const noPicture = () => Promise.reject(new Error('There is none.'))
const SIDES = { width: 70, height: 50 }
const png = new Uint8Array(
  await sharp({ create: { ...SIDES, channels: 3, background: '#0b2230' } })
    .png()
    .toBuffer(),
)
const brief = {
  name: 'Pier',
  kind: 'cinemagraph',
  ...SIDES,
  background: null,
  rate: { num: 25, den: 1 },
  length: 25,
} as const
/** A loop with a picture of which a size is said, from an archive. */
async function sent(size: { readonly width: number; readonly height: number }): Promise<Loop> {
  const pier = pierOf({ ...size, file: await madeAsset('image/png', png) })
  return unzipProject(await zipProject({ ...newLoop(brief), media: [pier] }))
}

describe('what a loop from elsewhere says of its pictures', () => {
  it('stays where it is so', async () => {
    const loop = await sent(SIDES)
    expect(await withTrueMedia(loop, noPicture)).toBe(loop)
  })
  it.each([
    { width: 7, height: 5 },
    { width: 1, height: 1 },
    { width: 8000, height: 50 },
  ])('is refused where it is not: $width × $height', async (size) =>
    expect(withTrueMedia(await sent(size), noPicture)).rejects.toThrow(
      `has other sides than the ${size.width} × ${size.height} px that are said of it`,
    ),
  )
})
