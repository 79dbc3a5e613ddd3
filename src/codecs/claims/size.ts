import { MAX_PIXELS } from '@/core/image'
import { checkSize } from './claims'

interface Size {
  readonly width: number
  readonly height: number
}

/** Markers of JPEG that begin a frame (ITU-T T.81, table B.1): all from C0 to CF but three. */
const isFrame = (marker: number) => marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)

function jpegSize(view: DataView): Size | null {
  for (let at = 2; at + 9 <= view.byteLength; ) {
    const marker = view.getUint8(at) === 0xff ? view.getUint8(at + 1) : 0xff
    if (isFrame(marker)) return { width: view.getUint16(at + 7), height: view.getUint16(at + 5) }
    // Decoders skip fill bytes, and anything else between two markers. Every segment before the frame has a length.
    at += marker === 0xff ? 1 : 2 + view.getUint16(at + 2)
  }
  return null
}

/** The largest picture that an AVIF says it holds (ISO/IEC 23008-12, 6.5.3). */
function avifSize(bytes: Uint8Array, view: DataView): Size | null {
  let largest: Size | null = null
  for (let at = 0; at + 16 <= bytes.length; at++) {
    if (bytes[at] !== 0x69 || view.getUint32(at) !== 0x69737065) continue
    const size = { width: view.getUint32(at + 8), height: view.getUint32(at + 12) }
    if (!largest || size.width * size.height > largest.width * largest.height) largest = size
  }
  return largest
}

function webpSize(view: DataView): Size | null {
  if (view.byteLength < 30) return null
  const u24 = (at: number) => view.getUint16(at, true) | (view.getUint8(at + 2) << 16)
  const kind = view.getUint8(15)
  if (kind === 0x58) return { width: u24(24) + 1, height: u24(27) + 1 }
  if (kind === 0x20) return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff }
  const packed = view.getUint32(21, true)
  return { width: (packed & 0x3fff) + 1, height: ((packed >> 14) & 0x3fff) + 1 }
}

/** Size in px from the header of a PNG, GIF, WebP, JPEG or AVIF picture, without decoding it; null for other files, and where the header breaks off. */
export function claimedSize(bytes: Uint8Array): Size | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 24) return null
  const begins = view.getUint32(0)
  if (begins === 0x89504e47) return { width: view.getUint32(16), height: view.getUint32(20) }
  if (begins === 0x47494638) return { width: view.getUint16(6, true), height: view.getUint16(8, true) }
  if (begins === 0x52494646) return webpSize(view)
  if (begins >>> 16 === 0xffd8) return jpegSize(view)
  return view.getUint32(4) === 0x66747970 ? avifSize(bytes, view) : null
}

/** Checks the size in the header of a picture before it is decoded. @throws ClipError above `MAX_PIXELS` */
export function refuseHuge(bytes: Uint8Array, format: string): void {
  const size = claimedSize(bytes)
  if (size && size.width * size.height > MAX_PIXELS) checkSize(size.width, size.height, format)
}

/** Whether the header of a picture agrees with a size, px. Width and height may be exchanged, since a JPEG may be shown turned; true where the header gives no size. */
export function hasSides(bytes: Uint8Array, { width, height }: Size): boolean {
  const size = claimedSize(bytes)
  if (!size) return true
  const sides = [size.width, size.height]
  return (sides[0] === width && sides[1] === height) || (sides[0] === height && sides[1] === width)
}
