import { Group, LoadingManager, Mesh, type Object3D, type SkinnedMesh } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import type { DrawnModel, ModelPiece } from './model'
import { DrawnScene } from './scene'

/** A model may load only what it holds itself. */
const withinIt = new LoadingManager()
withinIt.setURLModifier((url) => (/^(blob|data):/i.test(url) ? url : 'data:,'))

/** Reads a GLB that has been checked; whatever it names, nothing is fetched. @throws Error where it cannot be read */
export async function readScene(bytes: Uint8Array<ArrayBuffer>): Promise<DrawnModel> {
  const { scene, parser } = await new GLTFLoader(withinIt).parseAsync(bytes.buffer, '')
  const nodes = new Map<number, Object3D>()
  const pieces: ModelPiece[] = []
  scene.updateMatrixWorld(true)
  const walk = (object: Object3D, node: number) => {
    const own = (parser.associations.get(object) as { nodes?: number } | undefined)?.nodes ?? node
    if (own !== node) nodes.set(own, object)
    for (const child of [...object.children]) walk(child, own)
    const still = (object as SkinnedMesh).isSkinnedMesh ? atRest(object as SkinnedMesh) : object
    if ((still as Mesh).isMesh) {
      const mesh = still as Mesh
      if (!mesh.geometry.getAttribute('normal')) mesh.geometry.computeVertexNormals()
      pieces.push({ mesh, material: mesh.material, node: own })
    } else if (still !== scene && !(still instanceof Group) && still.children.length === 0) still.visible = false
  }
  walk(scene, -1)
  return new DrawnScene(scene, nodes, pieces)
}

/** A mesh with a skeleton as it stands before that moves: it is drawn as its file has it, and turns as one. */
function atRest(skinned: SkinnedMesh): Mesh {
  const mesh = new Mesh(skinned.geometry, skinned.material)
  mesh.name = skinned.name
  mesh.matrix.copy(skinned.matrix)
  mesh.matrix.decompose(mesh.position, mesh.quaternion, mesh.scale)
  for (const child of [...skinned.children]) mesh.add(child)
  skinned.parent?.add(mesh)
  skinned.parent?.remove(skinned)
  return mesh
}
