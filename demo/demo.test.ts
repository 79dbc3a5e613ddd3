import { readdirSync, readFileSync } from 'node:fs'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { drawerOf } from '../src/cli/drawer'
import { checkMotions } from '../src/core/closing'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import type { Picture } from '../src/core/image'
import { assetsIn, keepAtHand, type Medium } from '../src/core/media'
import { judgeLoop, judgeSeam } from '../src/core/seam'
import { renderInNode } from '../src/render/node'
import { DEMO_LOOPS } from './build'
import { breakwater, pierAtNight } from './stills'

const folder = new URL('./loops/', import.meta.url)
const fileOf = (still: string) => readFileSync(new URL(`./stills/${still}.jpg`, import.meta.url))
const mediumFile = ({ kind, id }: Medium) =>
  kind === 'model' ? readFileSync(new URL(`./models/${id}.glb`, import.meta.url)) : fileOf(id)

describe.each(readdirSync(folder))('%s', (file) => {
  const loop = parseLoop(readFileSync(new URL(file, folder), 'utf8'))
  for (const medium of loop.media)
    keepAtHand(new Map(assetsIn([medium]).map(({ id }) => [id, new Blob([mediumFile(medium)])])))
  it('is what its script makes', async () => {
    expect(await DEMO_LOOPS[file.replace('.cyclon.json', '')]?.()).toEqual(loop)
  })
  it('closes, by its motions and by its pictures', async () => {
    const motions = checkMotions(loop)
    expect(motions.length).toBeGreaterThan(0)
    expect(motions.every(({ home, repeatsFrame, hesitates }) => home && !repeatsFrame && !hesitates)).toBe(true)
    // As large as the eye needs to tell: a quarter, of photographs an eighth.
    const scale = loop.media.length > 0 ? 8 : 4
    // Models are drawn by a browser.
    const drawer = await drawerOf(loop, loop.width / scale, loop.height / scale)
    const pictures: Picture[] = []
    for (let n = 0; n < loop.length; n++) pictures.push(await drawer.draw(n))
    await drawer.end()
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
