import { belt } from './belt'
import { brush } from './brush'
import { clip } from './clip'
import { copies } from './copies'
import { EFFECT_KINDS } from './effect'
import { ellipse } from './ellipse'
import { group } from './group'
import type { LayerKind } from './kind'
import { lattice } from './lattice'
import { line } from './line'
import { model } from './model'
import { part } from './part'
import { particles } from './particles'
import { path } from './path'
import { pattern } from './pattern'
import { picture } from './picture'
import { placedLoop } from './placed-loop'
import { polygon } from './polygon'
import { rectangle } from './rectangle'
import { textKind } from './text'
import { texture } from './texture'

/** Every kind of layer, in the order in which the tools are shown. A new kind is one folder and one line here. */
export const LAYER_KINDS: readonly LayerKind[] = [
  ellipse,
  rectangle,
  polygon,
  line,
  textKind,
  path,
  belt,
  group,
  copies,
  placedLoop,
  picture,
  clip,
  texture,
  particles,
  pattern,
  lattice,
  brush,
  model,
  part,
  ...EFFECT_KINDS,
]
