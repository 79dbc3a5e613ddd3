import type { Layer, Loop } from '../document'
import { newLayer } from '../edit'
import { evenly, type Motion } from '../motion'
import { quay } from './quay'

/** A polygon that turns evenly. */
export const turning = (name: string, motion: Partial<Motion>, values = {}): Layer => ({
  ...newLayer('polygon', name, { x: 5, y: 5, radius: 4, corners: 3, ...values }, name),
  motions: { rotation: { ...evenly(360), ...motion } },
})
/** A drum of three corners that turns twice, and a wheel of four that turns once. */
export const sheet: Loop = {
  ...quay,
  length: 60,
  layers: [turning('drum', { period: { cycles: 2 } }), turning('wheel', {}, { corners: 4 })],
}
