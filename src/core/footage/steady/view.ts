/**
 * Where a place of one picture lies in another, as a homography: the nine numbers of a 3 × 3 matrix, row by row, the last of them 1. Places are
 * counted from the middle, in widths of the picture.
 */
export type SceneView = readonly number[]

export const SAME_VIEW: SceneView = [1, 0, 0, 0, 1, 0, 0, 0, 1]

/** Where a place lies as a view has it. */
export function seenAt(view: SceneView, x: number, y: number): readonly [number, number] {
  const [a, b, c, d, e, f, g, h, i] = view as [number, number, number, number, number, number, number, number, number]
  const w = g * x + h * y + i
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w]
}

/** First by the second view, then by the first. */
export function composed(first: SceneView, second: SceneView): SceneView {
  const product = Array.from({ length: 9 }, (_, at) => {
    const row = Math.floor(at / 3)
    const column = at % 3
    let sum = 0
    for (let k = 0; k < 3; k++) sum += first[3 * row + k] * second[3 * k + column]
    return sum
  })
  const last = product[8]
  return product.map((value) => value / last)
}

/** The way back. */
export function inverseView(view: SceneView): SceneView {
  const [a, b, c, d, e, f, g, h, i] = view as [number, number, number, number, number, number, number, number, number]
  const back = [
    ...[e * i - f * h, c * h - b * i, b * f - c * e],
    ...[f * g - d * i, a * i - c * g, c * d - a * f],
    ...[d * h - e * g, b * g - a * h, a * e - b * d],
  ]
  const last = back[8]
  return back.map((value) => value / last)
}

/** How far a view moves the corners of a picture at the most, in its widths. */
export function movedBy(view: SceneView, aspect: number): number {
  let most = 0
  for (const x of [-0.5, 0.5])
    for (const y of [-aspect / 2, aspect / 2]) {
      const [sx, sy] = seenAt(view, x, y)
      most = Math.max(most, Math.hypot(sx - x, sy - y))
    }
  return most
}
