import { Document, WebIO } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { boundsOf, faultsOf, massCentre, meshFold, type Part, partsOf, trianglesIn, wholeMesh } from '@/core/solid'
import { ModelError, readModel } from '.'

const text = (content: string) => new TextEncoder().encode(content)
const CORNERS = [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1]
const FACES = [0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]

/** A buoy of two parts in a group that is moved, as GLB. */
async function buoy(change: (document: Document) => void = () => {}): Promise<Uint8Array> {
  const document = new Document()
  const buffer = document.createBuffer()
  const float = document.createAccessor().setType('VEC3').setArray(Float32Array.from(CORNERS)).setBuffer(buffer)
  const indices = document.createAccessor().setType('SCALAR').setArray(Uint16Array.from(FACES)).setBuffer(buffer)
  const piece = document.createPrimitive().setAttribute('POSITION', float).setIndices(indices)
  const mesh = document.createMesh('Float').addPrimitive(piece)
  const group = document.createNode('Mooring buoy').setTranslation([5, 0, 0])
  group.addChild(document.createNode('Float').setMesh(mesh))
  group.addChild(document.createNode('Mast').setMesh(mesh).setScale([0.1, 3, 0.1]))
  document.createScene().addChild(group)
  change(document)
  return new WebIO().writeBinary(document)
}
const names = (parts: readonly Part[]) => [...partsOf(parts)].map(({ name }) => name)

describe('a model', () => {
  it('as GLB has its parts by their names, where they stand', async () => {
    const { parts } = await readModel('buoy.glb', await buoy())
    expect(names(parts)).toEqual(['Mooring buoy', 'Float', 'Mast'])
    expect(trianglesIn(parts)).toBe(8)
    expect(boundsOf(wholeMesh(parts))).toEqual({ least: [5, 0, 0], most: [6, 3, 1] })
    expect(faultsOf(parts)).toEqual([])
  })
  it('in strips and fans of triangles is measured as it is drawn', async () => {
    // A pyramid of four sides: a fan about its tip, and a strip for its foot.
    const points = [0, 1, 0, 1, 0, 1, 1, 0, -1, -1, 0, -1, -1, 0, 1]
    const lists = { 4: [0, 1, 2, 0, 2, 3, 0, 3, 4, 0, 4, 1, 1, 4, 2, 2, 4, 3], 6: [0, 1, 2, 3, 4, 1], 5: [1, 4, 2, 3] }
    const pyramid = async (modes: readonly (keyof typeof lists)[]) => {
      const document = new Document()
      const buffer = document.createBuffer()
      const place = document.createAccessor().setType('VEC3').setArray(Float32Array.from(points)).setBuffer(buffer)
      const mesh = document.createMesh('Buoy')
      for (const mode of modes) {
        const indices = document
          .createAccessor()
          .setType('SCALAR')
          .setArray(Uint16Array.from(lists[mode]))
          .setBuffer(buffer)
        mesh.addPrimitive(document.createPrimitive().setMode(mode).setAttribute('POSITION', place).setIndices(indices))
      }
      document.createScene().addChild(document.createNode('Buoy').setMesh(mesh))
      return wholeMesh((await readModel('buoy.glb', await new WebIO().writeBinary(document))).parts)
    }
    const listed = await pyramid([4])
    const stripped = await pyramid([6, 5])
    expect(stripped.indices.length).toBe(listed.indices.length)
    expect(boundsOf(stripped)).toEqual(boundsOf(listed))
    expect(massCentre(stripped)?.map((x) => x.toFixed(5))).toEqual(massCentre(listed)?.map((x) => x.toFixed(5)))
    expect(meshFold(stripped, [0, 0, 0], [0, 1, 0])).toBe(4)
  })
  it('as OBJ, STL and PLY is the same surface', async () => {
    const vertices = [0, 1, 2, 3].map((i) => CORNERS.slice(3 * i, 3 * i + 3).join(' '))
    const faces = [0, 1, 2, 3].map((i) => FACES.slice(3 * i, 3 * i + 3))
    const obj = `o Float\n${vertices.map((v) => `v ${v}`).join('\n')}\n${faces.map((f) => `f ${f.map((k) => k + 1).join(' ')}`).join('\n')}\n`
    const facet = (f: readonly number[]) =>
      `facet normal 0 0 0\nouter loop\n${f.map((k) => `vertex ${vertices[k]}`).join('\n')}\nendloop\nendfacet\n`
    const stl = `solid float\n${faces.map(facet).join('')}endsolid float\n`
    const ply = `ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nelement face 4\nproperty list uchar int vertex_indices\nend_header\n${vertices.join('\n')}\n${faces.map((f) => `3 ${f.join(' ')}`).join('\n')}\n`
    for (const [file, content] of [
      ['float.obj', obj],
      ['float.stl', stl],
      ['float.ply', ply],
    ] as const) {
      const { parts } = await readModel(file, text(content))
      expect([file, trianglesIn(parts)]).toEqual([file, 4])
      // Files of solids for printing and of scans stand on their z axis, and are stood up.
      const { least, most } = boundsOf(wholeMesh(parts)) ?? { least: [], most: [] }
      const box = [...least, ...most].map((x) => Math.round(x * 1e5) / 1e5 + 0)
      expect(box).toEqual(file.endsWith('obj') ? [0, 0, 0, 1, 1, 1] : [0, 0, -1, 1, 1, 0])
      expect(meshFold(wholeMesh(parts), [0, 0, 0], [0, 1, 0])).toBe(1)
    }
  })
  it('has what is wrong with it listed: names that lack or come twice, empty groups, faces that look inwards, its scale', async () => {
    const odd = await buoy((document) => {
      const [group] = document.getRoot().listScenes()[0]?.listChildren() ?? []
      const [first, mast] = group?.listChildren() ?? []
      first?.setName('Mast')
      mast?.setScale([-2000, 3, 0.1])
      group?.addChild(document.createNode('Chain'))
      group?.setName('')
    })
    const kinds = faultsOf((await readModel('odd.glb', odd)).parts).map(({ kind }) => kind)
    expect(kinds.sort()).toEqual(['doubled', 'empty-group', 'out-of-scale', 'unnamed'])
    const inside = await buoy((document) => {
      const [piece] = document.getRoot().listMeshes()[0]?.listPrimitives() ?? []
      piece?.getIndices()?.setArray(Uint16Array.from([...FACES].reverse()))
    })
    expect(faultsOf((await readModel('inside.glb', inside)).parts).map(({ kind }) => kind)).toEqual([
      'flipped',
      'flipped',
    ])
  })
  const json = (more: object) => text(JSON.stringify({ asset: { version: '2.0' }, ...more }))
  it.each([
    ['empty.glb', new Uint8Array(0), 'is empty'],
    ['words.glb', text('this is no model'), 'is damaged or breaks off'],
    ['buoy.fbx', text('x'), 'is none of glb, gltf, obj, ply, stl'],
    ['none.gltf', json({}), 'holds no surface'],
    ['beside.gltf', json({ buffers: [{ byteLength: 4, uri: '../../etc/passwd' }] }), 'outside of its own folder'],
    [
      'round.gltf',
      json({ nodes: [{ children: [1] }, { children: [0] }], scenes: [{ nodes: [0] }] }),
      'hold themselves',
    ],
    [
      'huge.gltf',
      json({ accessors: [{ count: 1e8, componentType: 5126, type: 'VEC3' }] }),
      'claims 100000000 vertices',
    ],
    ['named.gltf', json({ nodes: [{ name: 7 }], scenes: [{ nodes: [0] }] }), 'does not hold'],
    [
      'painted.gltf',
      json({ materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 2 } } }], textures: [{ source: 0 }] }),
      'does not hold',
    ],
    ['packed.gltf', json({ extensionsRequired: ['KHR_draco_mesh_compression'] }), 'Export it without compression'],
    ['nowhere.obj', text('v 0 0 0\nv 1 0 nan\nv 0 1 0\nf 1 2 3\n'), 'is nowhere'],
    ['points.obj', text('v 0 0 0\nv 1 0 0\n'), 'holds no surface'],
    ['short.stl', new Uint8Array(90), 'holds no surface'],
  ])('is refused in words where it cannot be read: %s', async (file, bytes, words) => {
    const refused = await readModel(file, bytes).then(
      () => null,
      (error: unknown) => error,
    )
    expect(refused).toBeInstanceOf(ModelError)
    expect((refused as Error).message).toContain(words)
  })
  it('that breaks off anywhere is refused or read, and nothing else', async () => {
    const whole = await buoy()
    for (let length = 1; length < whole.length; length += 41) {
      const outcome = await readModel('broken.glb', whole.slice(0, length)).catch((error: unknown) => error)
      if (outcome instanceof Error) expect(outcome).toBeInstanceOf(ModelError)
    }
  })
})
