import { namedColour } from '../../colour'
import type { Layer } from '../../document'
import type { Values } from '../../layers'
import type { Ease, Key, Motion } from '../../motion'
import { newLayer } from '../edit'
import type { Start, StartFrame } from './start'

/** The colours that the figures have, by name, so that one change colours all of them. */
const FIGURE_PALETTE = [
  { name: 'lamp', colour: '#f6b84b' },
  { name: 'foam', colour: '#f7ead0' },
  { name: 'coral', colour: '#ef7f5f' },
  { name: 'glass', colour: '#79c9b4' },
  { name: 'deep', colour: '#15485a' },
]
export const [LAMP, FOAM, CORAL, GLASS, DEEP] = FIGURE_PALETTE.map(({ name }) => namedColour(name)) as [
  string,
  string,
  string,
  string,
  string,
]

export const startKeys = (
  ease: Ease,
  ...places: readonly (readonly [at: number, value: number, ease?: Ease])[]
): Key[] => places.map(([at, value, own]) => ({ at, value, ease: own ?? ease }))
export const repeating = (all: readonly Key[], cycles = 1, phase = 0): Motion => ({
  keys: all,
  after: 'repeat',
  period: { cycles },
  phase,
})
export const carrying = (all: readonly Key[], cycles = 1, phase = 0): Motion => ({
  ...repeating(all, cycles, phase),
  after: 'accumulate',
})

/** Number of cycles that brings each nearest to the given duration, in seconds. */
export const every = (frame: StartFrame, seconds: number): number => Math.max(1, Math.round(frame.seconds / seconds))

type Motions = Readonly<Record<string, Motion>>
export const startLayer = (
  kind: string,
  name: string,
  values: Values,
  motions: Motions = {},
  held?: readonly Layer[],
): Layer => ({
  ...newLayer(kind, name, values),
  motions,
  ...(held && { layers: held }),
})
const middleOf = ({ width, height }: StartFrame) => ({ x: width / 2, y: height / 2 })
/** A 480th of the shorter side. */
const unitOf = ({ width, height }: StartFrame): number => Math.min(width, height) / 480

/** A start that is drawn about the middle of the frame, in units of a 480th of its shorter side. */
export const figure = (
  name: string,
  label: string,
  layers: (u: number, frame: StartFrame, middle: { readonly x: number; readonly y: number }) => readonly Layer[],
): Start => ({
  name,
  label,
  palette: FIGURE_PALETTE,
  layers: (frame) => layers(unitOf(frame), frame, middleOf(frame)),
})
