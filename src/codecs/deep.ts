import type { DeepPicture } from '@/core/image'
import { sixteenBits } from '@/core/image'

/** Rows from the bottom upwards, as three.js has them, or back. */
function turnedOver({ width, height, data }: DeepPicture): Float32Array<ArrayBuffer> {
  const out = new Float32Array(data.length)
  const row = 4 * width
  for (let y = 0; y < height; y++) out.set(data.subarray(y * row, (y + 1) * row), (height - 1 - y) * row)
  return out
}

/** A picture of numbers from 0 to 1 as a PNG of 16 bits a channel (PNG 3rd edition, § 11.2.1). */
export async function pngOf16Bits(picture: DeepPicture): Promise<Uint8Array<ArrayBuffer>> {
  const { encode } = await import('fast-png')
  const { width, height } = picture
  return new Uint8Array(encode({ width, height, data: sixteenBits(picture), depth: 16, channels: 4 }))
}

/** The samples of a PNG of 16 bits a channel. @throws Error where it is none */
export async function samplesOf16Bits(bytes: Uint8Array): Promise<Uint16Array> {
  const { decode } = await import('fast-png')
  const { data, depth, channels } = decode(bytes)
  if (depth !== 16 || channels !== 4 || !(data instanceof Uint16Array))
    throw new Error(`it has ${channels} channels of ${depth} bits`)
  return data
}

/** A picture of any numbers as OpenEXR: R, G, B and A as 32-bit floats, packed by ZIP. */
export async function exrOf(picture: DeepPicture): Promise<Uint8Array<ArrayBuffer>> {
  const [{ EXRExporter, ZIP_COMPRESSION }, { DataTexture, FloatType, RGBAFormat }] = await Promise.all([
    import('three/examples/jsm/exporters/EXRExporter.js'),
    import('three'),
  ])
  const { width, height } = picture
  const texture = new DataTexture(turnedOver(picture), width, height, RGBAFormat, FloatType)
  const bytes = await new EXRExporter().parse(texture, { type: FloatType, compression: ZIP_COMPRESSION })
  texture.dispose()
  return new Uint8Array(bytes)
}

/** Reads an OpenEXR file of four channels. @throws Error where it is none */
export async function exrRead(bytes: Uint8Array<ArrayBuffer>): Promise<DeepPicture> {
  const [{ EXRLoader }, { FloatType }] = await Promise.all([
    import('three/examples/jsm/loaders/EXRLoader.js'),
    import('three'),
  ])
  const read = new EXRLoader().setDataType(FloatType).parse(bytes.buffer as ArrayBuffer) as unknown as DeepPicture
  return { width: read.width, height: read.height, data: turnedOver(read) }
}
