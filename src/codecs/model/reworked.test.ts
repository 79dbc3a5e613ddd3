import { Document, WebIO } from '@gltf-transform/core'
import fc from 'fast-check'
import { validateBytes } from 'gltf-validator'
import { describe, expect, it } from 'vitest'
import { boundsOf, faultsOf, type ListedPart, measured, toScale, wholeMesh } from '@/core/solid'
import { openGlb, type Rework, readModel, reworkedGlb } from '.'

const CORNERS = [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1]
/** From the corners inwards, each of length one. */
const NORMALS = Float32Array.from(CORNERS.map((x) => (0.5 - x) / Math.sqrt(0.75)))
const INWARDS = [0, 1, 2, 0, 3, 1, 0, 2, 3, 1, 3, 2]

/** A lamp whose parts have no names, stand in an empty group's neighbour, look inwards, and have normals that look in, too. */
async function lamp(size: number): Promise<Uint8Array> {
  const document = new Document()
  const buffer = document.createBuffer()
  const list = (array: Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer>, type: 'VEC3' | 'SCALAR') =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer)
  const piece = document
    .createPrimitive()
    .setAttribute('POSITION', list(Float32Array.from(CORNERS), 'VEC3'))
    .setAttribute('NORMAL', list(NORMALS, 'VEC3'))
    .setIndices(list(Uint16Array.from(INWARDS), 'SCALAR'))
  const mesh = document.createMesh('Pane').addPrimitive(piece)
  const post = document
    .createNode('Post')
    .setTranslation([0, 2 * size, 0])
    .setScale([size, size, size])
  const turned = document.createNode('').setMesh(mesh).setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2])
  post.addChild(turned.setTranslation([1, 0, 3]))
  post.addChild(document.createNode('').setMesh(mesh))
  const scene = document.createScene().addChild(post)
  scene
    .addChild(document.createNode('Hook'))
    .addChild(
      document.createNode('Eye').setCamera(document.createCamera().setType('perspective').setYFov(0.8).setZNear(0.1)),
    )
  scene.addChild(document.createNode('Weight').setMesh(mesh).setScale([size, -size, size]).setExtras({ heading: 0.25 }))
  return new WebIO().writeBinary(document)
}
const read = async (bytes: Uint8Array) => (await readModel('lamp.glb', bytes)).parts
const kinds = async (bytes: Uint8Array) => [...new Set(faultsOf(await read(bytes)).map(({ kind }) => kind))].sort()
const listed = async (bytes: Uint8Array) => measured(await read(bytes)).parts
const nodeNamed = (parts: readonly ListedPart[], name: string) => parts.find((part) => part.name === name)?.node ?? -1

async function rework(bytes: Uint8Array, how: Rework): Promise<Uint8Array> {
  const made = await reworkedGlb('lamp.glb', bytes, await listed(bytes), how)
  expect((await validateBytes(made)).issues.messages.filter(({ severity }) => severity === 0)).toEqual([])
  return made
}
const vertices = async (bytes: Uint8Array) => wholeMesh(await read(bytes)).positions

describe('the file of a model', () => {
  it('is rid of each fault by what mends it, and of nothing else', async () => {
    const bytes = await lamp(1)
    expect(await kinds(bytes)).toEqual(['empty-group', 'flipped', 'unnamed'])
    const faults = measured(await read(bytes)).faults ?? []
    const of = (kind: string) => faults.find((fault) => fault.kind === kind)?.nodes ?? []
    expect(of('flipped')).toHaveLength(3)
    expect(await kinds(await rework(bytes, { to: 'name' }))).toEqual(['empty-group', 'flipped'])
    expect(await kinds(await rework(bytes, { to: 'remove', nodes: of('empty-group') }))).toEqual(['flipped'])
    const round = await rework(bytes, { to: 'flip', nodes: of('flipped') })
    expect(await kinds(round)).toEqual(['empty-group'])
    expect(await vertices(round)).toEqual(await vertices(bytes))
    const { json } = openGlb('lamp.glb', round)
    expect(json.nodes?.find(({ name }) => name === 'Weight')?.extras).toEqual({ heading: 0.25 })
    // The normals look out with their faces.
    const normals = (await new WebIO().readBinary(round)).getRoot().listMeshes()[0]?.listPrimitives()[0]
    expect([...(normals?.getAttribute('NORMAL')?.getElement(1, []) ?? [])]).toEqual(
      [3, 4, 5].map((i) => -(NORMALS[i] as number)),
    )
  })
  it('with one of several parts of one mesh turned round leaves the others', async () => {
    const bytes = await lamp(1)
    const made = await rework(bytes, { to: 'flip', nodes: [nodeNamed(await listed(bytes), 'Weight')] })
    expect(faultsOf(await read(made)).filter(({ kind }) => kind === 'flipped')).toHaveLength(2)
  })
  it.each([0.0001, 4000])('of a size of %d is as large as things are after one step', async (size) => {
    const bytes = await lamp(size)
    expect(await kinds(bytes)).toContain('out-of-scale')
    const { least, most } = boundsOf(wholeMesh(await read(bytes))) ?? { least: [0], most: [0] }
    const by = toScale(Math.hypot(...most.map((x, i) => x - (least[i] as number))))
    const made = await rework(bytes, { to: 'scale', by })
    expect(await kinds(made)).not.toContain('out-of-scale')
    const was = await vertices(bytes)
    const is = await vertices(made)
    for (const [i, x] of is.entries()) expect(x).toBeCloseTo(by * (was[i] as number), 3)
  })
  it('with any parts put together has each where it stood', async () => {
    const bytes = await rework(await lamp(2), { to: 'name' })
    const parts = await listed(bytes)
    await fc.assert(
      fc.asyncProperty(fc.subarray([...parts], { minLength: 1 }), async (some) => {
        const how = { to: 'group', nodes: some.map(({ node }) => node), name: 'Rig' } as const
        const made = await rework(bytes, how)
        const now = await listed(made)
        expect(now.map(({ name }) => name).sort()).toEqual([...parts.map(({ name }) => name), 'Rig'].sort())
        // The centre of what holds others is theirs, too.
        for (const part of parts.filter(({ name }) => name !== 'Post'))
          for (const [i, x] of (now.find(({ name }) => name === part.name)?.centre ?? []).entries())
            expect(x).toBeCloseTo(part.centre[i] as number, 4)
        const rig = now.findIndex(({ name }) => name === 'Rig')
        const isIn = (i: number): boolean => i >= 0 && (i === rig || isIn(now[i]?.within ?? -1))
        for (const { name } of some) expect(isIn(now.findIndex((each) => each.name === name))).toBe(true)
      }),
      { numRuns: 40 },
    )
  })
  it('is found by the names that its parts are listed by after one is renamed', async () => {
    const bytes = await lamp(1)
    const before = await listed(bytes)
    const node = nodeNamed(before, 'Part 2')
    const made = await rework(bytes, { to: 'rename', node, name: 'Inner pane' })
    expect((await listed(made)).map(({ name }) => name)).toEqual(
      before.map(({ name }) => (name === 'Part 2' ? 'Inner pane' : name)),
    )
  })
})
