import {
  Color,
  DataTexture,
  DirectionalLight,
  Group,
  HemisphereLight,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PCFShadowMap,
  PerspectiveCamera,
  PlaneGeometry,
  Scene,
  ShadowMaterial,
  Vector3,
  WebGLRenderer,
} from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import type { ModelNode } from '../src/core/display'
import { parseLoop } from '../src/core/document'
import { evaluate } from '../src/core/evaluate'
import { readScene } from '../src/render/models/read-scene'
import { surfaceAt } from '../src/render/models/surface'

/**
 * Times in ms: a frame drawn by the application, and the same scene in a plain loop of three.js, in the same worker,
 * alternating.
 */
export interface ModelTimes {
  readonly ours: number
  readonly bare: number
  readonly first: number
}

const WIDTH = 960
const HEIGHT = 720
const RUNS = 9
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1] as number

/** The scene as anybody would write it: the same lights, shadow, camera and turn, and nothing else. */
async function bareLoop(glb: Uint8Array<ArrayBuffer>, first: ModelNode) {
  const canvas = new OffscreenCanvas(WIDTH, HEIGHT)
  const renderer = new WebGLRenderer({ canvas, alpha: true, antialias: true, preserveDrawingBuffer: true })
  renderer.setSize(WIDTH, HEIGHT, false)
  renderer.toneMapping = surfaceAt(WIDTH, HEIGHT).renderer.toneMapping
  renderer.shadowMap.enabled = true
  renderer.shadowMap.type = PCFShadowMap
  const { scene } = await new GLTFLoader().parseAsync(glb.slice().buffer, '')
  const world = new Scene()
  const turning = new Group()
  turning.matrixAutoUpdate = false
  turning.add(scene)
  scene.traverse((object) => {
    object.castShadow = true
    object.receiveShadow = true
  })
  world.environment = surfaceAt(WIDTH, HEIGHT).surround
  world.add(turning, new HemisphereLight(new Color('#dfe9ee'), new Color('#445'), 0.5))
  for (const [i, { around, height, strength, colour }] of first.look.lights.entries()) {
    const a = (around * Math.PI) / 180
    const h = (height * Math.PI) / 180
    const light = new DirectionalLight(colour, strength)
    light.position.set(Math.sin(a) * Math.cos(h), Math.sin(h), Math.cos(a) * Math.cos(h)).multiplyScalar(4 * first.size)
    light.castShadow = i === 0
    light.shadow.mapSize.set(1024, 1024)
    world.add(light)
  }
  const ground = new Mesh(new PlaneGeometry(24 * first.size, 24 * first.size), new ShadowMaterial({ opacity: 0.35 }))
  ground.rotation.x = -Math.PI / 2
  ground.receiveShadow = true
  world.add(ground)
  // Objects close to the ground darken it: a small soft picture, as in the application.
  const shade = new Mesh(
    new PlaneGeometry(1, 1),
    new MeshBasicMaterial({
      map: new DataTexture(new Uint8Array(4 * 128 * 128).fill(40), 128, 128),
      transparent: true,
      depthWrite: false,
    }),
  )
  shade.rotation.x = -Math.PI / 2
  shade.scale.setScalar(2.6 * first.size * 0.6)
  ;(shade.material.map as DataTexture).needsUpdate = true
  world.add(shade)
  const { from, at, up, fieldOfView } = first.camera
  const camera = new PerspectiveCamera(
    ((fieldOfView ?? 1) * 180) / Math.PI,
    WIDTH / HEIGHT,
    0.01 * first.size,
    60 * first.size,
  )
  camera.position.set(...from)
  camera.up.set(...up)
  camera.lookAt(new Vector3(...at))
  return ({ placement }: ModelNode) => {
    turning.matrix.copy(new Matrix4().fromArray([...placement]))
    renderer.render(world, camera)
    return canvas
  }
}

self.onmessage = async ({ data: [json, bytes] }: MessageEvent<[string, Uint8Array<ArrayBuffer>]>) => {
  const loop = parseLoop(json)
  const nodeAt = (n: number) => evaluate(loop, n).nodes[0] as ModelNode
  const scratch = new OffscreenCanvas(WIDTH, HEIGHT).getContext('2d', { willReadFrequently: true })
  const took = (draw: () => CanvasImageSource) => {
    const from = performance.now()
    scratch?.drawImage(draw(), 0, 0)
    // One pixel read back makes sure that it has been drawn.
    scratch?.getImageData(0, 0, 1, 1)
    return performance.now() - from
  }
  const began = performance.now()
  const scene = await readScene(bytes)
  took(() => scene.draw(nodeAt(0), WIDTH, HEIGHT))
  const first = performance.now() - began
  const bare = await bareLoop(bytes, nodeAt(0))
  took(() => bare(nodeAt(0)))
  const [ours, theirs]: [number[], number[]] = [[], []]
  for (let n = 1; n <= RUNS; n++) {
    ours.push(took(() => scene.draw(nodeAt(n), WIDTH, HEIGHT)))
    theirs.push(took(() => bare(nodeAt(n))))
  }
  const times: ModelTimes = { ours: median(ours), bare: median(theirs), first }
  self.postMessage(times)
}
