import { toast } from 'sonner'
import { findPlace, type Layer } from '@/core/document'
import { addEffect, addMask, freeName, maskedBy, newLayer } from '@/core/edit'
import { newId } from '@/core/id'
import { LAYER_KINDS, layerKind, type Preset } from '@/core/layers'
import { changeLoop, currentLoop } from '@/store/document'
import { frameNow } from '@/store/playback'
import { BRUSH_TOOL, setSession } from '@/store/session'
import { type Command, needsSelection, selection } from './command'

/** An effect that is offered: a kind, or one of the sets of values that it can begin with. */
export interface OfferedEffect {
  readonly id: string
  readonly kind: string
  readonly label: string
  readonly preset?: Preset
}

/** Every effect, those that can begin in several ways with each of them. */
export const OFFERED_EFFECTS: readonly OfferedEffect[] = LAYER_KINDS.filter(({ effect }) => effect).flatMap(
  ({ kind, label, presets }): OfferedEffect[] =>
    presets?.map((preset) => ({
      id: `${kind}-${preset.label.toLowerCase().replace(/\W+/g, '-')}`,
      kind,
      label: `${label}: ${preset.label.toLowerCase()}`,
      preset,
    })) ?? [{ id: kind, kind, label }],
)

const TOO_DEEP = 'Groups would stand too deep in each other. Take one apart first.'

/** Puts an effect on some layers, or, where there are none, on all that lies behind. */
export function putEffect({ kind, preset }: OfferedEffect, on: readonly string[] = selection()): void {
  const loop = currentLoop()
  if (!loop) return
  const begin = preset && { name: preset.label, values: preset.values }
  const made = addEffect(loop, on, kind, frameNow(), newId(), begin)
  if (!made) return void toast(TOO_DEEP)
  changeLoop(() => made.loop)
  setSession({ selection: [made.id], property: null, tool: null })
}

/** Puts a layer in front of the selected ones that says where they are seen, or where an effect acts. */
function mask(kind: string, values: (size: { width: number; height: number }) => object, tool: string | null): void {
  const loop = currentLoop()
  if (!loop || !needsSelection()) return
  const layer = newLayer(kind, freeName(loop, layerKind(kind).label), values(loop) as never)
  const made = addMask(loop, selection(), layer, frameNow())
  if (!made) return void toast(TOO_DEEP)
  changeLoop(() => made.loop)
  setSession({ selection: [made.id], property: null, tool })
}

/** Paints on the selected painted mask, or on a new one for what is selected. */
function paintMask(): void {
  const loop = currentLoop()
  const [only] = selection()
  const layer = loop && only ? findPlace(loop, only)?.layer : undefined
  // A layer that already has a painted mask gets no second one.
  const front = loop && only ? findPlace(loop, only)?.parents.at(-1)?.layers?.at(-1) : undefined
  if (layer && paintable(layer)) setSession({ tool: BRUSH_TOOL })
  else if (loop && front && paintable(front) && maskedBy(loop, front.id))
    setSession({ selection: [front.id], property: null, tool: BRUSH_TOOL })
  else mask('brush', () => ({}), BRUSH_TOOL)
}

const paintable = ({ kind }: Pick<Layer, 'kind'>): boolean =>
  Object.values(layerKind(kind).properties).some(({ type }) => type === 'strokes')

/** Factor of the brush size for one press. */
const BRUSH_STEP = 1.25
const resize = (by: number) => () =>
  setSession(({ brush }) => ({
    brush: { ...brush, size: Math.min(2000, Math.max(2, Math.round(brush.size * by))) },
  }))

/** Effects, masks and the brush. */
export const EFFECT_COMMANDS: readonly Command[] = [
  ...OFFERED_EFFECTS.map((effect) => ({
    id: `effect-${effect.id}`,
    label: `Effect: ${effect.label}`,
    section: 'Effects' as const,
    run: () => putEffect(effect),
  })),
  { id: 'paint-mask', label: 'Paint a mask of the selected layers', section: 'Effects', keys: 'z', run: paintMask },
  {
    id: 'gradient-mask',
    label: 'Mask the selected layers by a gradient',
    section: 'Effects',
    run: () =>
      mask(
        'rectangle',
        ({ width, height }) => ({ width, height, fillKind: 'linear', fill: '#ffffff', fillTo: '#ffffff00' }),
        null,
      ),
  },
  {
    id: 'tint',
    label: 'The selected mask as a tint, on or off',
    section: 'Effects',
    keys: 'shift+m',
    run: () => setSession(({ tint }) => ({ tint: !tint })),
  },
  { id: 'brush-larger', label: 'A larger brush', section: 'Effects', keys: 'bracketright', run: resize(BRUSH_STEP) },
  {
    id: 'brush-smaller',
    label: 'A smaller brush',
    section: 'Effects',
    keys: 'bracketleft',
    run: resize(1 / BRUSH_STEP),
  },
]
