import { EDGES } from '../../effects'
import type { IconName, LayerKind } from '../kind'
import { PLACEMENT } from '../placement'
import type { PropertyTable } from '../property'

const { blend: _blend, opacity, ...PLACED } = PLACEMENT

/** Where an effect acts that holds layers. */
const WHERE = ['within its layers', 'outside them'] as const

/** Properties of every effect: its strength, its centre, and the place of its children. */
const COMMON = {
  strength: { ...opacity, label: 'strength', section: 'effect', default: 1 },
  acts: { type: 'choice', label: 'acts', section: 'effect', options: WHERE, default: WHERE[0] },
} as const satisfies PropertyTable

interface EffectDescription<Kind extends string, Properties extends PropertyTable> {
  readonly kind: Kind
  readonly label: string
  readonly icon: IconName
  readonly properties: Properties
  readonly presets?: LayerKind['presets']
  readonly begins?: LayerKind['begins']
  /** Whether what it holds is what it acts by, and not where it acts. */
  readonly heldIsMap?: boolean
  /** True for a group of effects, which does nothing by itself. */
  readonly heldOnly?: boolean
  readonly note?: LayerKind['note']
}

/** An effect as a kind of layer, whose name and own properties `render/effects` has a drawing for. */
export interface EffectKind<Kind extends string = string, Properties extends PropertyTable = PropertyTable>
  extends LayerKind {
  readonly kind: Kind
  readonly properties: Properties & PropertyTable
}

/** Cost of an effect on a whole frame, as a number of drawings; their total is limited. */
const COST = 1500

/**
 * An effect as a kind of layer: it changes all that lies behind it, in its group or, outside of all, in the frame. What it holds
 * limits where it acts; effects that it holds act before it does.
 */
export function defineEffect<const Kind extends string, Properties extends PropertyTable>(
  effect: EffectDescription<Kind, Properties>,
): EffectKind<Kind, Properties> {
  const { kind, label, icon, presets, begins, heldIsMap = false, heldOnly = false, note } = effect
  return {
    kind,
    label,
    icon,
    shortcut: null,
    properties: { ...effect.properties, ...COMMON, ...PLACED },
    holdsLayers: true,
    ...(presets && { presets }),
    ...(begins && { begins }),
    ...(note && { note }),
    drawings: () => COST,
    effect: { heldIsMap, heldOnly },
    draw: (values, inside) => {
      const table = typeof values.table === 'string' ? inside.picture(values.table, 0) : null
      return {
        type: 'effect',
        changesBehind: true,
        effect: kind,
        values,
        strength: Number(values.strength),
        ...(values.acts === WHERE[1] && { inverse: true }),
        ...(table && { table }),
        children: inside.layers(),
      }
    },
    outline: null,
    bounds: () => null,
    fromDrag: () => ({}),
  }
}

type Amount = { readonly default: number; readonly min?: number; readonly max?: number; readonly step?: number }

/** A number of an effect, which can be moved. */
export const amount = (label: string, unit: 'px' | 'share' | '×' | '°' | '', { step = 0.05, ...range }: Amount) =>
  ({ type: 'number', label, section: 'effect', unit, step, moves: true, ...range }) as const

/** A length that is blurred, bent or sharpened by. */
export const length = (label: string, value: number, most = 1000) =>
  amount(label, 'px', { default: value, min: 0, max: most, step: 1 })

export const edges = {
  type: 'choice',
  label: 'beyond edges',
  section: 'effect',
  options: EDGES,
  default: 'wrap',
} as const

export const effectColour = (label: string, value: string) =>
  ({ type: 'colour', label, section: 'effect', default: value, moves: true }) as const

export const effectSeed = {
  type: 'number',
  label: 'seed',
  section: 'effect',
  unit: '',
  default: 1,
  min: 0,
  max: 9999,
  step: 1,
  whole: true,
} as const
