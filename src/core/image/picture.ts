/** The most pixels that a picture to be written or read may have. */
export const MAX_PIXELS = 8192 * 8192

/** Pixels of one frame: width·height·4 bytes, sRGB with straight alpha, row by row from the top. */
export interface Picture {
  readonly width: number
  readonly height: number
  readonly data: Uint8ClampedArray
}

/**
 * The pixels of a picture in words of four bytes, red the least, to be read: a view of the same memory wherever it begins at a
 * whole word. They have a sign, since only such words stay whole numbers while they are computed with.
 */
export function wordsOf({ data }: Picture): Int32Array {
  const bytes = data.byteOffset % 4 === 0 ? data : data.slice()
  return new Int32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4)
}

/**
 * How a difference is painted: what differs in each channel; how much, from black over red and yellow to white; or which of
 * the two is lighter, about mid-grey.
 */
export const DIFFERENCES = ['channels', 'heat', 'signed'] as const
export type DifferenceKind = (typeof DIFFERENCES)[number]

/**
 * Difference of two pictures of one size, times the gain; opaque. Channels: |a − b| in each, alpha included. Heat: the
 * largest of them. Signed: b − a on mid-grey, alpha on all three.
 * @throws RangeError when the sizes differ
 */
export function difference(a: Picture, b: Picture, gain: number, kind: DifferenceKind = 'channels'): Picture {
  if (a.width !== b.width || a.height !== b.height)
    throw new RangeError(`pictures of ${a.width}×${a.height} and ${b.width}×${b.height} px cannot be compared`)
  const data = new Uint8ClampedArray(a.data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alphaA = a.data[i + 3]
    const alphaB = b.data[i + 3]
    const alpha = alphaB - alphaA
    let most = 0
    for (let c = 0; c < 3; c++) {
      const seen = (b.data[i + c] * alphaB - a.data[i + c] * alphaA) / 255
      const signed = Math.abs(seen) > Math.abs(alpha) ? seen : alpha
      most = Math.max(most, Math.abs(signed))
      data[i + c] = kind === 'signed' ? 127.5 + signed * gain : Math.abs(signed) * gain
    }
    if (kind === 'heat') for (let c = 0; c < 3; c++) data[i + c] = 3 * most * gain - 255 * c
    data[i + 3] = 255
  }
  return { width: a.width, height: a.height, data }
}

/** Largest difference of any channel between two pictures of one size, 0 … 255. */
export function greatestDifference(a: Picture, b: Picture): number {
  const { data } = difference(a, b, 1)
  let greatest = 0
  for (let i = 0; i < data.length; i += 4) greatest = Math.max(greatest, data[i], data[i + 1], data[i + 2])
  return greatest
}

/** Whether no pixel of a picture is clear, not even in part. */
export function isOpaque({ data }: Picture): boolean {
  for (let i = 3; i < data.length; i += 4) if (data[i] < 255) return false
  return true
}
