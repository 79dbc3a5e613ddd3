import type { Clock } from '@/core/clock'
import { changeLayer } from '@/core/document'
import { setMotion } from '@/core/edit'
import type { Property } from '@/core/layers'
import type { Motion } from '@/core/motion'
import { beginGesture, changeLoop, endGesture } from '@/store/document'

/** A motion of a layer. Nothing else of the layer is in it, so that what shows it stays when another value changes. */
export interface MotionOf {
  readonly clock: Clock
  readonly layerId: string
  readonly name: string
  readonly property: Property
  readonly motion: Motion
}

/** Changes a motion of the open loop. */
export const changeMotion = (
  { layerId, name }: Pick<MotionOf, 'layerId' | 'name'>,
  change: (motion: Motion, length: number) => Motion,
) =>
  changeLoop((loop) =>
    changeLayer(loop, layerId, (each) => {
      const motion = each.motions[name]
      return motion ? setMotion(each, name, change(motion, loop.length)) : each
    }),
  )

/** Makes one step of the history of what is changed between the two. */
export const gesture = (phase: 'begin' | 'end') => (phase === 'begin' ? beginGesture() : endGesture())
