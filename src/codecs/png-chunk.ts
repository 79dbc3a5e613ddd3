const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]

/** A PNG file of chunks. */
export function pngFile(chunks: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const file = new Uint8Array(chunks.reduce((sum, { length }) => sum + length, SIGNATURE.length))
  file.set(SIGNATURE)
  let at = SIGNATURE.length
  for (const each of chunks) {
    file.set(each, at)
    at += each.length
  }
  return file
}

const CRC = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c >>> 0
})

/** A chunk of a PNG file: its length, type, data and check sum (PNG 3rd edition, § 5.3). */
export function pngChunk(type: string, data: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(12 + data.length)
  const view = new DataView(bytes.buffer)
  view.setUint32(0, data.length)
  for (let i = 0; i < 4; i++) bytes[4 + i] = type.charCodeAt(i)
  bytes.set(data, 8)
  let crc = 0xffffffff
  for (let i = 4; i < 8 + data.length; i++) crc = (CRC[(crc ^ (bytes[i] as number)) & 255] as number) ^ (crc >>> 8)
  view.setUint32(8 + data.length, (crc ^ 0xffffffff) >>> 0)
  return bytes
}
