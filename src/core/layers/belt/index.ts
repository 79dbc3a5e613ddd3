import type { Drawing } from '../../display'
import { fitLinks, IDENTITY, pathBox, pathOf, pathRuler } from '../../path'
import { EFFECTS } from '../effects'
import type { LayerKind } from '../kind'
import { PLACEMENT } from '../placement'
import type { PropertyTable, ValuesOf } from '../property'
import type { Values } from '../types'

const BELT = {
  path: { type: 'path', label: 'path', section: 'shape', default: 'M-160 -60L160 -60L160 60L-160 60Z' },
  thickness: {
    type: 'number',
    label: 'thickness',
    section: 'shape',
    unit: 'px',
    default: 18,
    min: 0,
    step: 1,
    moves: true,
  },
  colour: { type: 'colour', label: 'belt', section: 'shape', default: '#123a4c', moves: true },
  markColour: { type: 'colour', label: 'marks', section: 'shape', default: '#f2b54a', moves: true },
  pitch: { type: 'number', label: 'pitch', section: 'shape', unit: 'px', default: 40, min: 0.5, step: 1 },
  markLength: {
    type: 'number',
    label: 'mark',
    section: 'shape',
    unit: 'share',
    default: 0.4,
    min: 0,
    max: 1,
    step: 0.05,
    moves: true,
  },
  markWidth: {
    type: 'number',
    label: 'mark width',
    section: 'shape',
    unit: 'share',
    default: 0.4,
    min: 0,
    max: 2,
    step: 0.05,
    moves: true,
  },
  travel: {
    type: 'number',
    label: 'moved along by',
    section: 'shape',
    unit: 'links',
    default: 0,
    step: 0.1,
    moves: true,
    equivalence: 1,
    newTravel: 1,
  },
} as const satisfies PropertyTable

type BeltValues = ValuesOf<typeof BELT>

/** How many marks a belt carries, and how far apart: the wanted pitch, fitted so that they meet without a gap. */
export function beltLinks(values: Values) {
  const { path, pitch } = values as unknown as BeltValues
  return fitLinks(pathRuler(pathOf(path)).length, pitch)
}

function draw(values: Values): Drawing {
  const { path, thickness, colour, markColour, markLength, markWidth, travel } = values as unknown as BeltValues
  const outline = pathOf(path)
  const { pitch } = beltLinks(values)
  const stroke = (paint: string | null, width: number, dash: readonly number[], dashOffset: number) =>
    paint && width > 0 && outline.length > 0
      ? [
          {
            type: 'shape' as const,
            fill: null,
            stroke: {
              path: outline,
              colour: paint,
              width,
              cap: 'butt' as const,
              join: 'round' as const,
              dash,
              dashOffset,
            },
            layerId: '',
            transform: IDENTITY,
            opacity: 1,
            blend: 'normal' as const,
          },
        ]
      : []
  const mark = markLength * pitch
  const marks =
    mark > 0
      ? stroke(markColour, thickness * markWidth, [mark, pitch - mark], -(travel - Math.floor(travel + 1e-9)) * pitch)
      : []
  return { type: 'group', children: [...stroke(colour, thickness, [], 0), ...marks] }
}

/** A belt with thickness that runs along a path and carries marks. */
export const belt: LayerKind = {
  kind: 'belt',
  icon: 'disc',
  label: 'Belt',
  shortcut: null,
  properties: { ...BELT, ...PLACEMENT, ...EFFECTS },
  holdsLayers: false,
  draw,
  outline: (values) => pathOf(String(values.path)),
  note: {
    section: 'shape',
    text: (values) => {
      const { count, pitch } = beltLinks(values)
      return `${count} marks, ${Number(pitch.toFixed(3))} px apart: home after one of them`
    },
  },
  bounds: (values) => pathBox(pathOf(String(values.path))),
  fromDrag: () => ({}),
}
