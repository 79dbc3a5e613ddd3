import type { ModelLook, MovedPart, PartDrawing } from '../../display'
import type { Model } from '../../media'
import {
  add,
  type Camera,
  type FrameGuide,
  fittedCamera,
  placedParts,
  rotation,
  type Sight,
  scaled,
  scaling,
  type Turn,
  translation,
  turnedBy,
  unit,
  type Vector,
} from '../../solid'
import { EFFECTS } from '../effects'
import { centredBox, dragBox, type Inside, type LayerKind } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'
import { AXES, CAMERA, foldOfTurn, GUIDES, LIGHTS, LOOK, PASSES, PIVOTS, ROUND_FOLD, SURFACE, TURN } from './properties'

/** The largest side of a model. */
export const sizeOfModel = ({ bounds }: Pick<Model, 'bounds'>): number =>
  Math.max(...[0, 1, 2].map((axis) => (bounds[3 + axis] as number) - (bounds[axis] as number)), 1e-9)

const middleOfModel = ({ bounds }: Pick<Model, 'bounds'>): Vector =>
  [0, 1, 2].map((axis) => ((bounds[axis] as number) + (bounds[3 + axis] as number)) / 2) as unknown as Vector

const UP: Vector = [0, 1, 0]
const AXIS: Readonly<Record<string, Vector>> = { x: [1, 0, 0], z: [0, 0, 1] }

function axisOf(values: Values): Vector {
  if (values.axis !== AXES[3]) return AXIS[String(values.axis)] ?? UP
  const drawn: Vector = [Number(values.axisX), Number(values.axisY), Number(values.axisZ)]
  return Math.hypot(...drawn) > 1e-6 ? unit(drawn) : UP
}

/** How a model turns with the values of a layer. */
export function turnOf(model: Pick<Model, 'bounds' | 'centre'>, values: Values): Turn {
  const size = sizeOfModel(model)
  const from: Vector =
    values.pivot === PIVOTS[1] ? model.centre : values.pivot === PIVOTS[2] ? [0, 0, 0] : middleOfModel(model)
  const pivot: Vector = [
    from[0] + size * Number(values.aboutX),
    from[1] + size * Number(values.aboutY),
    from[2] + size * Number(values.aboutZ),
  ]
  return { pivot, axis: axisOf(values), lean: Number(values.lean) }
}

/** The point of a model that is to stay in its place as it turns: where its surface has a fold, that is its centre of mass; else its middle. */
export const centreOfTurn = (model: Pick<Model, 'bounds' | 'centre' | 'folds'>): Vector =>
  model.folds[1] !== 1 ? model.centre : middleOfModel(model)

const sightOf = (values: Values): Sight => ({
  around: Number(values.around),
  height: Number(values.above),
  roll: Number(values.roll),
  // Focal lengths are told for a film 24 mm high.
  fieldOfView: values.lens === 'parallel' ? null : (360 / Math.PI) * Math.atan(12 / Number(values.focal)),
})

/** The part of a frame that is to hold the turn, px. */
export function guideOf(values: Values): FrameGuide {
  const width = Number(values.width)
  const height = Number(values.height)
  const [a, b] = values.guide === GUIDES[0] ? [width, height] : String(values.guide).split(':').map(Number)
  const scale = Math.min(width / (a as number), height / (b as number))
  const across = scale * (a as number)
  const down = scale * (b as number)
  const margin = Number(values.margin) * Math.min(across, down)
  return { width, height, marginX: (width - across) / 2 + margin, marginY: (height - down) / 2 + margin }
}

/** The camera that sees a whole turn in its guide, and nearer or further by the distance that is asked for. */
export function cameraOf(model: Pick<Model, 'bounds' | 'centre' | 'hull'>, values: Values): Camera {
  const fitted = fittedCamera(model.hull, turnOf(model, values), sightOf(values), guideOf(values))
  const by = Number(values.distance)
  const from = fitted.from
  const at = fitted.at
  const away = from.map((x, i) => (at[i] as number) + by * (x - (at[i] as number))) as unknown as Vector
  return { ...fitted, from: away, height: fitted.height * by }
}

const light = (values: Values, name: string) => ({
  strength: Number(values[`${name}Strength`]),
  around: Number(values[`${name}Around`]),
  height: Number(values[`${name}Height`]),
  colour: String(values[`${name}Colour`]),
})

function lookOf(values: Values, inside: Inside): ModelLook {
  return {
    pass: values.pass as ModelLook['pass'],
    edges: values.edges === 'creases' ? 'creases' : 'all',
    lineWidth: Number(values.lineWidth),
    lineColour: String(values.lineColour),
    material: values.material as ModelLook['material'],
    materialColour: String(values.materialColour),
    lights: ['key', 'fill', 'back'].map((name) => light(values, name)),
    surround: { strength: Number(values.surround), colour: String(values.surroundColour) },
    lightsTurn: values.lights === LIGHTS[1],
    ground: values.ground as ModelLook['ground'],
    groundColour: String(values.groundColour),
    groundPicture: values.ground === 'picture' ? inside.picture(String(values.groundPicture), 0) : null,
    groundSize: Number(values.groundSize),
    shadow: Number(values.shadow),
    aperture: Number(values.aperture),
    focus: Number(values.focus),
  }
}

/** Where a part stands that moves by itself, and whether it is seen; null where the model has none of its name. */
function movedPart(
  model: Model,
  { part, seen, shift, pivot, axis, degrees, fold, scale }: PartDrawing,
): MovedPart | null {
  const own = model.parts.find(({ name }) => name === part)
  if (!own) return null
  const size = sizeOfModel(model)
  const about = add(own.centre, scaled(pivot, size))
  const changed = placedParts(rotation(axis, (degrees * Math.PI) / 180), scaling(scale))
  const turned = placedParts(translation(about), placedParts(changed, translation(scaled(about, -1))))
  return { node: own.node, seen, fold, placement: placedParts(translation(scaled(shift, size)), turned) }
}

const camera = (label: string, values: Values) => ({ label, of: 'camera', values })
const lit = (label: string, values: Values) => ({ label, of: 'light', values })

/** A solid model that turns in front of a camera, with the parts of it that move by themselves. */
export const model: LayerKind = {
  kind: 'model',
  icon: 'model',
  label: 'Model',
  shortcut: null,
  properties: { ...SURFACE, ...TURN, ...CAMERA, ...LOOK, ...PLACEMENT, ...EFFECTS },
  holdsLayers: true,
  // Drawing in space takes as long as many shapes do.
  drawings: () => 1500,
  presets: [
    camera('shop', { around: 0, above: 14, roll: 0, lens: 'perspective', focal: 50, distance: 1 }),
    camera('hero', { around: 0, above: -4, roll: 0, lens: 'perspective', focal: 24, distance: 1 }),
    camera('from above', { around: 0, above: 90, roll: 0, lens: 'parallel', distance: 1 }),
    camera('three-quarter', { around: 45, above: 35, roll: 0, lens: 'parallel', distance: 1 }),
    lit('soft box', {
      keyStrength: 2.4,
      keyAround: -35,
      keyHeight: 48,
      keyColour: '#fff3df',
      fillStrength: 0.5,
      fillAround: 60,
      fillHeight: 20,
      fillColour: '#cfe6ff',
      backStrength: 1.2,
      backAround: 160,
      backHeight: 40,
      backColour: '#ffffff',
      surround: 0.7,
      surroundColour: '#dfe9ee',
    }),
    lit('window', {
      keyStrength: 3.6,
      keyAround: -80,
      keyHeight: 25,
      keyColour: '#f4f8ff',
      fillStrength: 0.15,
      fillAround: 70,
      fillHeight: 10,
      fillColour: '#e8dcc8',
      backStrength: 0.2,
      backAround: 180,
      backHeight: 30,
      backColour: '#ffffff',
      surround: 0.35,
      surroundColour: '#c9d4dd',
    }),
    lit('dusk', {
      keyStrength: 2.2,
      keyAround: 70,
      keyHeight: 8,
      keyColour: '#ff9d5c',
      fillStrength: 0.6,
      fillAround: -60,
      fillHeight: 35,
      fillColour: '#5b7bd6',
      backStrength: 1.6,
      backAround: 200,
      backHeight: 20,
      backColour: '#ffb27a',
      surround: 0.3,
      surroundColour: '#4a5c8c',
    }),
    lit('lamp from below', {
      keyStrength: 3,
      keyAround: 15,
      keyHeight: -40,
      keyColour: '#ffc76b',
      fillStrength: 0.2,
      fillAround: -120,
      fillHeight: 30,
      fillColour: '#6fa3b8',
      backStrength: 0.6,
      backAround: 180,
      backHeight: 60,
      backColour: '#9fd0e0',
      surround: 0.2,
      surroundColour: '#24414f',
    }),
  ],
  note: {
    section: 'turn',
    cycleOf: 'turn',
    text: (values) => {
      const fold = foldOfTurn(values)
      if (fold === ROUND_FOLD) return 'It is round about this axis: how far it has turned is not to be seen.'
      return fold > 1 ? `It looks the same after each ${Number((360 / fold).toFixed(2))}°.` : null
    },
  },
  draw: (values, inside) => {
    const found = inside.medium(String(values.model)) as Model | null
    if (found?.kind !== 'model') return { type: 'group', children: [] }
    const turn = turnOf(found, values)
    return {
      type: 'model',
      model: found.id,
      file: found.file.id,
      box: centredBox(Number(values.width), Number(values.height)),
      camera: cameraOf(found, values),
      placement: turnedBy(turn, Number(values.turn)),
      turn,
      size: sizeOfModel(found),
      hull: found.hull,
      parts: inside.layers().flatMap((node) => {
        const moved = node.type === 'part' ? movedPart(found, node) : null
        return moved ? [moved] : []
      }),
      look: lookOf(values, inside),
    }
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: (from, to) => dragBox(from, to),
}

export { CAMERA, foldOfTurn, GUIDES, PASSES, PIVOTS, ROUND_FOLD }
