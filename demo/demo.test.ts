import { readdirSync, readFileSync } from 'node:fs'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../src/core/closing'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { assetsIn, keepAtHand } from '../src/core/media'
import { judgeLoop, judgeSeam } from '../src/core/seam'
import { NodeRenderer, picturesInNode, renderInNode } from '../src/render/node'
import { DEMO_LOOPS } from './build'
import { breakwater, pierAtNight } from './stills'

const folder = new URL('./loops/', import.meta.url)
const fileOf = (still: string) => readFileSync(new URL(`./stills/${still}.jpg`, import.meta.url))

describe.each(readdirSync(folder))('%s', (file) => {
  const loop = parseLoop(readFileSync(new URL(file, folder), 'utf8'))
  for (const medium of loop.media)
    keepAtHand(new Map(assetsIn([medium]).map(({ id }) => [id, new Blob([fileOf(medium.id)])])))
  it('is what its script makes', () => {
    expect(DEMO_LOOPS[file.replace('.cyclon.json', '')]?.()).toEqual(loop)
  })
  it('closes, by its motions and by its pictures', async () => {
    const motions = checkMotions(loop)
    expect(motions.length).toBeGreaterThan(0)
    expect(motions.every(({ home, repeatsFrame, hesitates }) => home && !repeatsFrame && !hesitates)).toBe(true)
    // As large as the eye needs to tell: a quarter, of photographs an eighth.
    const scale = loop.media.length > 0 ? 8 : 4
    const renderer = new NodeRenderer(loop.width / scale, loop.height / scale)
    const stills = await picturesInNode(loop)
    const pictures = Array.from({ length: loop.length }, (_, n) => renderer.picture(loop, n, stills))
    const seam = judgeSeam(pictures)
    expect(seam.verdict).toBe('closes')
    expect(judgeLoop(loop, motions, seam).verdict).toBe('closes')
  })
})

describe('the stills', () => {
  it.each([pierAtNight(), breakwater()])('are what their scripts draw: $name', async (still) => {
    // Grain and small waves are drawn for the full size; what is left of them at an eighth is little.
    const [width, height] = [still.width / 8, still.height / 8]
    const kept = await sharp(fileOf(still.id)).resize(width, height).ensureAlpha().raw().toBuffer()
    const { data } = renderInNode(evaluate(still, 0), width, height)
    const off = kept.reduce((sum, value, i) => sum + Math.abs(value - (data[i] as number)), 0) / kept.length
    expect(off).toBeLessThan(8)
    expect(await sharp(fileOf(still.id)).metadata()).toMatchObject({ width: 1280, height: 720, format: 'jpeg' })
  })
})
