import { boundNumber } from '../bounds'
import type { Layer } from '../document'
import { valuesAt } from '../evaluate'
import { amountsOf, layerKind } from '../layers'
import { keyedTogether, MAX_SAMPLES, type Motion, mixNumbers, motionValue, sampledMotions } from '../motion'
import { compose, type Matrix, type Point, transformPoint } from '../path'
import { setMotion } from './keys'
import { mapProperty } from './keys-many'

/** Whether x and y of a layer are px of the frame: those of a part of a model are shares of its size, in space. */
export const standsInFrame = ({ kind }: Layer): boolean => {
  const { x } = layerKind(kind).properties
  return x !== undefined && amountsOf(x).unit === 'px'
}

/** Whether a layer moves over the stage. */
export const movesAbout = (layer: Layer): boolean =>
  standsInFrame(layer) && (layer.motions.x !== undefined || layer.motions.y !== undefined)

/** Where the pivot of a layer is at some frames, in its parent's coordinates. */
export const motionPath = (layer: Layer, frames: readonly number[], length: number): Point[] =>
  frames.map((frame) => {
    const { x, y, pivotX, pivotY } = valuesAt(layer, frame, length)
    return { x: Number(x) + Number(pivotX), y: Number(y) + Number(pivotY) }
  })

/** A layer with the whole path of its motion moved, every key of it. */
export const movePath = (layer: Layer, dx: number, dy: number): Layer =>
  mapProperty(
    mapProperty(layer, 'x', (x) => x + dx),
    'y',
    (y) => y + dy,
  )

/**
 * A layer with the whole path of its motion turned and scaled about its point at a frame. Motions of x and y that do not
 * have their keys together get one on every frame first, since a turn mixes them.
 */
export function turnPath(layer: Layer, degrees: number, factor: number, frame: number, length: number): Layer {
  const { x: px, y: py } = valuesAt(layer, frame, length)
  const centre = { x: Number(px), y: Number(py) }
  const angle = (degrees * Math.PI) / 180
  const cos = factor * Math.cos(angle)
  const sin = factor * Math.sin(angle)
  const turn: Matrix = compose([cos, sin, -sin, cos, centre.x, centre.y], [1, 0, 0, 1, -centre.x, -centre.y])
  const still = (name: 'x' | 'y'): Motion<number> => {
    const own = layer.motions[name] as Motion<number> | undefined
    const other = layer.motions[name === 'x' ? 'y' : 'x'] as Motion<number>
    return own ?? { ...other, keys: other.keys.map((key) => ({ ...key, value: Number(layer.values[name]) })) }
  }
  const pair = [still('x'), still('y')]
  const plain = pair.every(({ after }) => after !== 'accumulate')
  const period = (motion: Motion) => ('cycles' in motion.period ? length / motion.period.cycles : motion.period.frames)
  const together = keyedTogether(pair) && plain ? pair : sampledAlike(pair, length, period(pair[0] as Motion))
  const [xs, ys] = together as [Motion<number>, Motion<number>]
  const turned = xs.keys.map((key, i) => transformPoint(turn, { x: key.value, y: ys.keys[i]?.value ?? 0 }))
  const put = (motion: Motion<number>, name: 'x' | 'y'): Motion => ({
    ...motion,
    keys: motion.keys.map((key, i) => ({ ...key, value: boundNumber(turned[i]?.[name] ?? key.value) })),
  })
  return setMotion(setMotion(layer, 'x', put(xs, 'x')), 'y', put(ys, 'y'))
}

/** Two motions with keys at the same places: those of one cycle where both have the same, or of the whole loop. */
function sampledAlike(pair: readonly Motion<number>[], length: number, period: number): Motion<number>[] {
  const [a, b] = pair
  const alike = a && b && JSON.stringify([a.period, a.after, a.phase]) === JSON.stringify([b.period, b.after, b.phase])
  if (alike && a.after !== 'accumulate') return sampledMotions(pair, period)
  const count = Math.min(MAX_SAMPLES, length)
  return pair.map((motion) => ({
    after: 'repeat' as const,
    period: { cycles: 1 },
    phase: 0,
    keys: Array.from({ length: count }, (_, n) => ({
      at: n / count,
      value: boundNumber(motionValue(motion, (n * length) / count, length, mixNumbers)),
      ease: 'linear',
    })),
  }))
}
