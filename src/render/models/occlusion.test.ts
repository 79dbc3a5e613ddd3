import { BoxGeometry, Mesh } from 'three'
import { describe, expect, it } from 'vitest'
import { bakeOcclusion } from './occlusion'

/** A box that stands on a slab. */
function pieces() {
  const box = new Mesh(new BoxGeometry(0.5, 1, 0.5))
  box.position.y = 0.55
  const slab = new Mesh(new BoxGeometry(2, 0.1, 2))
  for (const mesh of [slab, box]) mesh.updateMatrixWorld(true)
  return [{ mesh: slab }, { mesh: box }]
}
const shades = (baked: Awaited<ReturnType<typeof bakeOcclusion>>) =>
  [...baked.values()].map((geometry) => [...geometry.getAttribute('color').array])

describe('occlusion of a model', () => {
  it('is that of the model at rest, though it be drawn, and turned for that, while it is worked out', async () => {
    const quiet = shades(await bakeOcclusion(pieces()))
    const turned = pieces()
    const baking = bakeOcclusion(turned)
    let turns = 0
    const turning = setInterval(() => {
      turns++
      for (const { mesh } of turned) {
        mesh.rotation.x += 0.7
        mesh.updateMatrixWorld(true)
      }
    }, 1)
    const baked = shades(await baking)
    clearInterval(turning)
    expect(turns).toBeGreaterThan(0)
    expect(baked).toEqual(quiet)
  })
  it('darkens where the box meets the slab, and leaves what is free in full light', async () => {
    const [, box] = [...(await bakeOcclusion(pieces())).values()]
    const at = box?.getAttribute('position')
    const colour = box?.getAttribute('color')
    const shadeAt = (height: number) => {
      const own = Array.from({ length: at?.count ?? 0 }, (_, i) => i).filter(
        (i) => Math.abs((at?.getY(i) ?? 0) - height) < 0.05 && Math.abs(Math.abs(at?.getX(i) ?? 0) - 0.25) < 1e-6,
      )
      return own.reduce((sum, i) => sum + (colour?.getX(i) ?? 0), 0) / own.length
    }
    expect(shadeAt(-0.45)).toBeLessThan(0.8)
    expect(shadeAt(0.4)).toBeGreaterThan(0.95)
  })
})
