import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { zipProject } from '@/codecs'
import { fraction } from '@/core/clock'
import type { Loop } from '@/core/document'
import { newLoop, placeClip } from '@/core/edit'
import type { Clip } from '@/core/media'
import { withJudgedClips } from '@/core/seam'
import { checkPath } from './check'
import { seamInNode } from './drawer'
import { hoppingClip, TEST_CLIP } from './test-media'

const brief = { name: 'Pier', kind: 'cinemagraph', width: 64, height: 48, background: '#0b2230' } as const
const showing = (clip: Clip): Loop =>
  placeClip(newLoop({ ...brief, rate: fraction(25), length: clip.delaysMs.length }), clip).loop

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'cyclon-clips-'))
})
afterAll(() => rm(folder, { recursive: true }))

async function checked(loop: Loop) {
  const path = join(folder, 'pier.cyclon.zip')
  await writeFile(path, await zipProject(loop))
  const [found] = await checkPath(path, 25)
  return found
}

describe('what a document says of its clips', () => {
  it('is not believed: they are judged by their own pictures', async () => {
    const lying = await withJudgedClips(showing(await hoppingClip('closes')), seamInNode)
    expect(lying.media).toMatchObject([{ verdict: 'jumps', faultFrame: 10 }])
    const slandered = await withJudgedClips(showing({ ...TEST_CLIP, verdict: 'jumps', faultFrame: 3 }), seamInNode)
    expect(slandered.media).toMatchObject([{ verdict: 'closes', faultFrame: 0 }])
  })
  it('does not decide what check says of it', async () => {
    const lying = await checked(showing(await hoppingClip('closes')))
    expect(lying).toMatchObject({ sound: false, entry: { seam: { verdict: 'jumps' } } })
    expect(JSON.stringify(lying)).toMatch(/“Ferry wake” jumps before its frame 10, which the loop shows after frame 9/)
    expect(await checked(showing({ ...TEST_CLIP, verdict: 'jumps' }))).toMatchObject({ sound: true })
  })
  it('stands where the clip is not seen, so that its files may be missing', async () => {
    const loop = showing(await hoppingClip('closes'))
    const hidden = { ...loop, layers: loop.layers.map((layer) => ({ ...layer, hidden: true })) }
    let looked = 0
    const judged = await withJudgedClips(hidden, async (alone) => {
      looked++
      return seamInNode(alone)
    })
    expect([looked, judged.media]).toEqual([0, hidden.media])
  })
})
