import { type DisplayNode, heldIn, type ModelNode } from '@/core/display'
import type { Loop } from '@/core/document'
import { evaluate, exposures } from '@/core/evaluate'
import type { DeepPicture } from '@/core/image'
import { boxAround, boxCorners, compose, invert, type Matrix, transformPoint } from '@/core/path'
import { tilePixels } from '../painters/tile'
import { MissingPicture, prepare } from '../prepare'
import { modelAtHand } from './at-hand'

/** Models in what is drawn, with where each lies and how much of it is seen. */
function* placedModels(
  nodes: readonly DisplayNode[],
  outer: Matrix,
  seen: number,
): Generator<{ readonly node: ModelNode; readonly matrix: Matrix; readonly opacity: number }> {
  for (const node of nodes) {
    const matrix = compose(outer, node.transform)
    const opacity = seen * node.opacity
    if (node.type === 'model') yield { node, matrix, opacity }
    else yield* placedModels(heldIn(node), matrix, opacity)
  }
}

/** Lays a model over a picture whose colours are multiplied by alpha. Measured numbers are not mixed: the nearest one is taken. */
function lay(
  onto: DeepPicture,
  over: DeepPicture,
  box: ModelNode['box'],
  matrix: Matrix,
  opacity: number,
  measured: boolean,
) {
  const back = invert(matrix)
  const around = boxAround(boxCorners(box).map((corner) => transformPoint(matrix, corner)))
  if (!back || !around) return
  const left = Math.max(0, Math.floor(around.x))
  const top = Math.max(0, Math.floor(around.y))
  const right = Math.min(onto.width, Math.ceil(around.x + around.width))
  const bottom = Math.min(onto.height, Math.ceil(around.y + around.height))
  const sample = new Float32Array(4)
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const at = transformPoint(back, { x: x + 0.5, y: y + 0.5 })
      const u = ((at.x - box.x) / box.width) * over.width - 0.5
      const v = ((at.y - box.y) / box.height) * over.height - 0.5
      if (measured) nearest(over, u, v, sample)
      else between(over, u, v, sample)
      // A measure is there or not, however much of its layer is seen.
      const alpha = sample[3] * (measured && opacity > 0 ? 1 : opacity)
      if (alpha <= 0) continue
      const i = 4 * (y * onto.width + x)
      for (let k = 0; k < 3; k++) onto.data[i + k] = sample[k] * alpha + onto.data[i + k] * (1 - alpha)
      onto.data[i + 3] = alpha + onto.data[i + 3] * (1 - alpha)
    }
}

/** The pixel of a picture that a place lies in; clear outside of it. */
function nearest({ width, height, data }: DeepPicture, u: number, v: number, into: Float32Array): void {
  const x = Math.round(u)
  const y = Math.round(v)
  if (x < 0 || y < 0 || x >= width || y >= height) into.fill(0)
  else into.set(data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4))
  into[3] = into[3] >= 0.5 ? 1 : 0
}

/** Value at a place between pixels, by bilinear interpolation. */
function between({ width, height, data }: DeepPicture, u: number, v: number, into: Float32Array): void {
  const x = Math.floor(u)
  const y = Math.floor(v)
  into.fill(0)
  for (const [dx, dy] of CORNERS) {
    const weight = (dx ? u - x : 1 - u + x) * (dy ? v - y : 1 - v + y)
    const px = x + dx
    const py = y + dy
    if (weight <= 1e-6 || px < 0 || py < 0 || px >= width || py >= height) continue
    const i = 4 * (py * width + px)
    const alpha = weight * data[i + 3]
    for (let k = 0; k < 3; k++) into[k] += alpha * data[i + k]
    into[3] += alpha
  }
  const alpha = into[3]
  if (alpha > 0) for (let k = 0; k < 3; k++) into[k] /= alpha
}
const CORNERS = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const

/**
 * A frame of a loop of nothing but models, in numbers: what lies on them, such as masks and effects, is not part of it.
 * @param measured depth in units of the model and normals from −1 to 1, each as one spot of its pixel has it; else from 0 to 1, with smooth edges
 * @throws MissingPicture
 */
export async function deepPicture(
  loop: Loop,
  frame: number,
  width: number,
  height: number,
  measured: boolean,
): Promise<DeepPicture> {
  const prepared = await prepare(loop, frame)
  try {
    if (prepared.missing.length > 0)
      throw new MissingPicture(`A model that frame ${frame} shows is missing. Bring it in again, or hide its layer.`)
    const moments = measured ? [frame] : exposures(loop, frame)
    const sum = new Float32Array(4 * width * height)
    const fit: Matrix = [width / loop.width, 0, 0, height / loop.height, 0, 0]
    for (const moment of moments) {
      const one = { width, height, data: moments.length === 1 ? sum : new Float32Array(sum.length) }
      for (const { node, matrix, opacity } of placedModels(evaluate(loop, moment).nodes, fit, 1)) {
        const size = tilePixels(node.box.width, node.box.height, matrix)
        const data = modelAtHand(node.file)?.deep(node, size.width, size.height, measured)
        if (data) lay(one, { ...size, data }, node.box, matrix, opacity, measured)
      }
      if (one.data !== sum) for (let i = 0; i < sum.length; i++) sum[i] += one.data[i] / moments.length
    }
    for (let i = 0; i < sum.length; i += 4) {
      const alpha = sum[i + 3]
      if (alpha > 0) for (let k = 0; k < 3; k++) sum[i + k] /= alpha
    }
    return { width, height, data: sum }
  } finally {
    prepared.release()
  }
}
