import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { changeLayer, type Layer, type Loop, parseLoop } from '@/core/document'
import { newLayer } from '@/core/edit'
import { greatestDifference, type Picture } from '@/core/image'
import { assetsIn, keepAtHand } from '@/core/media'
import { CommandError } from './command-error'
import { drawerOf, showsModels } from './drawer'
import { TEST_PICTURE } from './test-media'

const folder = new URL('../../demo/', import.meta.url)
const loop = parseLoop(readFileSync(new URL('loops/capstan.cyclon.json', folder), 'utf8'))
const file = readFileSync(new URL('loops/assets/capstan.glb', folder))
keepAtHand(new Map(assetsIn(loop.media).map(({ id }) => [id, new Blob([file])])))
const [id] = loop.layers.map((layer) => layer.id) as [string]
const withValues = (values: object): Loop =>
  changeLayer(loop, id, (layer) => ({ ...layer, values: { ...layer.values, ...values } }))

async function drawn(of: Loop, ...frames: readonly number[]): Promise<Picture[]> {
  const drawer = await drawerOf(of, 160, 120)
  const pictures: Picture[] = []
  for (const frame of frames) pictures.push(await drawer.draw(frame))
  await drawer.end()
  return pictures
}
const share = (picture: Picture, is: (r: number, g: number, b: number, a: number) => boolean): number => {
  let count = 0
  for (let i = 0; i < picture.data.length; i += 4)
    if (is(...([...picture.data.subarray(i, i + 4)] as [number, number, number, number]))) count++
  return count / (picture.data.length / 4)
}

describe('a loop with models', () => {
  it('is drawn by an installed Chromium, which is said; where there is none, what to install is', async () => {
    expect([showsModels(loop), showsModels({ ...loop, layers: [] })]).toEqual([true, false])
    const missing = await drawerOf(loop, 8, 8, [undefined, '/nowhere/chromium']).catch((error: unknown) => error)
    expect(missing).toBeInstanceOf(CommandError)
    expect((missing as Error).message).toContain('apt install chromium')
    const drawer = await drawerOf(loop, 8, 8)
    expect(drawer.said).toMatch(/^Models are drawn by .*chrom/)
    await drawer.end()
  })
  it('shows after a part of a turn by its fold what it showed before, and something else in between', async () => {
    const whole = changeLayer(loop, id, (layer) => ({ ...layer, motions: {} }))
    const at = (turn: number) => ({
      ...whole,
      layers: whole.layers.map((layer) => ({ ...layer, values: { ...layer.values, turn } })),
    })
    const [[first], [sixth], [between]] = await Promise.all([drawn(at(0), 0), drawn(at(60), 0), drawn(at(30), 0)])
    const mean = (a: Picture, b: Picture) =>
      a.data.reduce((sum, value, i) => sum + Math.abs(value - (b.data[i] as number)), 0) / a.data.length
    // Edges of facets that are not turned onto themselves to the last digit.
    expect(mean(first as Picture, sixth as Picture)).toBeLessThan(0.6)
    expect(mean(first as Picture, between as Picture)).toBeGreaterThan(5)
  })
  it('has models in rows, as particles and as cells', async () => {
    const [model] = withValues({ width: 96, height: 72, x: 0, y: 0, ground: 'none' }).layers as [Layer]
    const place = { x: 480, y: 360, width: 960, height: 720 }
    for (const [kind, values] of [
      ['copies', { arrangement: 'grid', columns: 4, rows: 3, pitch: 200, pitchY: 200 }],
      ['lattice', { shown: 'layers', cell: 'square', cellSize: 200, rise: 120 }],
      ['particles', { shape: 'layers', count: 12, size: 96, sizeSpread: 0, depths: 1 }],
    ] as const) {
      const holder = { ...newLayer(kind, kind, { ...place, ...values }), layers: [model] }
      const many = { ...loop, background: '#000000', layers: [holder] }
      const [picture] = (await drawn(many, 2)) as [Picture]
      const columns = new Set<number>()
      for (let i = 0; i < picture.data.length; i += 4) if ((picture.data[i] as number) > 40) columns.add((i / 4) % 160)
      // Of one alone there would be 16 columns.
      expect([kind, columns.size > 40]).toEqual([kind, true])
    }
  })
  it('shows a picture on the ground, as far as it is wide', async () => {
    const values = { ground: 'picture', groundPicture: TEST_PICTURE.id, shadow: 0, above: 60 }
    const media = [...loop.media, TEST_PICTURE]

    const [bare] = (await drawn({ ...withValues({ ...values, ground: 'none' }), media }, 0)) as [Picture]
    const [small] = (await drawn({ ...withValues({ ...values, groundSize: 0.6 }), media }, 0)) as [Picture]
    const [large] = (await drawn({ ...withValues({ ...values, groundSize: 1.2 }), media }, 0)) as [Picture]
    const other = (a: Picture, b: Picture) => {
      let count = 0
      for (let i = 0; i < a.data.length; i += 4)
        if (Math.abs((a.data[i] as number) - (b.data[i] as number)) > 20) count++
      return count / (a.data.length / 4)
    }

    expect(other(bare, small)).toBeGreaterThan(0.03)
    expect(other(bare, large)).toBeGreaterThan(1.3 * other(bare, small))
  })
  it('has passes that lie on one another: what alpha covers, depth and part colours do', async () => {
    const pass = async (name: string) =>
      (await drawn({ ...withValues({ pass: name, ground: 'none' }), background: null }, 3))[0] as Picture
    const alpha = await pass('alpha')
    const depth = await pass('depth')
    const parts = await pass('part colours')
    const shadow = await pass('shadow')
    const covered = share(alpha, (r) => r > 128)
    expect(covered).toBeGreaterThan(0.05)
    for (const other of [depth, parts])
      expect(Math.abs(share(other, (_r, _g, _b, a) => a > 128) - covered)).toBeLessThan(0.004)
    expect(share(shadow, (_r, _g, _b, a) => a > 8)).toBe(0)
    const nearest = Math.max(...depth.data.filter((_, i) => i % 4 === 0 && (depth.data[i + 3] as number) > 250))
    expect(nearest).toBeGreaterThan(150)
    const again = await pass('depth')
    expect(greatestDifference(depth, again)).toBe(0)
  })
})
