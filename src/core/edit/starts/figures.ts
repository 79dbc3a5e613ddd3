import type { Start } from './start'
import { arc, bars, blob, dots, orbits, rings, spots } from './waiting'
import { bands, gauge, swings, vanes, workingBelt } from './working'

/** Figures that loops begin with. */
export const FIGURES: readonly Start[] = [
  arc,
  spots,
  blob,
  dots,
  bars,
  rings,
  bands,
  gauge,
  vanes,
  workingBelt,
  swings,
  orbits,
]
