import { type Layer, type Loop, MAX_DEPTH, MAX_LAYERS } from './document'

/** A layer with where it stands: the groups around it from the outside in, and its place among its siblings. */
export interface TreePlace {
  readonly layer: Layer
  readonly parents: readonly Layer[]
  readonly index: number
}

/** Every layer, back to front, groups before what they hold. */
export function* places(layers: readonly Layer[], parents: readonly Layer[] = []): Generator<TreePlace> {
  for (const [index, layer] of layers.entries()) {
    yield { layer, parents, index }
    if (layer.layers) yield* places(layer.layers, [...parents, layer])
  }
}

export const allLayers = (loop: Loop): Layer[] => [...places(loop.layers)].map(({ layer }) => layer)

export function findPlace(loop: Loop, id: string): TreePlace | undefined {
  for (const place of places(loop.layers)) if (place.layer.id === id) return place
  return undefined
}
export const findLayer = (loop: Loop, id: string): Layer | undefined => findPlace(loop, id)?.layer

/** The layers with `change` applied to the one called `id`; null removes it, several take its place. */
export function replaceLayer(
  layers: readonly Layer[],
  id: string,
  change: (layer: Layer) => Layer | readonly Layer[] | null,
): readonly Layer[] {
  let changed = false
  const next = layers.flatMap((layer) => {
    if (layer.id === id) {
      changed = true
      return change(layer) ?? []
    }
    if (!layer.layers) return layer
    const inner = replaceLayer(layer.layers, id, change)
    if (inner === layer.layers) return layer
    changed = true
    return { ...layer, layers: inner }
  })
  return changed ? next : layers
}

/** The loop with one layer changed; the same loop where no layer is called so. */
export function changeLayer(loop: Loop, id: string, change: (layer: Layer) => Layer): Loop {
  const layers = replaceLayer(loop.layers, id, change)
  return layers === loop.layers ? loop : { ...loop, layers }
}

/** The loop without the layers named. */
export const removeLayers = (loop: Loop, ids: readonly string[]): Loop => ({
  ...loop,
  layers: ids.reduce((layers, id) => replaceLayer(layers, id, () => null), loop.layers),
})

/** A changed loop, or the loop before where the change makes it hold too many layers, or groups too deep. */
export function withinLimits(changed: Loop, before: Loop): Loop {
  let count = 0
  let deepest = 0
  for (const { parents } of places(changed.layers)) {
    count++
    deepest = Math.max(deepest, parents.length)
  }
  return count <= MAX_LAYERS && deepest <= MAX_DEPTH ? changed : before
}

/**
 * The loop with layers put in front of or behind another; without a neighbour, in front of everything. What
 * holds no layers has none put inside, but in front of it. Unchanged where that would be more than a loop holds.
 */
export const insertLayers = (
  loop: Loop,
  added: readonly Layer[],
  neighbour?: { readonly id: string; readonly side: 'front' | 'back' | 'inside' },
): Loop => withinLimits(inserted(loop, added, neighbour), loop)

function inserted(
  loop: Loop,
  added: readonly Layer[],
  neighbour?: { readonly id: string; readonly side: 'front' | 'back' | 'inside' },
): Loop {
  if (!neighbour) return { ...loop, layers: [...loop.layers, ...added] }
  const { id, side } = neighbour
  const layers = replaceLayer(loop.layers, id, (layer) => {
    if (side === 'inside' && layer.layers) return { ...layer, layers: [...layer.layers, ...added] }
    return side === 'back' ? [...added, layer] : [layer, ...added]
  })
  return { ...loop, layers }
}

/** The loop with a layer moved next to, or into, another. Unchanged where that would put a group inside itself. */
export function moveLayer(loop: Loop, id: string, neighbour: { id: string; side: 'front' | 'back' | 'inside' }): Loop {
  const place = findPlace(loop, id)
  const target = findPlace(loop, neighbour.id)
  if (!place || !target || id === neighbour.id || target.parents.some((parent) => parent.id === id)) return loop
  return withinLimits(inserted(removeLayers(loop, [id]), [place.layer], neighbour), loop)
}
