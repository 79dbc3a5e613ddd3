import { readFileSync } from 'node:fs'
import { WebIO } from '@gltf-transform/core'
import { validateBytes } from 'gltf-validator'
import { AnimationMixer, Box3, LoopRepeat, type Object3D, Quaternion, Vector3 } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import { describe, expect, it } from 'vitest'
import { parseLoop } from '@/core/document'
import { modelMotion } from '@/core/output'
import { animatedGlb, makeGlb, openGlb, readBackMotion } from '.'

const folder = new URL('../../../demo/', import.meta.url)
const loopOf = (name: string) => parseLoop(readFileSync(new URL(`loops/${name}.cyclon.json`, folder), 'utf8'))
const fileOf = (name: string) => new Uint8Array(readFileSync(new URL(`loops/assets/${name}.glb`, folder)))

async function written(name: string) {
  const loop = loopOf(name)
  const motion = modelMotion(loop, loop.layers[0]?.id as string)
  if (!motion) throw new Error('it moves')
  return { motion, glb: await animatedGlb(`${name}.glb`, fileOf(name), motion) }
}
/** The animated scene without its pictures, which need a browser. */
async function scene(glb: Uint8Array) {
  const { json, bin } = openGlb('x', glb)
  const { images: _i, textures: _t, materials: _m, ...plain } = json
  const meshes = plain.meshes?.map((mesh) => ({
    ...mesh,
    primitives: mesh.primitives.map(({ material: _, ...piece }) => piece),
  }))
  const bare = makeGlb({ ...plain, ...(meshes && { meshes }) }, bin)
  const { scene: root, animations } = await new GLTFLoader().parseAsync(bare.buffer as ArrayBuffer, '')
  const mixer = new AnimationMixer(root)
  for (const clip of animations) mixer.clipAction(clip).setLoop(LoopRepeat, Number.POSITIVE_INFINITY).play()
  const at = (seconds: number) => {
    mixer.setTime(seconds)
    root.updateMatrixWorld(true)
    const all = new Map<string, number[]>()
    root.traverse((object: Object3D) => all.set(`${object.name} ${object.id}`, object.matrixWorld.toArray()))
    return all
  }
  return { root, at }
}

describe.each(['mooring-buoy', 'capstan', 'signal-lamp'])('%s with its motion in it', (name) => {
  it('is found sound by an independent validator, and holds all that came with it', async () => {
    const { glb } = await written(name)
    const { issues } = await validateBytes(glb, { maxIssues: 20 })
    expect([issues.numErrors, issues.messages.filter(({ severity }) => severity === 0)]).toEqual([0, []])
    const before = openGlb(name, fileOf(name)).json
    const after = openGlb(name, glb).json
    expect(after.nodes?.slice(0, before.nodes?.length).map((node) => node.name)).toEqual(
      before.nodes?.map((node) => node.name),
    )
    expect(after.nodes?.map(({ extras }) => extras).filter(Boolean)).toEqual(
      before.nodes?.map(({ extras }) => extras).filter(Boolean),
    )
    expect([after.materials, after.meshes]).toEqual([before.materials, before.meshes])
    // Placement is kept to the last digit where nothing moves.
    if (name === 'mooring-buoy')
      expect(after.nodes?.find((node) => node.name === 'Mooring buoy')?.translation).toEqual([0.75, 0.34, -0.4])
  })
  it('read by a loader is at time N + x what it is at x, but for a turn by its fold', async () => {
    const { glb, motion } = await written(name)
    const whole = motion.times.at(-1) as number
    const { at } = await scene(glb)
    const turned = new Map(at(0))
    for (const x of [0.1, 0.437, 0.9]) {
      const here = at(x * whole)
      const later = at(whole + x * whole)
      for (const [key, matrix] of here)
        for (const [i, value] of (later.get(key) ?? []).entries()) expect(value).toBeCloseTo(matrix[i] as number, 4)
    }
    // The closing frame against the first one: where it is not the same, it is turned by a part of a turn that looks the same.
    const before = new Map(at(0))
    const end = at(whole - 1e-7)
    const pivot = [...end.keys()].find((key) => key.includes('turn')) as string
    const rotationOf = (m: readonly number[]) => {
      const q = new Quaternion()
      const columns = [0, 4, 8].map((k) => new Vector3(m[k], m[k + 1], m[k + 2]).normalize())
      const [a, b, c] = columns as [Vector3, Vector3, Vector3]
      const trace = a.x + b.y + c.z
      q.w = Math.sqrt(Math.max(0, 1 + trace)) / 2
      return 2 * Math.acos(Math.min(1, q.w)) * (180 / Math.PI)
    }
    const off = Math.abs(rotationOf(end.get(pivot) as number[]) - rotationOf(before.get(pivot) as number[]))
    const left = off % (360 / motion.fold)
    expect(Math.min(left, 360 / motion.fold - left)).toBeLessThan(0.05)
    expect(turned.size).toBeGreaterThan(3)
  })
  it('read back closes; with its last key elsewhere it does not', async () => {
    const { glb, motion } = await written(name)
    expect(await readBackMotion(name, glb)).toMatchObject({ closes: true })
    const open = {
      ...motion,
      rotations: motion.rotations.map((r, i) => (i === motion.rotations.length - 1 ? [0, 0, 1, 0, 1, 0, -1, 0, 0] : r)),
    }
    expect((await readBackMotion(name, await animatedGlb(name, fileOf(name), open))).closes).toBe(false)
  })
  it('turns with keys less than half a turn apart', async () => {
    const { glb } = await written(name)
    const document = await new WebIO().readBinary(glb)
    for (const channel of document
      .getRoot()
      .listAnimations()
      .flatMap((each) => each.listChannels())) {
      if (channel.getTargetPath() !== 'rotation') continue
      const values = channel.getSampler()?.getOutput()
      const quaternion = (i: number) => {
        const element: number[] = []
        values?.getElement(i, element)
        return new Quaternion().fromArray(element)
      }
      for (let i = 1; i < (values?.getCount() ?? 0); i++)
        expect(quaternion(i - 1).angleTo(quaternion(i))).toBeLessThan(Math.PI / 2 + 1e-3)
    }
  })
})

describe('the buoy', () => {
  it('turns about its own middle, although its origin lies beside it', async () => {
    const { glb } = await written('mooring-buoy')
    const { root, at } = await scene(glb)
    const middle = (seconds: number) => {
      at(seconds)
      const float = root.getObjectByName('Float') as Object3D
      return new Box3().setFromObject(float).getCenter(new Vector3())
    }
    for (const seconds of [0.3, 1, 2.2]) expect(middle(seconds).distanceTo(middle(0))).toBeLessThan(0.12)
  })
})
