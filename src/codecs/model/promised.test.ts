import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { capstanModel, mooringBuoyModel } from '../../../demo/workshop'
import { type GltfJson, ModelError, makeGlb, openGlb, readModel } from '.'

const bytesOf = (text: string) => new TextEncoder().encode(text)
/** One triangle, in three vertices of 12 bytes. */
const triangle: GltfJson = {
  asset: { version: '2.0' },
  buffers: [{ byteLength: 36 }],
  bufferViews: [{ buffer: 0, byteLength: 36 }],
  accessors: [{ bufferView: 0, componentType: 5126, type: 'VEC3', count: 3 }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
  nodes: [{ mesh: 0 }],
  scenes: [{ nodes: [0] }],
  scene: 0,
}
const corners = new Uint8Array(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer)
const glb = (part: object = {}, bin = corners) => makeGlb({ ...triangle, ...part }, bin)
const reading = (name: string, bytes: Uint8Array) => readModel(name, bytes)

/** How much memory reading takes at the most, and that it ends in words. */
async function refused(name: string, bytes: Uint8Array, words: string): Promise<void> {
  const before = process.memoryUsage()
  await expect(reading(name, bytes)).rejects.toThrow(ModelError)
  await expect(reading(name, bytes)).rejects.toThrow(words)
  const after = process.memoryUsage()
  const grown = after.arrayBuffers + after.heapUsed - before.arrayBuffers - before.heapUsed
  expect(grown).toBeLessThan(64 * 1024 * 1024)
}

describe('a model that promises more than it holds', () => {
  it('is read where it holds what it promises', async () => {
    expect((await reading('triangle.glb', glb())).parts).toHaveLength(1)
  })
  it.each([
    [
      'vertices of no bytes',
      { accessors: [{ componentType: 5126, type: 'VEC3', count: 30_000_000 }] },
      'of which it holds none',
    ],
    [
      'more vertices than its bytes',
      { accessors: [{ bufferView: 0, componentType: 5126, type: 'VEC3', count: 4 }] },
      'does not hold them',
    ],
    [
      'a stride beyond its bytes',
      { bufferViews: [{ buffer: 0, byteLength: 36, byteStride: 16 }] },
      'does not hold them',
    ],
    ['a view beyond the file', { bufferViews: [{ buffer: 0, byteLength: 3_600_000_000 }] }, 'more bytes than it has'],
    [
      'a view before the file',
      { bufferViews: [{ buffer: 0, byteOffset: -36, byteLength: 36 }] },
      'more bytes than it has',
    ],
    [
      'half a vertex',
      { accessors: [{ bufferView: 0, componentType: 5126, type: 'VEC3', count: 2.5 }] },
      'nothing known',
    ],
    [
      'numbers of no type',
      { accessors: [{ bufferView: 0, componentType: 1, type: 'VEC3', count: 3 }] },
      'nothing known',
    ],
    [
      'a list of a view that is not there',
      { accessors: [{ bufferView: 7, componentType: 5126, type: 'VEC3', count: 3 }] },
      'does not hold them',
    ],
  ])('is refused: %s', (_, part, words) => refused('odd.glb', glb(part as object), words))

  it('is refused before anything is copied where it stands a million times', async () => {
    const count = 30_000
    const bin = new Uint8Array(12 * count)
    const many = {
      buffers: [{ byteLength: bin.length }],
      bufferViews: [{ buffer: 0, byteLength: bin.length }],
      accessors: [{ bufferView: 0, componentType: 5126, type: 'VEC3', count }],
      nodes: Array.from({ length: 9000 }, () => ({ mesh: 0 })),
      scenes: [{ nodes: Array.from({ length: 9000 }, (_, i) => i) }],
    }
    await refused('many.glb', glb(many as object, bin), 'each as often as it stands in it')
    const parts = { nodes: Array.from({ length: 21_000 }, () => ({})), scenes: [{ nodes: [0] }] }
    await refused('parts.glb', glb(parts as object), 'more than 20000 parts')
  })
  it.each([
    [
      'ply',
      'ply\nformat binary_little_endian 1.0\nelement vertex 900000000\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n',
      'more vertices and faces than it holds',
    ],
    [
      'ply',
      'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 800000000\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n',
      'more vertices and faces than it holds',
    ],
    ['ply', 'ply\nformat ascii 1.0\nelement vertex many\nend_header\n', 'promises “many”'],
    ['ply', 'no header at all', 'no header of a PLY file'],
  ])('is refused as %s, %#', (ending, text, words) => refused(`odd.${ending}`, bytesOf(text), words))
  it('is refused as STL', async () => {
    const stl = new Uint8Array(84 + 50)
    new DataView(stl.buffer).setUint32(80, 80_000_000, true)
    await refused('odd.stl', stl, 'promises 80000000 triangles and holds 1')
  })
})

describe('a model that names what it does not hold', () => {
  it.each([
    ['a picture', { images: [{ uri: 'http://localhost/seen.png' }], textures: [{ source: 0 }] }],
    ['a picture without a protocol', { images: [{ uri: '//localhost/seen.png' }] }],
    ['a file', { images: [{ uri: 'file:///seen.png' }] }],
    ['a buffer', { buffers: [{ byteLength: 36, uri: 'https://localhost/seen.bin' }] }],
    ['whatever an extension names', { extensions: { SOME_sound: { sounds: [{ uri: 'http://localhost/seen.mp3' }] } } }],
  ])('is refused: %s', (_, part) => refused('calls.glb', glb(part as object), 'nothing is fetched'))

  it('has nothing fetched, though it were drawn unread', async () => {
    let asked = 0
    const server = createServer((_, response) => {
      asked++
      response.end()
    })
    await new Promise<void>((resolve) => server.listen(0, resolve))
    const { port } = server.address() as AddressInfo
    const calls = glb({
      images: [{ uri: `http://localhost:${port}/seen.png` }],
      textures: [{ source: 0 }],
      materials: [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 }, material: 0 }] }],
      buffers: [{ byteLength: 36 }, { byteLength: 4, uri: `http://localhost:${port}/seen.bin` }],
    } as object)
    const { readScene } = await import('@/render/models/read-scene')
    // Node decodes no pictures: what matters is that nobody asked for any.
    await readScene(calls).catch(() => {})
    expect(asked).toBe(0)
    await new Promise((resolve) => server.close(resolve))
  })
})

/** A value in a document, replaced by another one. */
function replaced(value: unknown, path: number, by: unknown): unknown {
  let left = path
  const walk = (each: unknown): unknown => {
    if (left-- === 0) return by
    if (Array.isArray(each)) return each.map(walk)
    if (typeof each === 'object' && each !== null)
      return Object.fromEntries(Object.entries(each).map(([key, held]) => [key, walk(held)]))
    return each
  }
  return walk(value)
}

describe('models that were tampered with', () => {
  it('are read or refused in words, within bounds of memory', async () => {
    const models = [glb(), await mooringBuoyModel(), await capstanModel()].map((bytes) => openGlb('whole.glb', bytes))
    const odd = fc.oneof(
      fc.constantFrom<unknown>(null, true, '', 'x', [], {}, -1, 0, 1, 2.5, 7, 255, 65_535, 2 ** 31, 2 ** 53, 1e300, -0),
      fc.integer(),
      fc.string({ maxLength: 8 }),
    )
    const counts = { read: 0, refused: 0 }
    let most = 0
    await fc.assert(
      fc.asyncProperty(fc.nat(2), fc.nat(400), odd, fc.nat(64), async (which, path, by, cut) => {
        const { json, bin } = models[which] as (typeof models)[number]
        const bytes = makeGlb(replaced(json, 1 + path, by) as GltfJson, bin.subarray(0, bin.length - cut))
        const outcome = await reading('odd.glb', bytes).catch((error: unknown) => error)
        if (outcome instanceof Error) {
          expect(outcome, String(outcome.stack)).toBeInstanceOf(ModelError)
          expect(outcome.message).toMatch(/^odd\.glb |^“|^A part /)
          counts.refused++
        } else counts.read++
        most = Math.max(most, process.memoryUsage().arrayBuffers)
      }),
      { numRuns: 600 },
    )
    process.stdout.write(
      `models tampered with: ${counts.read} read, ${counts.refused} refused, ${Math.round(most / 1e6)} MB of buffers at the most\n`,
    )
    expect(counts.read).toBeGreaterThan(60)
    expect(counts.refused).toBeGreaterThan(60)
    expect(most).toBeLessThan(512 * 1024 * 1024)
  })
})
