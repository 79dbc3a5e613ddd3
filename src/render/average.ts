import type { Picture } from '@/core/image'

/** The mean of pictures of one size; colours count by how opaque they are. */
export class Average {
  private readonly sums: Float64Array
  private count = 0

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.sums = new Float64Array(width * height * 4)
  }

  add({ data }: Pick<Picture, 'data'>): void {
    const { sums } = this
    for (let i = 0; i < data.length; i += 4) {
      const alpha = data[i + 3]
      if (alpha === 0) continue
      sums[i] += data[i] * alpha
      sums[i + 1] += data[i + 1] * alpha
      sums[i + 2] += data[i + 2] * alpha
      sums[i + 3] += alpha
    }
    this.count++
  }

  picture(): Picture {
    const { sums, count, width, height } = this
    const data = new Uint8ClampedArray(sums.length)
    for (let i = 0; i < data.length; i += 4) {
      const alpha = sums[i + 3]
      if (alpha === 0) continue
      for (let c = 0; c < 3; c++) data[i + c] = sums[i + c] / alpha
      data[i + 3] = alpha / count
    }
    return { width, height, data }
  }
}
