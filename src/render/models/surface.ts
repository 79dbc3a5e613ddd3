import { NeutralToneMapping, PCFShadowMap, type Texture, WebGLRenderer } from 'three'
import { surroundings } from './surround'

/** Drawing context shared by all models of a page or worker: a browser gives only a few. */
export interface DrawingSurface {
  readonly renderer: WebGLRenderer
  readonly canvas: OffscreenCanvas
  /** Environment map for light and reflections. */
  readonly surround: Texture
  /** Key of the picture on the canvas, if that can be asked for again. */
  shows: string | null
}

let surface: DrawingSurface | null = null

/** The surface, at a size in px where one is asked for. A context that was lost is made anew. @throws Error where there is no WebGL 2 */
export function surfaceAt(width?: number, height = width): DrawingSurface {
  if (surface?.renderer.getContext().isContextLost()) {
    surface.renderer.dispose()
    surface = null
  }
  surface ??= makeSurface()
  const { canvas, renderer } = surface
  if (width !== undefined && height !== undefined && (canvas.width !== width || canvas.height !== height))
    renderer.setSize(width, height, false)
  return surface
}

function makeSurface(): DrawingSurface {
  const canvas = new OffscreenCanvas(1, 1)
  const context = canvas.getContext('webgl2', {
    alpha: true,
    antialias: true,
    premultipliedAlpha: true,
    preserveDrawingBuffer: true,
  })
  if (!context)
    throw new Error(
      'This browser gives no WebGL 2, which models are drawn with. The loop stays as it is; open it in a browser that has it, or hide its models.',
    )
  const renderer = new WebGLRenderer({ canvas, context: context as WebGL2RenderingContext, alpha: true })
  renderer.setPixelRatio(1)
  renderer.toneMapping = NeutralToneMapping
  renderer.shadowMap.enabled = true
  renderer.shadowMap.type = PCFShadowMap
  return { renderer, canvas, surround: surroundings(), shows: null }
}
