import { allLayers, changeLayer, findLayer, insertLayers, type Layer, type Loop, NO_BLUR } from '../document'
import {
  CAMERA,
  cameraOf,
  foldOfTurn,
  GUIDES,
  layerKind,
  type PASSES,
  PIVOTS,
  PLACEMENT,
  ROUND_FOLD,
  sizeOfModel,
  turnOf,
  type Values,
} from '../layers'
import type { Model } from '../media'
import { evenly, isTied } from '../motion'
import { type Camera, subtract, type Vector } from '../solid'
import { freeName, newLayer } from './edit'

const foldValue = (fold: number): number => (fold === 0 ? ROUND_FOLD : Math.min(fold, ROUND_FOLD))

/** The values with which a model turns about itself: through its centre of mass where it has a fold, else through the middle of its bounds. */
function turningValues({ folds }: Model): Values {
  const [foldX, foldY, foldZ] = folds.map(foldValue) as [number, number, number]
  return { foldX, foldY, foldZ, pivot: foldY > 1 ? PIVOTS[1] : PIVOTS[0] }
}

/** A layer of a model that fills a frame and turns evenly once a loop. */
export function modelLayer(model: Model, { width, height }: Pick<Loop, 'width' | 'height'>, name = model.name): Layer {
  const place = { x: width / 2, y: height / 2, width, height }
  return {
    ...newLayer('model', name, { ...place, model: model.id, ...turningValues(model) }),
    motions: { turn: evenly(360) },
  }
}

/** The loop with a model in it. Returns the id of its layer too. */
export function addModel(loop: Loop, model: Model): { readonly loop: Loop; readonly id: string } {
  const layer = modelLayer(model, loop, freeName(loop, model.name))
  return { loop: insertLayers({ ...loop, media: [...loop.media, model] }, [layer]), id: layer.id }
}

export const modelOf = (loop: Pick<Loop, 'media'>, layer: Layer): Model | null =>
  (loop.media.find(({ id, kind }) => kind === 'model' && id === layer.values.model) as Model | undefined) ?? null

/**
 * The loop with a part of a model as a layer of its own within the model's, so that it can move; that layer where there is one. A part that moves by
 * itself tells how far the whole has turned: that is no longer taken to look the same after a part of a turn.
 */
export function addPart(
  loop: Loop,
  modelId: string,
  name: string,
): { readonly loop: Loop; readonly id: string } | null {
  const holder = findLayer(loop, modelId)
  const model = holder && modelOf(loop, holder)
  const part = model?.parts.find((each) => each.name === name)
  if (!holder || !part) return null
  const known = holder.layers?.find((each) => each.kind === 'part' && each.values.part === name)
  if (known) return { loop, id: known.id }
  const axes = ['x', 'y, upright', 'z'] as const
  // The axis about which most of it is alike, which is the one that it is made to turn about.
  const folds = part.folds.map(foldValue)
  const best = folds[1] === Math.max(...folds) ? 1 : folds.indexOf(Math.max(...folds))
  const layer = newLayer('part', freeName(loop, name), {
    part: name,
    axis: axes[best] as string,
    fold: folds[best] ?? 1,
  })
  const whole = { foldX: 1, foldY: 1, foldZ: 1 }
  return {
    loop: changeLayer(loop, modelId, (each) => ({
      ...each,
      values: { ...each.values, ...whole },
      layers: [...(each.layers ?? []), layer],
    })),
    id: layer.id,
  }
}

/** A loop that ends where a turning model looks as it did for the first time. */
export interface ShorterTurn {
  /** How many times shorter it is. */
  readonly times: number
  readonly length: number
  readonly loop: Loop
}

/** The loop that is as many times shorter as a model looks the same within a turn, at the same pace; null where nothing is to be gained, or something else moves. */
export function shorterTurn(loop: Loop, id: string): ShorterTurn | null {
  const layer = findLayer(loop, id)
  const turn = layer?.motions.turn
  if (!layer || !turn || turn.after !== 'accumulate' || !isTied(turn.period)) return null
  const moving = allLayers(loop).flatMap(({ motions, trembles = {}, events = {} }) =>
    [motions, trembles, events].flatMap((each) => Object.keys(each)),
  )
  if (moving.length > 1) return null
  const first = turn.keys[0]
  const last = turn.keys.at(-1)
  if (turn.keys.length !== 2 || typeof first?.value !== 'number' || typeof last?.value !== 'number') return null
  const travel = (last.value - first.value) * turn.period.cycles
  const times = Math.round(Math.abs(travel) / (360 / foldOfTurn(layer.values)))
  const length = Math.round(loop.length / times)
  if (!(times > 1) || length < 2 || Math.abs((Math.abs(travel) / times) * foldOfTurn(layer.values) - 360) > 1e-6)
    return null
  const motions = { ...layer.motions, turn: { ...evenly(travel / times), phase: turn.phase } }
  return { times, length, loop: changeLayer({ ...loop, length }, id, (each) => ({ ...each, motions })) }
}

/** How passes of a model are put together over its colours, from back to front. */
const OVER = [
  { pass: 'occlusion', blend: 'multiply' },
  { pass: 'wireframe', blend: 'normal' },
] as const satisfies readonly { readonly pass: (typeof PASSES)[number]; readonly blend: string }[]

/** The loop with the occlusion and the wireframe of a model over it: layers of the same model that turn and are seen alike. */
export function passesOver(loop: Loop, id: string): { readonly loop: Loop; readonly ids: readonly string[] } | null {
  const layer = findLayer(loop, id)
  if (!layer || !('pass' in layerKind(layer.kind).properties)) return null
  let made = loop
  const ids: string[] = []
  for (const { pass, blend } of [...OVER].reverse()) {
    const parts = (layer.layers ?? []).map((part) => ({ ...part, id: newLayer('part', '').id }))
    const over: Layer = {
      ...layer,
      id: newLayer('model', '').id,
      name: freeName(made, `${layer.name}, ${pass}`),
      values: { ...layer.values, pass, blend, ground: 'none' },
      ...(layer.layers && { layers: parts }),
    }
    made = insertLayers(made, [over], { id, side: 'front' })
    ids.unshift(over.id)
  }
  return { loop: made, ids }
}

/** The layer of a model with its pivot in the middle of itself. */
export const centredTurn = (layer: Layer, model: Model): Layer => ({
  ...layer,
  values: { ...layer.values, aboutX: 0, aboutY: 0, aboutZ: 0, pivot: turningValues(model).pivot as string },
})

/** The loop with a model in place of the one of its id; layers of parts go with the parts, whatever these are called now. */
export function exchangeModel(loop: Loop, model: Model): Loop {
  const before = loop.media.find(({ id, kind }) => kind === 'model' && id === model.id) as Model | undefined
  if (!before) return loop
  const nodes = new Map(before.parts.map(({ name, node }) => [name, node]))
  const names = new Map(model.parts.map(({ name, node }) => [node, name]))
  const named = (layer: Layer): Layer => {
    const { part } = layer.values
    const now = layer.kind === 'part' ? names.get(nodes.get(String(part)) ?? -1) : undefined
    return now === undefined ? layer : { ...layer, values: { ...layer.values, part: now } }
  }
  const inside = (layer: Layer): Layer => {
    if (!layer.layers) return layer
    const own = layer.values.model === model.id ? layer.layers.map(named) : layer.layers
    return { ...layer, layers: own.map(inside) }
  }
  return {
    ...loop,
    media: loop.media.map((each) => (each === before ? model : each)),
    layers: loop.layers.map(inside),
    loops: loop.loops.map((inner) => ({ ...inner, layers: inner.layers.map(inside) })),
  }
}

/** The layer of a model that turns about the middle of one of its parts. */
export function turningAbout(layer: Layer, model: Model, name: string): Layer {
  const part = model.parts.find((each) => each.name === name)
  return part ? withPivot(layer, model, part.centre) : layer
}

/** A drawn axis that is so near to one of the model's own is taken to be that, degrees. */
const NEAR_AXIS = 4

/** The layer of a model that turns about an axis in a direction, in the coordinates of its file. @param way of length 1 */
export function withAxis(layer: Layer, way: Vector): Layer {
  const near = Math.cos((NEAR_AXIS * Math.PI) / 180)
  const [axisX, axisY, axisZ] = way.map((x) => Number(x.toFixed(4))) as [number, number, number]
  const own = (['x', 'y, upright', 'z'] as const).find((_, i) => (way[i] as number) >= near)
  return { ...layer, values: { ...layer.values, ...(own ? { axis: own } : { axis: 'drawn', axisX, axisY, axisZ }) } }
}

/** The layer of a model that turns about a point of it, in the coordinates of its file. */
export function withPivot(layer: Layer, model: Model, at: Vector): Layer {
  const { pivot } = turnOf(model, { ...layer.values, pivot: PIVOTS[0], aboutX: 0, aboutY: 0, aboutZ: 0 })
  const size = sizeOfModel(model)
  const [aboutX, aboutY, aboutZ] = subtract(at, pivot).map((x) => Number((x / size).toFixed(5))) as [
    number,
    number,
    number,
  ]
  return { ...layer, values: { ...layer.values, pivot: PIVOTS[0], aboutX, aboutY, aboutZ } }
}

/** From where a model is looked at beside its camera. */
export interface FreeSight {
  /** Degrees. */
  readonly around: number
  readonly above: number
  /** In distances from which all of it is seen. */
  readonly distance: number
}

type Size = Pick<Loop, 'width' | 'height'>

const freeValues = (values: Values, sight: FreeSight, size: Size): Values => ({
  ...values,
  ...size,
  ...sight,
  roll: 0,
  lens: 'perspective',
  focal: 50,
  aperture: 0,
  guide: GUIDES[0],
  margin: 0.08,
})

/** The camera of a free sight. */
export const freeCamera = (model: Model, values: Values, sight: FreeSight, size: Size): Camera =>
  cameraOf(model, freeValues(values, sight, size))

/** A loop of nothing but a model, as it moves in another, seen from anywhere. */
export function seenFreely(loop: Loop, id: string, sight: FreeSight, size: Size): Loop {
  const layer = findLayer(loop, id)
  if (!layer) return loop
  const held = new Set(Object.keys({ ...CAMERA, ...PLACEMENT }))
  const motions = Object.fromEntries(Object.entries(layer.motions).filter(([name]) => !held.has(name)))
  const { width, height } = size
  const place = { x: width / 2, y: height / 2 }
  const { values } = newLayer(layer.kind, '', place)
  const own = Object.fromEntries(Object.entries(layer.values).filter(([name]) => !(name in PLACEMENT)))
  const alone: Layer = { ...layer, hidden: false, motions, values: freeValues({ ...values, ...own }, sight, size) }
  return { ...loop, width, height, blur: NO_BLUR, layers: [alone] }
}
