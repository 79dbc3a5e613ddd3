import { MAX_LENGTH } from '../clock'
import type { Layer, Loop } from '../document'
import { changeLayer, findLayer, withColours } from '../document'
import { layerKind, unitText } from '../layers'
import { type Motion, type MovingValue, periodFrames, type Remedy, remedies } from '../motion'
import { checkedMotion, motionReport } from './closing'
import { copiesToFill } from './ends'
import { foldOf } from './fitting'
import { repeatLoop } from './timing'

/** A way to bring a motion of a loop home. */
export interface LoopRemedy extends Remedy<MovingValue> {
  /** Number of times the loop is put after itself first: everything else keeps its pace. */
  readonly times?: number
}

/** The remedies for a motion of a loop that does not come home, repeats a frame or hesitates; the first is the plainest. */
export function motionRemedies(loop: Loop, layerId: string, name: string): LoopRemedy[] {
  const { length } = loop
  const layer = findLayer(loop, layerId)
  if (!layer?.motions[name]) return []
  const { property, motion, moving, reduction } = checkedMotion(layer, name, length)
  const fill = name === layerKind(layer.kind).repeats?.along ? fillRemedy(loop, layer, name, motion) : []
  return [
    ...fill,
    ...remedies(motion, length, moving, unitText(property), reduction),
    ...longerRemedy(loop, layer, name, motion),
  ]
}

/** A loop may become at most this many times as long to bring one motion home. */
const MAX_TIMES = 720

/** The shortest length at which the motion comes home at its own pace; checked before it is offered. */
function longerRemedy(loop: Loop, layer: Layer, name: string, motion: Motion): LoopRemedy[] {
  const report = motionReport(loop, layer.id, name)
  if (!report || report.home || motion.after === 'once') return []
  const frames = periodFrames(motion.period, loop.length)
  const every = Math.max(1, Math.round(1 / foldOf(report)))
  const most = Math.min(MAX_TIMES, Math.floor(MAX_LENGTH / loop.length))
  for (let times = 2; times <= most; times++) {
    const cycles = (times * loop.length) / frames
    const whole = Math.round(cycles)
    if (whole < 1 || Math.abs(cycles - whole) > 1e-6 || whole % every !== 0) continue
    const remedy: LoopRemedy = {
      kind: 'longer',
      label: `Make the loop ${times * loop.length} f long: ${whole} cycles of ${Number(frames.toFixed(3))} f, and everything else ${times} times`,
      motion: { ...motion, period: { cycles: whole } },
      times,
    }
    const longer = motionReport(withRemedy(loop, layer.id, name, remedy), layer.id, name)
    return longer?.home && !longer.repeatsFrame ? [remedy] : []
  }
  return []
}

/** More copies, so that nobody sees a row's ends; checked before it is offered. */
function fillRemedy(loop: Loop, layer: Layer, name: string, motion: Motion): LoopRemedy[] {
  const report = motionReport(loop, layer.id, name)
  const values = report?.ends ? copiesToFill(withColours(loop), layer) : null
  if (!values) return []
  const filled = changeLayer(loop, layer.id, (each) => ({ ...each, values: { ...each.values, ...values } }))
  if (motionReport(filled, layer.id, name)?.ends !== null) return []
  const { repeats } = layerKind(layer.kind)
  const [before, after] = [layer.values, { ...layer.values, ...values }].map((each) => repeats?.row(each))
  if (!before || !after) return []
  return [
    {
      kind: 'fill',
      label: `Copies to fill the frame: ${after.count} ${after.what} instead of ${before.count}, so that both ends lie outside it`,
      motion,
      values: values as Remedy['values'],
    } as LoopRemedy,
  ]
}

/** A loop with a remedy for one of its motions taken. */
export function withRemedy(loop: Loop, layerId: string, name: string, { motion, values, times = 1 }: LoopRemedy): Loop {
  return changeLayer(repeatLoop(loop, times), layerId, (layer) => ({
    ...layer,
    values: { ...layer.values, ...values },
    motions: { ...layer.motions, [name]: motion },
  }))
}
