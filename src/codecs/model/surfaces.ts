import type { Primitive } from '@gltf-transform/core'
import { type Picture, reducePicture } from '@/core/image'
import type { Looks, Surface } from '@/core/solid'
import type { GltfJson } from './glb'

/** Decodes a picture file of a texture; rejects where it cannot. */
export type DecodePicture = (bytes: Uint8Array<ArrayBuffer>, type: string) => Promise<Picture>

/** Textures are looked at no larger than this, px a side. */
const LOOKED_AT = 256

/** The material of every primitive of a file, by mesh and place in it, as surfaces of a mesh. */
export type Surfaces = (mesh: number, primitive: number) => Surface | undefined

/**
 * How the primitives of a glTF look (glTF 2.0, § 3.9). A texture whose pixels cannot be decoded is known by its coordinates alone.
 * @param decode reads the pictures of textures; none where it is left out
 */
export async function surfacesOf(json: GltfJson, bin: Uint8Array, decode?: DecodePicture): Promise<Surfaces> {
  const pictures = new Map<number, Picture | 'unread'>()
  for (const [i, { bufferView, mimeType = '' }] of (json.images ?? []).entries()) {
    const view = bufferView === undefined ? undefined : json.bufferViews?.[bufferView]
    const start = view?.byteOffset ?? 0
    const bytes = view && new Uint8Array(bin.subarray(start, start + view.byteLength))
    const picture = bytes && decode ? await decode(bytes, mimeType).catch(() => null) : null
    pictures.set(i, picture ? reducePicture(picture, LOOKED_AT) : 'unread')
  }
  const surfaces = (json.materials ?? []).map((material): Surface => {
    const { pbrMetallicRoughness: pbr = {}, emissiveFactor = [0, 0, 0] } = material
    const { baseColorFactor = [1, 1, 1, 1], metallicFactor = 1, roughnessFactor = 1, baseColorTexture } = pbr
    const image = baseColorTexture && json.textures?.[baseColorTexture.index]?.source
    return {
      factors: [...baseColorFactor, metallicFactor, roughnessFactor, ...emissiveFactor],
      texture: image === undefined ? null : (pictures.get(image) ?? 'unread'),
    }
  })
  return (mesh, primitive) => {
    const material = json.meshes?.[mesh]?.primitives?.[primitive]?.material
    return material === undefined ? undefined : surfaces[material]
  }
}

/** The looks of one primitive. */
export function looksOf(piece: Primitive, surface: Surface | undefined): Omit<Looks, 'ofTriangle'> | undefined {
  const coloured = piece.getAttribute('COLOR_0')
  if (!surface && !coloured) return undefined
  const placed = piece.getAttribute('TEXCOORD_0')
  const count = piece.getAttribute('POSITION')?.getCount() ?? 0
  const read = (attribute: typeof coloured, size: number): Float32Array | null => {
    if (!attribute) return null
    const out = new Float32Array(size * count)
    const element: number[] = []
    for (let i = 0; i < Math.min(count, attribute.getCount()); i++)
      out.set(attribute.getElement(i, element).slice(0, size), size * i)
    return out
  }
  return {
    surfaces: [surface ?? { factors: [1, 1, 1, 1, 1, 1, 0, 0, 0], texture: null }],
    coordinates: surface?.texture ? read(placed, 2) : null,
    colours: read(coloured, 3),
  }
}
