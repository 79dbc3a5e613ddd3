import { changeLoopClock } from '../../closing'
import type { Loop } from '../../document'
import { newId } from '../../id'
import type { Brief } from '../edit'
import { partVariant } from '../vary'

/** A loop that answers a brief, begun with another one: all that is in it, in the frame and the time that are asked for, with its cycles kept. */
export function begunWith(own: Loop, brief: Brief, id = newId()): Loop {
  const { name, kind, width, height, background, rate, length } = brief
  const { loop } = changeLoopClock(partVariant(own), { rate, length }, 'cycles')
  return { ...loop, id, name, kind, width, height, background }
}
