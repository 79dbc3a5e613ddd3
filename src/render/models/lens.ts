import { type PerspectiveCamera, type Scene, Vector3 } from 'three'
import type { ModelNode } from '@/core/display'
import { Average } from '../average'
import { surfaceAt } from './surface'

/** Moments of the lens by which what is out of focus is blurred. */
const LENS_SAMPLES = 16

/** The mean of what different spots of the lens see; what lies in the plane of focus stays where it is. */
export function throughLens(
  node: ModelNode,
  world: Scene,
  camera: PerspectiveCamera,
  width: number,
  height: number,
): CanvasImageSource {
  const { renderer, canvas } = surfaceAt(width, height)
  const average = new Average(width, height)
  const scratch = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!scratch) throw new Error('This browser gives no 2D canvas. Cyclon needs one to draw.')
  const home = camera.position.clone()
  const distance = home.length() - node.look.focus * node.size
  const radius = node.look.aperture * distance
  const seen = 2 * distance * Math.tan((camera.fov * Math.PI) / 360)
  const [right, up] = [new Vector3(1, 0, 0), new Vector3(0, 1, 0)].map((v) => v.applyQuaternion(camera.quaternion)) as [
    Vector3,
    Vector3,
  ]
  for (let i = 0; i < LENS_SAMPLES; i++) {
    // Spread over a disc by the golden angle.
    const r = radius * Math.sqrt((i + 0.5) / LENS_SAMPLES)
    const a = i * Math.PI * (3 - Math.sqrt(5))
    const x = r * Math.cos(a)
    const y = r * Math.sin(a)
    camera.position.copy(home).addScaledVector(right, x).addScaledVector(up, y)
    camera.setViewOffset(width, height, (-x / seen) * height, (y / seen) * height, width, height)
    renderer.render(world, camera)
    scratch.clearRect(0, 0, width, height)
    scratch.drawImage(canvas, 0, 0)
    average.add(scratch.getImageData(0, 0, width, height))
  }
  camera.clearViewOffset()
  const image = scratch.createImageData(width, height)
  image.data.set(average.picture().data)
  scratch.putImageData(image, 0, 0)
  return scratch.canvas
}
