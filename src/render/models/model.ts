import type { Mesh } from 'three'
import type { ModelNode } from '@/core/display'

/** A model that has been read and can be drawn at once. */
export interface DrawnModel {
  /** The model as a node shows it, at a size in px, with a picture on its ground; valid until anything else is drawn. @throws Error where there is no WebGL */
  readonly draw: (node: ModelNode, width: number, height: number, ground?: ImageBitmap) => CanvasImageSource
  /**
   * The same in numbers, red, green, blue and alpha of each pixel from the top, not multiplied by alpha; of a pass that is not its colours.
   * @param measured depth in units of the model and normals from −1 to 1, each as one spot of its pixel has it; else from 0 to 1, with smooth edges
   */
  readonly deep: (node: ModelNode, width: number, height: number, measured: boolean) => Float32Array<ArrayBuffer>
  /** Works out how much of the sky each spot of the surface sees, where that is not known. */
  readonly bakeOcclusion: () => Promise<void>
  readonly dispose: () => void
}

/** A part of a model as the renderer has it. */
export interface ModelPiece {
  readonly mesh: Mesh
  readonly material: Mesh['material']
  /** The node of the file that it belongs to. */
  readonly node: number
}
