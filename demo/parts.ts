import type { Layer, Loop } from '../src/core/document'
import { type Brief, newLayer, newLoop } from '../src/core/edit'
import type { Values } from '../src/core/layers'
import type { Ease, Key, Motion } from '../src/core/motion'

/** The colours of Saltmere Light. */
export const SEA_INK = '#0a2231'
export const DEEP = '#123a4c'
export const LAMP = '#f6b84b'
export const CREAM = '#f7ead0'
export const CORAL = '#ef7f5f'
export const GLASS = '#79c9b4'

/** A layer of a kind, with the id and name that it keeps. */
export const layer = (
  kind: string,
  id: string,
  name: string,
  values: Values,
  motions: Record<string, Motion> = {},
): Layer => ({
  ...newLayer(kind, name, values, id),
  motions,
})
/** Keys at shares of the cycle, with one ease but for those that say another. */
export const keys = (ease: Ease, ...places: [at: number, value: number, ease?: Ease][]): Key[] =>
  places.map(([at, value, own]) => ({ at, value, ease: own ?? ease }))
export const repeat = (keys: Key[], phase = 0, cycles = 1): Motion => ({
  keys,
  after: 'repeat',
  period: { cycles },
  phase,
})
/** A motion that carries on. */
export const carry = (keys: Key[], cycles = 1): Motion => ({ keys, after: 'accumulate', period: { cycles }, phase: 0 })

/** A loop with ids that stay the same whenever it is made: new ones of the application are random. */
export function withPlainIds(loop: Loop): Loop {
  let count = 0
  const named = (each: Layer): Layer => ({
    ...each,
    id: `${loop.id}-${++count}`,
    ...(each.layers ? { layers: each.layers.map(named) } : {}),
  })
  return { ...loop, layers: loop.layers.map(named) }
}

/** An empty demo loop. */
export const demoLoop = (
  id: string,
  name: string,
  brief: Omit<Brief, 'name' | 'kind'> & { kind?: Loop['kind'] },
): Loop => newLoop({ kind: 'loader', ...brief, name }, id)
