/** A linear share of light as sRGB has it (IEC 61966-2-1). */
export const encoded = (x: number): number => (x <= 0.0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - 0.055)

/** Takes the mean of squares of pixels, of rows that begin at the bottom; what comes out begins at the top, and is not multiplied by alpha. */
export function reduced(
  read: Float32Array,
  {
    across,
    rows,
    times,
    count,
  }: { readonly across: number; readonly rows: number; readonly times: number; readonly count: number },
  into: Float32Array,
): void {
  const width = across / times
  for (let y = 0; y < count; y++)
    for (let x = 0; x < width; x++) {
      const at = 4 * (y * width + x)
      for (let k = 0; k < 4; k++) {
        let sum = 0
        for (let dy = 0; dy < times; dy++)
          for (let dx = 0; dx < times; dx++)
            sum += read[4 * ((rows - 1 - times * y - dy) * across + times * x + dx) + k]
        into[at + k] = sum / times ** 2
      }
      const alpha = into[at + 3]
      if (alpha > 0) for (let k = 0; k < 3; k++) into[at + k] /= alpha
    }
}
